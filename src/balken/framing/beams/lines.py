"""Where beams lie: the axes of single beams, and of the beams that fill a bay."""

import math
from collections.abc import Sequence
from typing import Final

import msgspec

from balken.errors import BalkenError
from balken.framing.layout import Layout, spaced
from balken.geometry.plane import (
    EXACT,
    TOUCH,
    Point,
    Ring,
    add,
    box,
    crossings,
    distance,
    rotate,
    signed_area,
    sub,
    unit,
)
from balken.model.beams import MOST_IN_BAY, Beam, BeamBay, BeamEnd, BeamKind
from balken.model.cases import NOTHING, Cases
from balken.model.grids import crossing, grid_line
from balken.model.names import HostName, MemberName
from balken.model.project import Project, grid
from balken.model.sections import Section
from balken.recall import remembered_piece

SHORTEST: Final = 150.0
"""In the corner of a triangle a beam shorter than this is left out, mm."""


class BayError(BalkenError):
    """A bay that cannot be filled; the text says why."""


class Axis(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """One beam in plan before it is fitted to what it meets."""

    host: HostName
    """A beam or a bay."""
    number: int
    level: str
    a: Point
    b: Point
    kind: BeamKind
    through: bool = True
    hinges: tuple[float, ...] = ()
    loads: Cases = NOTHING
    out: tuple[float, float] = (0.0, 0.0)

    @property
    def key(self) -> MemberName:
        """Its lasting name among axes."""
        return MemberName(self.host, "beam", str(self.number))


def ends_of(project: Project, beams: Sequence[Beam]) -> dict[BeamEnd, Point | None]:
    """Where all ends of beams lie; many meet at one crossing."""
    lines = {of.id: (of, {x.id: x for x in of.lines}) for of in project.grids}
    found: dict[BeamEnd, Point | None] = {}
    for end in (e for beam in beams for e in (beam.start, beam.end)):
        if end in found:
            continue
        if not end.grid:
            found[end] = end.at
            continue
        of, named = lines[end.grid]
        point = crossing(of, named[end.lines[0]], named[end.lines[1]])
        found[end] = add(point, rotate(end.at, math.radians(of.angle))) if point else None
    return found


def bay_outline(project: Project, bay: BeamBay) -> Ring | None:
    """The outline of a bay, counter-clockwise; None where its lines do not meet in four
    corners.

    On a grid side 0 lies on the first of the first pair of lines, the last side on the first of the
    second pair.
    """
    if not bay.grid:
        ring = tuple(bay.corners)
        return ring if len(ring) > 2 else None
    of = grid(project, bay.grid)
    (p, q), (r, s) = bay.first, bay.second
    corners = [
        crossing(of, grid_line(of, a), grid_line(of, b))
        for a, b in ((p, r), (p, s), (q, s), (q, r))
    ]
    if any(c is None for c in corners):
        return None
    return tuple(c for c in corners if c is not None)


def bay_axes(project: Project, bay: BeamBay, section: Section) -> list[Axis]:
    """The axes of the beams in a bay, in order across it.

    Raises:
        BayError: the outline crosses itself or is not there, or the spacing sets nothing or far too
            much out.
    """
    ring = _whole_outline(project, bay)
    # Of a bay of the grid the beams are counted from its first lines, either way.
    side = 3 * (bay.along % 2) if bay.grid else bay.along % len(ring)
    a, b = ring[side], ring[(side + 1) % len(ring)]
    way = unit(sub(b, a))
    angle = math.atan2(way[1], way[0]) + math.radians(bay.turn)
    local = tuple(_to_local(p, angle) for p in ring)
    _, y0, _, y1 = box(local)
    base = _to_local(a, angle)[1]
    upward = abs(y1 - base) >= abs(base - y0)
    found: list[Axis] = []
    for offset in _offsets(bay, section, y1 - y0):
        y = y0 + offset if upward else y1 - offset
        cuts = crossings(tuple((p[1], p[0]) for p in local), y)
        loads = Cases(bay.dead, bay.live) * _width(bay, offset, y1 - y0)
        for lo, hi in zip(cuts[::2], cuts[1::2]):
            if hi - lo > SHORTEST:
                ends = (_from_local((lo, y), angle), _from_local((hi, y), angle))
                host, number = HostName("bay", bay.id), len(found) + 1
                found.append(Axis(host, number, bay.level, *ends, bay.kind, loads=loads))
    return found


def _whole_outline(project: Project, bay: BeamBay) -> Ring:
    ring = bay_outline(project, bay)
    if ring is None:
        raise BayError("its lines do not cross in four corners")
    if crosses_itself(ring):
        raise BayError("its outline crosses itself: its lines meet inside the bay")
    if abs(signed_area(ring)) < TOUCH * TOUCH:
        raise BayError("it has no area")
    return ring


def _offsets(bay: BeamBay, section: Section, width: float) -> list[float]:
    """How far from the side each beam of a bay stands; none stands on the sides."""
    if bay.rule == "count":
        return _by_count(bay.count, width)
    pitch = bay.spacing + (section.breadth if bay.rule == "clear" else 0.0)
    if pitch < TOUCH:
        raise BayError(f"a spacing of {bay.spacing:g} mm sets nothing out")
    if width / pitch > MOST_IN_BAY:
        raise _too_many(int(width / pitch))
    if bay.rule in ("maximum", "equal"):
        places = spaced(width, Layout(0.0, bay.spacing, bay.rule))
    else:
        first = bay.begin or pitch
        count = int((width - first - section.breadth / 2) / pitch + EXACT) + 1
        places = [first + k * pitch for k in range(max(0, count))]
    return [x for x in places if TOUCH < x < width - TOUCH]


def _by_count(count: int, width: float) -> list[float]:
    if count < 1:
        raise BayError("it is to hold no beams")
    if count > MOST_IN_BAY:
        raise _too_many(count)
    return [width * (k + 1) / (count + 1) for k in range(count)]


def _too_many(count: int) -> BayError:
    return BayError(f"{count} beams are more than any bay holds")


def _width(bay: BeamBay, offset: float, width: float) -> float:
    """The width of the bay that one beam carries, for what is typed on the bay, mm."""
    if bay.rule == "count":
        return width / (bay.count + 1)
    return min(bay.spacing, width)


def crosses_itself(ring: Ring) -> bool:
    """Whether sides of an outline cross or touch others than their neighbours."""
    from shapely import LinearRing

    return not LinearRing(ring).is_simple


def _to_local(p: Point, angle: float) -> Point:
    return rotate(p, -angle)


def _from_local(p: Point, angle: float) -> Point:
    x, y = rotate(p, angle)
    return round(x, 4), round(y, 4)


def lines_of(
    project: Project, sections: dict[str, Section]
) -> tuple[list[Axis], list[tuple[HostName, str]]]:
    """The axes of all beams, and the hosts that have none with the reason."""
    found: list[Axis] = []
    faults: list[tuple[HostName, str]] = []
    known = ends_of(project, project.beams)
    for beam in project.beams:
        ends = known[beam.start], known[beam.end]
        if ends[0] is None or ends[1] is None:
            faults.append((HostName("beam", beam.id), "the grid lines it ends at no longer cross"))
        elif distance(*ends) < TOUCH:  # type: ignore[arg-type]
            faults.append((HostName("beam", beam.id), "both its ends lie at one place"))
        else:
            found.append(_axis(beam, ends[0], ends[1]))
    for bay in project.bays:
        try:
            axes = bay_axes(project, bay, section_for(bay.kind, sections))
        except BayError as error:
            faults.append((HostName("bay", bay.id), str(error)))
            continue
        if not axes:
            faults.append((HostName("bay", bay.id), "no beam fits into it at this spacing"))
        found += axes
    return found, faults


@remembered_piece
def _axis(beam: Beam, a: Point, b: Point) -> Axis:
    return Axis(
        HostName("beam", beam.id),
        1,
        beam.level,
        a,
        b,
        beam.kind,
        beam.through,
        beam.hinges,
        beam.loads,
        beam.out,
    )


def section_for(kind: BeamKind, sections: dict[str, Section]) -> Section:
    """What a beam is cut from: what was chosen, or the largest it may be until the
    calculation has chosen."""
    if kind.section:
        return sections[kind.section]
    return max((sections[name] for name in kind.sizes), key=lambda s: (s.breadth * s.depth, s.name))
