"""Where sections are cut, on plans: a heavy end at each side, arrows the way one looks, the letter, and on
paper the sheet it is drawn on."""

from collections.abc import Iterator
from typing import Final

from balken.drawing.dimensions import Frame, clear_of
from balken.drawing.marks import Disc, Label, Mark, Stroke
from balken.geometry.plane import Point, add, left, sub, unit
from balken.model.names import ThingName
from balken.model.paper import SectionLine
from balken.model.project import Project

RING: Final = 4.2
END: Final = 7.0
"""Of the line that is drawn at each end, mm of paper."""
PAST: Final = 38.0
"""Heads stand so far outside the strings next to the building, mm of paper: past heads of grids."""
REFERENCE: Final = "§"
"""Words that begin so name a view; on a sheet they become the number of the sheet it lies on."""


def section_marks(
    project: Project, frames: tuple[Frame, Frame], paper: float, *, on_paper: bool
) -> Iterator[Mark]:
    """All sections of a project.

    Args:
        project: the building.
        frames: round the building, and with its strings; ends outside are drawn on past the heads of grids.
        paper: mm of building to a mm of paper.
        on_paper: marks name the sheet of the section.
    """
    for line in project.paper.sections:
        yield from _marks(line, frames, paper, on_paper=on_paper)


def _marks(
    line: SectionLine, frames: tuple[Frame, Frame], paper: float, *, on_paper: bool
) -> Iterator[Mark]:
    key = ThingName("section", line.id)
    way = unit(sub(line.end, line.start))
    looks, back = left(way), (-way[0], -way[1])
    building, whole = frames
    start = clear_of(line.start, back, whole, PAST * paper, building)
    last = max(line.jogs, key=lambda j: j.at).ahead if line.jogs else 0.0
    stop = clear_of(add(line.end, looks, last), way, whole, PAST * paper, building)
    yield Stroke((start, *corners_of(line), stop), "centre", key)
    for a, b in zip(corners_of(line)[::2], corners_of(line)[1::2]):
        yield Stroke((a, b), "cut", key)
    for end, inwards in ((start, way), (stop, back)):
        yield Stroke((end, add(end, inwards, END * paper)), "cut", key)
        centre = add(end, inwards, -RING * paper)
        yield from _head(centre, looks, line.id, paper, key, on_paper=on_paper)


def corners_of(line: SectionLine) -> list[Point]:
    """Where a section steps, two places to each step, from its start on."""
    way = unit(sub(line.end, line.start))
    found: list[Point] = []
    ahead = 0.0
    for jog in sorted(line.jogs, key=lambda j: j.at):
        for off in (ahead, jog.ahead):
            found.append(add(add(line.start, way, jog.at), left(way), off))
        ahead = jog.ahead
    return found


def _head(
    centre: Point, looks: Point, letter: str, paper: float, key: ThingName, *, on_paper: bool
) -> Iterator[Mark]:
    tip = add(centre, looks, (RING + 2.4) * paper)
    across = left(looks)
    foot = [
        add(add(centre, looks, 0.72 * RING * paper), across, s * 0.7 * RING * paper)
        for s in (1, -1)
    ]
    yield Stroke((foot[0], tip, foot[1]), "seen", key)
    yield Disc(centre, RING, "seen", key)
    if on_paper:
        yield Stroke(
            (add(centre, (-1, 0), RING * paper), add(centre, (1, 0), RING * paper)), "hair"
        )
        yield Label(letter, add(centre, (0, 1), 0.6 * paper), 3.2, bold=True, key=key)
        sheet = add(centre, (0, -1), 3.1 * paper)
        yield Label(f"{REFERENCE}section:{letter}", sheet, 2.5, key=key)
    else:
        yield Label(letter, add(centre, (0, -1), 1.2 * paper), 3.2, bold=True, key=key)
