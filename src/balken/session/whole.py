"""Sizing the whole building at the desk: apart from the window, with how far it is, and a page of the
slip that says what changed since the building was opened, or sized the last time: from what to what,
and why."""

from functools import partial

from balken.fit.whole_sizing import Whole, size_whole
from balken.model.project import Project
from balken.session.desk import Desk, page
from balken.session.files import with_way_out
from balken.works.told_sizes import sizes_told


def size_the_building(desk: Desk) -> None:
    """Size everything, from the roof to the footings."""
    project, was = desk.project, desk.sizes_then
    desk.say("Sizing the whole building …  Esc leaves it.")
    desk.under_way = desk.face.apart_telling(
        lambda tell: size_whole(project, was, with_way_out(tell)),
        partial(_sized, desk, project),
        desk.say,
    )


def _sized(desk: Desk, asked: Project, whole: Whole) -> None:
    """Take the sizes in and show what changed; where the building was changed meanwhile, nothing
    is."""
    if desk.project is not asked:
        desk.say("The building was changed while it was sized: size it again.")
        return
    if whole.project is not asked:
        desk.edit("size the whole building", lambda _: whole.project)
    desk.whole = whole
    desk.sizes_then = sizes_told(desk.checked)
    over = f", {len(whole.left)} left over" if whole.left else ""
    count = len(whole.changes)
    desk.say(f"{count or 'No'} size{'' if count == 1 else 's'} changed{over}.")
    desk.select(page("sized"))
