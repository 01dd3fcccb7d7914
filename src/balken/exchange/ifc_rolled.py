"""Profiles in an IFC file, and the bodies of rolled steel: I and hollow sections pushed along their axis."""

from itertools import permutations
from typing import Any, Final

from balken.exchange.ifc_writer import IfcWriter
from balken.exchange.step_text import Ref
from balken.framing.member import Member
from balken.geometry.solid import Vector, cross3
from balken.model.sections import STEEL, Section

Shown = tuple[Any, ...]
"""A shape, where it stands, and the directions of its frame where that is turned."""
NEAR: Final = 1.0
"""A side of a body has the length of what it is cut from within this, mm."""


def profile_of(w: IfcWriter, section: Section) -> Ref:
    """The profile of a section about its middle: its breadth along x, its depth along y; once a file."""
    return w.once(("profile", section.name), lambda: _profile(w, section))


def _profile(w: IfcWriter, section: Section) -> Ref:
    f, item = w.f, section.product
    at = f.add("IfcAxis2Placement2D", w.point(0, 0), None)
    common = ("AREA", section.name, at)
    if item is not None and item.family == "steel i":
        sizes = (item.breadth, item.depth, item.web, item.flange, item.radius or None)
        return f.add("IfcIShapeProfileDef", *common, *sizes)
    if item is not None and item.family == "steel hollow":
        inner = max(0.0, item.radius - item.web)
        hollow = (item.breadth, item.depth, item.web, inner or None, item.radius or None)
        return f.add("IfcRectangleHollowProfileDef", *common, *hollow)
    return f.add("IfcRectangleProfileDef", *common, section.breadth, section.depth)


def rolled_shape(w: IfcWriter, m: Member, section: Section | None, body: Ref) -> Shown | None:
    """The body of a piece of rolled steel that is cut square; None of all others, which are as they are
    cut."""
    if section is None or section.family not in STEEL or m.solid.across:
        return None
    lies = _lies(m, section)
    if lies is None:
        return None
    start, along, up, length = lies
    length = round(length, 6)

    def make() -> Ref:
        f = w.f
        pushed = f.add(
            "IfcExtrudedAreaSolid",
            profile_of(w, section),
            w.level_frame(),
            w.way(0, 0, 1),
            length,
        )
        return f.add("IfcShapeRepresentation", body, "Body", "SweptSolid", [pushed])

    shape = w.shape(("rolled", section.name, length), body, make)
    return shape, start, w.way(*along), w.way(*cross3(up, along))


def _lies(m: Member, section: Section) -> tuple[Vector, Vector, Vector, float] | None:
    """The middle of one end of a square piece, the directions of its axis and of its depth, and its length;
    None where its body is no such box."""
    solid = m.solid
    if len(solid.outline) != 4:
        return None
    xs, ys = [x for x, _ in solid.outline], [y for _, y in solid.outline]
    if {(round(x, 3), round(y, 3)) for x, y in solid.outline} != {
        (round(x, 3), round(y, 3)) for x in (min(xs), max(xs)) for y in (min(ys), max(ys))
    }:
        return None
    ends = ((min(xs), max(xs)), (min(ys), max(ys)), (0.0, solid.depth))
    ways = (solid.u, solid.v, solid.normal)
    wanted = (m.length, section.depth, section.breadth)
    for order in permutations(range(3)):
        sides = [ends[n][1] - ends[n][0] for n in order]
        if any(abs(a - b) > NEAR for a, b in zip(sides, wanted)):
            continue
        along, up, _ = order
        middle = [(low + high) / 2 for low, high in ends]
        middle[along] = ends[along][0]
        x, y, z = (
            o + sum(far * way[axis] for far, way in zip(middle, ways))
            for axis, o in enumerate(solid.origin)
        )
        return (x, y, z), ways[along], ways[up], sides[0]
    return None
