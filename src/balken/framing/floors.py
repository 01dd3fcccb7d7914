"""Joist floors and ceilings: joists between bearings, rims round the ends, subfloor on top."""

from itertools import pairwise
from typing import NamedTuple

from balken.framing.layout import (
    Row,
    carried,
    lost_changes,
    row_changes,
    row_names,
    rows,
    run_angle,
    to_local,
    to_plan,
)
from balken.framing.member import Framed, Member, MemberRole, Size, Strip, Support
from balken.geometry.plane import ANGLE, TOUCH, Point, Ring, box, crossings, distance, edges, signed_area, sub, unit
from balken.geometry.solid import side_profile, upright
from balken.model.catalogue import Section
from balken.model.project import BuildUp, Change, FloorArea

EDGE = 0.5
"""A bearing shorter than this is a touch, not a bearing, mm."""
END_ZONE = 12.0
"""A bearing whose edge lies within this of a joist row's end is the end bearing, mm."""
SIDE_WALL = 400.0
"""Inside walls stop at the face of a side wall; a joist over that wall still breaks where they would cross it, mm."""
MOSTLY = 0.9
"""A joist that lies on a wall over this share of its length rests on it all along."""
OnRow = tuple[str, float, float]
"""A bearing on a row: its name, from, to."""


class Bearing(NamedTuple):
    """A bearing in the local plan: its name, its ring with the box round it, and whether its long side lies square."""

    on: str
    ring: Ring
    box: tuple[float, float, float, float]
    square: bool


def local_strips(strips: tuple[Strip, ...], angle: float) -> tuple[list[Bearing], list[Bearing]]:
    """Return bearings that run across the joists, square or askew, and bearings that run along them, locally."""
    across: list[Bearing] = []
    along: list[Bearing] = []
    for strip in strips:
        ring = tuple(to_local(p, angle) for p in strip.ring)
        direction = unit(sub(*max(edges(ring), key=lambda e: distance(*e))[::-1]))
        found = Bearing(strip.on, ring, box(ring), abs(direction[1]) < ANGLE)
        (along if abs(direction[0]) < 4 * ANGLE else across).append(found)
    return across, along


def stretches(row: Row, across: list[Bearing], along: list[Bearing]) -> tuple[list[tuple[float, float]], list[OnRow]]:
    """Break a row over inside bearings.

    A row that lies on a side wall meets inside walls that stop at that wall's face, so bearings then count past their
    ends.

    Returns:
        The stretches between breaks, and the bearings on the row as (name, from, to).
    """
    reach = SIDE_WALL if any(_holds(bearing, row.x) for bearing in along) else TOUCH
    on_row: list[OnRow] = []
    for bearing in across:
        if bearing.box[0] - reach <= row.x <= bearing.box[2] + reach:
            cut = _across_at(bearing, row.x)
            on_row.append((bearing.on, max(cut[0], row.low), min(cut[1], row.high)))
    on_row = sorted((item for item in on_row if item[2] - item[1] > EDGE), key=lambda item: (item[1], item[0]))
    breaks = [(low + high) / 2 for _, low, high in on_row if low > row.low + END_ZONE and high < row.high - END_ZONE]
    marks = [row.low, *breaks, row.high]
    return list(pairwise(marks)), on_row


def _across_at(bearing: Bearing, x: float) -> tuple[float, float]:
    """Return from where to where a bearing reaches along a row. A square one has its full width, mitred ends or not."""
    x0, y0, x1, y1 = bearing.box
    if bearing.square:
        return y0, y1
    cut = crossings(bearing.ring, min(max(x, x0 + EDGE), x1 - EDGE))
    return (cut[0], cut[-1]) if len(cut) > 1 else (y0, y0)


def _holds(bearing: Bearing, x: float) -> bool:
    return bearing.box[0] - TOUCH <= x <= bearing.box[2] + TOUCH


def beneath(x: float, low: float, high: float, along: list[Bearing]) -> str:
    """Return the bearing that a stretch of a row lies on all along; empty where it spans."""
    for bearing in along:
        _, y0, _, y1 = bearing.box
        if _holds(bearing, x) and min(y1, high) - max(y0, low) > MOSTLY * (high - low):
            return bearing.on
    return ""


def rim_stretches(local: Ring, breadth: float) -> list[tuple[Point, Point]]:
    """Return the lines of the rims: along every side square to the joists, half a breadth inside."""
    found = []
    for a, b in edges(local):
        if abs(b[1] - a[1]) < ANGLE * distance(a, b):
            inward = breadth / 2 if b[0] > a[0] else -breadth / 2
            y = (a[1] + b[1]) / 2 + inward
            found.append(((min(a[0], b[0]), y), (max(a[0], b[0]), y)))
    return sorted(found, key=lambda e: (e[0][1], e[0][0]))


