"""What of a set takes long and does not hang on the paper: the lines of upright views, and the schedules,
worked out on all cores where that can be."""

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any, NamedTuple

from balken.drawing.marks import Drawing
from balken.drawing.paper.schedules import schedules_of, schedules_on
from balken.drawing.paper.tables import Table
from balken.drawing.paper.views import Drawn, Lines
from balken.drawing.tiers import tiers
from balken.processes import side_by_side
from balken.progress import Tell, unheard
from balken.works.building import Checked


class Schedules(NamedTuple):
    """All tables of a set."""

    beside: dict[str, tuple[Table, ...]]
    """Of each plan, by its lasting name."""
    every: tuple[Table, ...]


def work_ahead(checked: Checked, views: Sequence[Drawn], tell: Tell = unheard) -> Schedules:
    """Work out the lines of views, which are put into them, and the schedules of a building.

    Args:
        checked: the building.
        views: of its set.
        tell: takes in what is worked out; what it raises ends the work.
    """
    waiting = [(v.title, v.lines) for v in views if v.lines is not None and v.lines.made is None]
    waiting.sort(key=lambda x: -x[1].bodies)
    works: list[Callable[[], Any]] = [partial(_drawn, *one, tell) for one in waiting]
    second = min(1, len(works))  # one view takes longer than the schedules, no more than one
    works.insert(second, partial(_schedules, checked, tell))
    found = side_by_side(works)
    schedules: Schedules = found.pop(second)
    for (_, lines), made in zip(waiting, found):
        lines.made = made
    return schedules


def _drawn(title: str, lines: Lines, tell: Tell) -> Drawing:
    tell(f"{title} …")
    return lines.make()


def _schedules(checked: Checked, tell: Tell) -> Schedules:
    tell("Schedules …")
    beside = {f"plan:{t.id}": tuple(schedules_on(checked, t)) for t in tiers(checked)}
    return Schedules(beside, tuple(schedules_of(checked)))
