"""The frames of valleys for a sheet: those that one roof sets on another, side by side, each with its mark,
its length along the roof below, its height, and its pieces as they are cut."""

from collections.abc import Iterator
from typing import Final

from balken.design.short_pieces import is_jack_tie
from balken.drawing.dimensions import chain
from balken.drawing.marks import Drawing, Label, Mark, Patch
from balken.drawing.words import pretty
from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.plane import box
from balken.model.names import HostName
from balken.units import format_length
from balken.works.building import Checked

APART: Final = 30.0
"""Between two frames on the sheet, mm of paper."""


def valley_frames(checked: Checked, host: HostName) -> dict[str, list[Member]]:
    """The frames a roof sets on others, by their row: what of its trusses' pieces is part of no truss, and
    no tie of a jack."""
    roof = checked.trusses.get(host)
    placed = {t.row for t in roof.placed} if roof is not None else set()
    found: dict[str, list[Member]] = {}
    for m in checked.structure.in_host(host, kinds.BOTTOM_CHORD, kinds.TOP_CHORD, kinds.WEB):
        if m.id.row not in placed and not is_jack_tie(m):
            found.setdefault(m.id.row, []).append(m)
    return found


def valley_drawing(checked: Checked, host: HostName, paper: float) -> Drawing:
    """All frames that a roof sets on others, in mm of building.

    Args:
        checked: the building.
        host: the roof.
        paper: mm of building to a mm of paper.
    """
    marks: list[Mark] = []
    x = 0.0
    for row, pieces in valley_frames(checked, host).items():
        low, foot, high, _ = box([p for m in pieces for p in m.solid.outline])
        marks += _frame(checked, row, pieces, (x - low, -foot), paper)
        x += high - low + APART * paper
    return tuple(marks)


def _frame(
    checked: Checked, row: str, pieces: list[Member], by: tuple[float, float], paper: float
) -> Iterator[Mark]:
    """One frame, moved to its place on the sheet."""
    rings = [tuple((s + by[0], z + by[1]) for s, z in m.solid.outline) for m in pieces]
    for m, ring in zip(pieces, rings):
        yield Patch(ring, "timber", "seen", m.id)
    low, foot, high, top = box([p for ring in rings for p in ring])
    system = checked.project.system
    yield Label(row, ((low + high) / 2, top + 6 * paper), 3.0, bold=True)
    yield from chain([(low, foot), (high, foot)], (0.0, -1.0), 8 * paper, paper, system)
    yield from chain([(high, foot), (high, top)], (1.0, 0.0), 8 * paper, paper, system)


NAMES: Final = {kinds.BOTTOM_CHORD: "plate", kinds.TOP_CHORD: "rafter", kinds.WEB: "post"}
"""What the pieces of a frame are called on the sheet."""


def valley_notes(checked: Checked, host: HostName) -> Iterator[str]:
    """A line for each frame: its pieces with their sections and lengths."""
    system = checked.project.system
    for row, pieces in valley_frames(checked, host).items():
        words = (
            f"{NAMES[m.kind]} {pretty(m.section)} {format_length(m.length, system)}" for m in pieces
        )
        yield f"{row}: {', '.join(words)}"
    yield "Plates lie flat on the sheathing of the roof below; ends are cut to its slope."