def frame_floor(
    floor: FloorArea,
    build_up: BuildUp,
    outline: Ring,
    strips: tuple[Strip, ...],
    bearing: float,
    size: Size,
    sections: dict[str, Section],
    changes: tuple[Change, ...],
    *,
    telling: bool = False,
) -> Framed:
    """Frame one floor or ceiling.

    Args:
        floor: the floor area.
        build_up: its build-up.
        outline: round the structure it lies on, mm.
        strips: what its joists can bear on.
        bearing: height of the bearings, mm.
        size: section and spacing of the joists.
        sections: the catalogue.
        changes: changes by hand on members of this floor.
        telling: leave out rows that are just like the one before, all but the last: what a choice of size needs.

    Raises:
        LayoutError: more joists than any building has.
    """
    section = sections[size.section]
    angle = run_angle(outline, floor.span)
    local = tuple(to_local(p, angle) for p in outline)
    host = f"floor:{floor.id}"
    by_name = {c.member: c for c in changes}
    ceiling = build_up.use == "ceiling"
    role: MemberRole = "ceiling joist" if ceiling else "joist"
    rim = 0.0 if ceiling else section.breadth
    material = f"{build_up.species} {build_up.grade}"
    shifts, removed = row_changes(f"{host}/joist:", changes)
    across, along = local_strips(strips, angle)
    members: list[Member] = []
    places = row_names(local, section.breadth, size.spacing)
    rows_ = rows(local, section.breadth, size.spacing, shifts, removed)
    like: object = None
    for row in rows_:
        spans, on_row = stretches(row, across, along)
        if telling and row is not rows_[-1]:
            lies = [(round(a, 6), round(b, 6), beneath(row.x, a, b, along)) for a, b in spans]
            this = ([(on, round(a, 6), round(b, 6)) for on, a, b in on_row], lies)
            if this == like:
                continue
            like = this
        areas = carried(local, row, spans)
        for i, ((low, high), area) in enumerate(zip(spans, areas)):
            name = f"{host}/joist:{row.name}{chr(97 + i % 26)}"
            change = by_name.get(name)
            piece = sections[change.section] if change and change.section else section
            start = low + (rim if low == row.low else 0.0)
            end = high - (rim if high == row.high else 0.0)
            if end - start < TOUCH:
                continue
            supports = _end_supports(on_row, (start, end), row.x, angle, beneath(row.x, low, high, along))
            mark = f"{floor.id}-J{row.name}{chr(97 + i % 26)}"
            members.append(
                _joist(name, mark, role, floor, piece, material, angle, row.x, (start, end), (low, high), bearing, supports,
                       area, change is not None)
            )  # fmt: skip
    if not ceiling:
        members += _rims(floor, local, angle, section, material, bearing, by_name)
        members += _subfloor(floor, build_up, outline, bearing + section.depth)
    return Framed(tuple(members), lost_changes(members, changes, places))


def _joist(
    name: str, mark: str, role: MemberRole, floor: FloorArea, section: Section, material: str, angle: float, x: float,
    body: tuple[float, float], carries: tuple[float, float], bearing: float,
    supports: tuple[Support, ...], area: float, touched: bool,
) -> Member:  # fmt: skip
    start, end = body
    a, b = to_plan((x, start), angle), to_plan((x, end), angle)
    direction = unit(sub(b, a))
    profile: Ring = (
        (0.0, bearing), (end - start, bearing), (end - start, bearing + section.depth), (0.0, bearing + section.depth),
    )  # fmt: skip
    middle = bearing + section.depth / 2
    return Member(
        name, mark, role, f"floor:{floor.id}", floor.level, section.name, material,
        side_profile(a, direction, profile, section.breadth), (*a, middle), (*b, middle), end - start, end - start,
        ("square", "square"), supports, area, (carries[0] - start, carries[1] - start),
        touched=touched,
    )  # fmt: skip


def _end_supports(
    on_row: list[OnRow], body: tuple[float, float], x: float, angle: float, under: str
) -> tuple[Support, ...]:
    start, end = body
    if under:  # rests all along: each half bears on the wall beneath it
        half = (end - start) / 2
        places = (start + half / 2, end - half / 2)
        return tuple(Support(p - start, half, under, to_plan((x, p), angle)) for p in places)
    reached = [(on, max(lo, start), min(hi, end)) for on, lo, hi in on_row if min(hi, end) - max(lo, start) > EDGE]
    middle = (start + end) / 2
    first = next((r for r in reached if r[1] < middle), None)
    last = next((r for r in reversed(reached) if r[2] > middle and r is not first), None)

    def support(found: OnRow | None, place: float) -> Support:
        if found is None:
            return Support(place - start, 0.0, "", to_plan((x, place), angle))
        at = (found[1] + found[2]) / 2
        return Support(at - start, found[2] - found[1], found[0], to_plan((x, at), angle))

    return support(first, start), support(last, end)


def _rims(
    floor: FloorArea, local: Ring, angle: float, section: Section, material: str, bearing: float,
    by_name: dict[str, Change],
) -> list[Member]:  # fmt: skip
    found = []
    for i, (la, lb) in enumerate(rim_stretches(local, section.breadth), 1):
        name = f"floor:{floor.id}/rim:{i:02d}"
        change = by_name.get(name)
        if change and change.removed:
            continue
        a, b = to_plan(la, angle), to_plan(lb, angle)
        length = distance(a, b)
        top = bearing + section.depth
        profile: Ring = ((0.0, bearing), (length, bearing), (length, top), (0.0, top))
        z = (bearing + top) / 2
        found.append(
            Member(
                name, f"{floor.id}-R{i:02d}", "rim", f"floor:{floor.id}", floor.level, section.name, material,
                side_profile(a, unit(sub(b, a)), profile, section.breadth), (*a, z), (*b, z), length, length,
                ("square", "square"), touched=change is not None,
            )
        )  # fmt: skip
    return found


def _subfloor(floor: FloorArea, build_up: BuildUp, outline: Ring, bottom: float) -> list[Member]:
    if build_up.subfloor <= 0:
        return []
    ring = outline if signed_area(outline) > 0 else outline[::-1]
    x0, y0, x1, y1 = box(ring)
    z = bottom + build_up.subfloor / 2
    solid = upright(ring, bottom, bottom + build_up.subfloor)
    return [
        Member(
            f"floor:{floor.id}/subfloor:01", f"{floor.id}-D01", "subfloor", f"floor:{floor.id}", floor.level,
            f"{build_up.subfloor:g} mm", "wood structural panel", solid, (x0, y0, z), (x1, y1, z), x1 - x0, x1 - x0,
        )
    ]  # fmt: skip
