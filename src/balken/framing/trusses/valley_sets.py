"""Frames set on one roof where another runs on to it: each a pair of rafters with a plate on the
roof below, smaller and smaller up to the end of the valleys. What lies on them lies on the roof
below, which is framed as if they were not there."""

import math
from collections.abc import Iterable, Sequence
from typing import Final

from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.layout import to_local, to_plan
from balken.framing.member import Member, blank_of
from balken.framing.roofs.over_framing import SHEATHING
from balken.framing.roofs.rafters import main_run
from balken.framing.roofs.shape import RoofShape
from balken.geometry.plane import Point, Ring, add, box, crossings, distance, signed_area, sub, unit
from balken.geometry.roof_planes import Face
from balken.geometry.solid import side_profile
from balken.model.names import HostName, MemberName
from balken.model.roofs import RoofArea
from balken.model.sections import Section
from balken.recall import remembered

VALLEY_FRAME: Final = "valley frame"
"""What a roof's frames on another roof are called where their section is chosen."""
SMALLEST: Final = 300.0
"""A frame that is narrower is left out, mm."""
FLAT: Final = 0.02
"""A rafter that rises no more than this over the roof below is none."""
LEAST_AREA: Final = 500.0
"""Of the side of a piece, mm²."""
POST_FROM: Final = 600.0
"""A frame that is higher has a post under its ridge, mm."""


@remembered
def valley_set(
    roof: RoofArea,
    shape: RoofShape,
    seen: tuple[Face, ...],
    others: tuple[Face, ...],
    section: Section,
    spacing: float,
) -> list[Member]:
    """The frames of a roof past the sides where it runs on to others.

    Args:
        roof: the roof that runs on.
        shape: its shape as it runs on.
        seen: what is seen of its planes.
        others: the planes it runs on to.
        section: what the frames are cut from.
        spacing: between them, mm.
    """
    angle = main_run(shape)
    ring = [to_local(p, angle) for p in shape.ring]
    x0, _, x1, _ = box(ring)
    faces = [(f, [to_local(p, angle) for p in f.outline]) for f in seen]
    if not faces:
        return []
    far0, _, far1, _ = box([p for _, outline in faces for p in outline])
    found: list[Member] = []
    n = 0
    for start, step, end in ((x1, spacing, far1), (x0, -spacing, far0)):
        x = start + step / 2
        while (end - x) * step > 0:
            frame = list(_frame(roof, faces, others, section, angle, x, n + 1))
            if frame:
                n += 1
                found += frame
            x += step
    return found


