"""Findings on the frames of walls: what of an opening cannot be framed, and by how much."""

from collections.abc import Iterable
from functools import partial
from typing import Final

from balken.fit.finding import Finding, Mend, length_text
from balken.model.edits.hosts import take_back
from balken.model.names import HostName, ThingName
from balken.model.project import wall
from balken.model.walls import arc_middle, called
from balken.works.building import Checked

CARRY: Final = frozenset(["wall header", "lintel", "jack stud"])
"""What of a wall's frame carries alone: its neighbours take nothing over."""


def wall_findings(checked: Checked) -> Iterable[Finding]:
    """Openings that no frame goes round as they are, and those from which it was taken away by hand."""
    yield from _not_framed(checked)
    yield from _taken_away(checked)


def _taken_away(checked: Checked) -> Iterable[Finding]:
    """Headers, lintels and jacks that are taken away by hand: nothing else carries what they did."""
    project = checked.project
    walls = {HostName("wall", w.id): w for w in project.walls}
    for change in project.changes:
        name = change.member
        item = walls.get(name.host)
        if not change.removed or item is None or name.family not in CARRY:
            continue
        yield Finding(
            "unchecked",
            f"{name.family} at {name.row}, {called(item)}",
            1.0,
            "count",
            f"The {name.family} at opening {name.row} of {called(item)} is taken away by hand: what"
            " comes down there is carried by nothing that is checked. Put it back, or take the opening"
            " away.",
            ThingName("walls", item.base),
            at=arc_middle(item),
            mend=Mend("Put it back", partial(take_back, members=(name,))),
        )


def _not_framed(checked: Checked) -> Iterable[Finding]:
    project = checked.project
    for host, lacks in checked.structure.lacks.items():
        item = wall(project, host.key)
        for lack in lacks:
            by = length_text(project, lack.short)
            yield Finding(
                "not framed",
                f"{lack.hole}, {called(item)}",
                lack.short,
                "mm",
                f"{lack.hole} in {called(item)} {lack.words}: {by} are lacking. Move it, make it"
                " smaller, or change how the wall is framed.",
                ThingName("walls", item.base),
                at=arc_middle(item),
            )
