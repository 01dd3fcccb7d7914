"""The set of sheets of a building: which there are, in order, each laid when it is asked for."""

from collections.abc import Callable, Iterable
from functools import partial
from itertools import count
from typing import NamedTuple

from balken.drawing.sheet import (
    Sheet,
    plan_sheet,
    title_of,
    truss_kinds,
    truss_sheet,
    upright_sheet,
    wall_sheet,
    wall_sheet_title,
)
from balken.drawing.tiers import tiers
from balken.drawing.upright import SIDES, looking
from balken.drawing.wall_elevation import framed_walls
from balken.fit.finding import Finding
from balken.works.building import Checked


class Page(NamedTuple):
    """A sheet that is not laid yet: its number and title are known, its drawing is work."""

    number: str
    title: str
    lay: Callable[[], Sheet]


def pages_of(checked: Checked, findings: tuple[Finding, ...], date: str) -> tuple[Page, ...]:
    """The plans from the foundation up, the four elevations, framed walls, then the trusses."""
    numbers = (f"S{n}" for n in count(1))
    return tuple(
        Page(number, title, partial(lay, number=number, date=date))
        for number, (title, lay) in zip(numbers, _titled(checked, findings))
    )


def sheets_of(checked: Checked, findings: tuple[Finding, ...], date: str) -> tuple[Sheet, ...]:
    """All sheets, laid."""
    return tuple(page.lay() for page in pages_of(checked, findings, date))


def _titled(
    checked: Checked, findings: tuple[Finding, ...]
) -> Iterable[tuple[str, Callable[..., Sheet]]]:
    for tier in tiers(checked):
        yield title_of(tier), partial(plan_sheet, checked, tier, findings=findings)
    if checked.project.walls:
        for side in SIDES:
            title = f"{side.capitalize()} elevation"
            yield title, partial(upright_sheet, checked, looking(checked.project, side), title)
    for host in framed_walls(checked):
        title = wall_sheet_title(checked.project, host)
        yield title, partial(wall_sheet, checked, host)
    for kind in truss_kinds(checked):
        yield kind.title, partial(truss_sheet, checked, kind)