def _frame(
    roof: RoofArea,
    faces: Sequence[tuple[Face, list[Point]]],
    others: Sequence[Face],
    section: Section,
    angle: float,
    x: float,
    n: int,
) -> Iterable[Member]:
    marks = sorted(
        (y, f.height(to_plan((x, y), angle))) for f, outline in faces for y in crossings(outline, x)
    )
    if len(marks) < 2 or marks[-1][0] - marks[0][0] < SMALLEST:
        return
    a, b = marks[0], marks[-1]
    apex = max(marks, key=lambda m: m[1])
    start, way = (
        to_plan((x, a[0]), angle),
        unit(sub(to_plan((x, b[0]), angle), to_plan((x, a[0]), angle))),
    )

    def at(mark: Point) -> Point:
        return mark[0] - a[0], mark[1]

    low = [(s, z + SHEATHING) for s, z in (at(a), at(b))]
    base = [(low[0][0], low[0][1]), (low[1][0], low[1][1])]
    lift = section.breadth * math.hypot(
        1.0, (base[1][1] - base[0][1]) / max(base[1][0] - base[0][0], 1.0)
    )
    host, mark = HostName("roof", roof.id), f"{roof.id}-V{n:02d}"

    def piece(
        kind: MemberKind, number: str, suffix: str, outline: Ring, p: Point, q: Point, wide: float
    ) -> Member:
        solid = side_profile(start, way, outline, wide)
        low, high = (*add(start, way, p[0]), p[1]), (*add(start, way, q[0]), q[1])
        blank = blank_of(solid, low, high)
        return Member(
            MemberName(host, kind.role, f"V{n:02d}", number),
            mark + suffix,
            kind,
            host,
            roof.plate,
            section.name,
            f"{roof.species} {roof.grade}",
            solid,
            low,
            high,
            min(distance(p, q), blank),
            blank,
            ("sloped to the roof", "sloped to the roof"),
        )

    (s0, z0), (s1, z1) = base
    # The plate lies flat on the roof below; its ends taper out under the rafters, so it is drawn as
    # long as they leave room.
    plate = ((s0, z0), (s1, z1), (s1, z1 + 1.0), (s0, z0 + 1.0))
    inner = _inset(at(a), at(apex), at(b), lift)
    if inner is not None:
        plate = ((s0, z0), (s1, z1), inner[1], inner[0])
    yield piece(kinds.BOTTOM_CHORD, "", "", plate, (s0, z0), (s1, z1), section.depth)
    for k, (p, q) in enumerate(((at(a), at(apex)), (at(apex), at(b))), 1):
        if q[0] - p[0] < 50.0:
            continue
        slope = (q[1] - p[1]) / (q[0] - p[0])
        plumb = min(
            section.depth * math.hypot(1.0, slope), 0.9 * max(p[1], q[1]) - 0.9 * min(p[1], q[1])
        )
        ring = _above(p, q, plumb, base, lift)
        if len(ring) < 3 or abs(signed_area(ring)) < LEAST_AREA:
            continue
        yield piece(kinds.TOP_CHORD, str(k), f"T{k}", ring, p, q, section.breadth)
    height = apex[1] - (z0 + z1) / 2
    if height > POST_FROM:
        s, z = at(apex)
        half = section.depth / 2
        foot = z0 + (z1 - z0) * (s - s0) / (s1 - s0) + lift
        top = z - section.depth * 1.2
        ring = ((s - half, foot), (s + half, foot), (s + half, top), (s - half, top))
        yield piece(kinds.WEB, "1", "W1", ring, (s, foot), (s, top), section.breadth)


def _above(p: Point, q: Point, plumb: float, base: Sequence[Point], lift: float) -> Ring:
    """A rafter between its top edge and the plate on the roof below: its foot tapers out on
    it."""
    (s0, z0), (s1, z1) = base
    rise = (z1 - z0) / (s1 - s0)
    slope = (q[1] - p[1]) / (q[0] - p[0])
    if abs(slope - rise) < FLAT:
        return ()

    def floor(s: float) -> float:
        return z0 + rise * (s - s0) + lift

    def under(s: float) -> float:
        return p[1] + slope * (s - p[0]) - plumb

    low, high = (p, q) if p[1] < q[1] else (q, p)
    top_meets = _meets(p, slope, z0 + lift - rise * s0, rise)
    under_meets = _meets((p[0], p[1] - plumb), slope, z0 + lift - rise * s0, rise)
    foot_top = (top_meets, floor(top_meets))
    foot_under = (under_meets, floor(under_meets))
    ring = [foot_top, foot_under, (high[0], under(high[0])), high]
    del low
    return tuple(ring if p[1] < q[1] else ring[::-1])


def _meets(p: Point, slope: float, base: float, rise: float) -> float:
    """Where a line through a place meets another."""
    return (base - p[1] + slope * p[0]) / (slope - rise)


def _inset(a: Point, apex: Point, b: Point, lift: float) -> tuple[Point, Point] | None:
    """The ends of the plate's upper edge, under the top edges of the rafters."""
    if apex[0] - a[0] < 1.0 or b[0] - apex[0] < 1.0:
        return None
    up, down = (apex[1] - a[1]) / (apex[0] - a[0]), (b[1] - apex[1]) / (b[0] - apex[0])
    rise = (b[1] - a[1]) / (b[0] - a[0])
    left_s = a[0] + (SHEATHING + lift) / max(up - rise, 1e-3)
    right_s = b[0] - (SHEATHING + lift) / max(rise - down, 1e-3)
    if right_s - left_s < 10.0:
        return None
    base = a[1] + SHEATHING + lift
    return (left_s, base + rise * (left_s - a[0])), (right_s, base + rise * (right_s - a[0]))
