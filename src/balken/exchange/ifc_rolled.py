"""Profiles in an IFC file, and the bodies of rolled steel: I and hollow sections pushed along their axis."""

from typing import Any

from balken.exchange.ifc_writer import IfcWriter
from balken.exchange.step_text import Ref
from balken.framing.member import Member
from balken.framing.rolled import is_rolled, lie_of
from balken.geometry.solid import cross3
from balken.model.sections import Section

Shown = tuple[Any, ...]
"""A shape, where it stands, and the directions of its frame where that is turned."""


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
    if item is not None and item.family == "steel hollow" and item.round:
        return f.add("IfcCircleHollowProfileDef", *common, item.depth / 2, item.web)
    if item is not None and item.family == "steel hollow":
        inner = max(0.0, item.radius - item.web)
        hollow = (item.breadth, item.depth, item.web, inner or None, item.radius or None)
        return f.add("IfcRectangleHollowProfileDef", *common, *hollow)
    return f.add("IfcRectangleProfileDef", *common, section.breadth, section.depth)


def rolled_shape(w: IfcWriter, m: Member, section: Section | None, body: Ref) -> Shown | None:
    """The body of a piece of rolled steel that is cut square; None of all others, which are as they are
    cut."""
    lies = lie_of(m, section) if section is not None and is_rolled(section) else None
    if section is None or lies is None:
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
