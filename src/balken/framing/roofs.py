"""Gable roofs: pairs of rafters against a ridge board, with birdsmouth, plumb cuts and overhang."""

import math

import msgspec

from balken.framing.layout import (
    Layout,
    Row,
    lost_changes,
    row_changes,
    row_names,
    rows,
    run_angle,
    to_local,
    to_plan,
)
from balken.framing.member import Framed, Member, Size, Strip, Support, framed_of
from balken.geometry.plane import TOUCH, Point, Ring, box, distance, distance_to_ring, sub, unit
from balken.geometry.solid import side_profile
from balken.model.project import Change, GableRoof
from balken.model.sections import Section
from balken.units import INCH, System, format_run

COMMON_SEAT = 3.5 * INCH
"""Level seat of a birdsmouth where none is typed, at most the plate; common practice, no source."""


class RafterShape(msgspec.Struct, frozen=True):
    """A common rafter in its own plane: run from the outer face of the wall inward, heights from the plate, mm."""

    slope: float
    depth: float
    seat: float
    overhang: float
    reach: float
    """Run from the outer face of the wall to the face of the ridge board."""

    @property
    def angle(self) -> float:
        """Slope in radians."""
        return math.atan(self.slope)

    @property
    def plumb(self) -> float:
        """Length of a plumb cut."""
        return self.depth / math.cos(self.angle)

    @property
    def height_above_plate(self) -> float:
        """Plumb height of wood above the plate at the outer face of the wall."""
        return self.plumb - self.seat * self.slope

    @property
    def length(self) -> float:
        """Length along the slope from the outer face of the wall to the ridge board, without tail."""
        return self.reach / math.cos(self.angle)

    @property
    def tail(self) -> float:
        """Length of the tail along the slope."""
        return self.overhang / math.cos(self.angle)

    @property
    def blank(self) -> float:
        """Shortest square-ended piece the rafter can be cut from: plumb cuts at both ends slant across its depth."""
        return self.length + self.tail + self.depth * self.slope

    @property
    def notch(self) -> float:
        """Depth of the birdsmouth square to the rafter."""
        return self.seat * math.sin(self.angle)

    def under(self, s: float) -> float:
        """Height of the underside at a run."""
        return (s - self.seat) * self.slope

    def outline(self) -> Ring:
        """Side view, counter-clockwise: tail, heel cut, seat, underside, ridge cut, top edge."""
        oh, r = -self.overhang, self.reach
        points = [
            (0.0, self.under(0.0)),
            (0.0, 0.0),
            (self.seat, 0.0),
            (r, self.under(r)),
            (r, self.under(r) + self.plumb),
        ]
        if self.overhang > TOUCH:
            return ((oh, self.under(oh)), *points, (oh, self.under(oh) + self.plumb))
        return (*points[1:], (0.0, self.height_above_plate))


class Gable(msgspec.Struct, frozen=True):
    """A gable roof laid out: its turn, local outline, and the shape of its common rafter."""

    angle: float
    local: Ring
    shape: RafterShape
    ridge_thickness: float


def lay_out(roof: GableRoof, outline: Ring, plate_width: float, section: Section) -> Gable:
    """Return a gable's measures: rafters run square to the ridge, which follows the long way unless told."""
    angle = run_angle(outline, {"long": "short", "x": "y", "y": "x"}[roof.ridge])  # type: ignore[arg-type]
    local = tuple(to_local(p, angle) for p in outline)
    _, y0, _, y1 = box(local)
    thickness = section.breadth
    seat = min(plate_width, COMMON_SEAT) if roof.seat is None else roof.seat
    reach = (y1 - y0 - thickness) / 2
    # A seat that cuts through more than half of the rafter leaves none to stand on the plate.
    deepest = section.depth / 2 / math.sin(math.atan(roof.rise / 12))
    shape = RafterShape(roof.rise / 12, section.depth, min(seat, reach / 2, deepest), roof.overhang, reach)
    return Gable(angle, local, shape, thickness)


def ridge_section(shape: RafterShape, breadth: float, sections: dict[str, Section]) -> Section:
    """Return the shallowest board at least as deep as the rafters' plumb cut (IRC 2021 R802.3), else the deepest."""
    boards = sorted((s for s in sections.values() if abs(s.breadth - breadth) < TOUCH), key=lambda s: s.depth)
    return next((s for s in boards if s.depth >= shape.plumb - TOUCH), boards[-1])


def frame_roof(
    roof: GableRoof,
    outline: Ring,
    strips: tuple[Strip, ...],
    plate: float,
    plate_width: float,
    size: Size,
    sections: dict[str, Section],
    system: System,
    changes: tuple[Change, ...],
) -> Framed:
    """Frame one gable roof.

    Args:
        roof: the roof.
        outline: rectangle round the outer faces of its walls, mm.
        strips: the wall plates.
        plate: height of the plates, mm.
        plate_width: width of the plates, mm.
        size: section and spacing of the rafters.
        sections: the catalogue.
        system: for the words of the cuts.
        changes: changes by hand on members of this roof.
    """
    section = sections[size.section]
    gable = lay_out(roof, outline, plate_width, section)
    prefix = f"roof:{roof.id}/rafter:"
    shifts, removed = row_changes(prefix, changes)
    by_name = {c.member: c for c in changes}
    members: list[Member] = []
    for row in rows((gable.local,), Layout(section.breadth, size.spacing), shifts, removed):
        for side in "ab":
            change = by_name.get(f"{prefix}{row.name}{side}")
            piece = sections[change.section] if change and change.section else section
            shape = msgspec.structs.replace(gable.shape, depth=piece.depth)
            members.append(_rafter(roof, gable, shape, piece, row, side, strips, plate, system, change is not None))
    members.append(_ridge(roof, gable, plate, sections))
    names = row_names((gable.local,), Layout(section.breadth, size.spacing))
    return framed_of(members, lost_changes(members, changes, names))


def _rafter(
    roof: GableRoof, gable: Gable, shape: RafterShape, section: Section, row: Row, side: str,
    strips: tuple[Strip, ...], plate: float, system: System, touched: bool,
) -> Member:  # fmt: skip
    y_wall, inward = (row.low, 1.0) if side == "a" else (row.high, -1.0)
    wall_face = to_plan((row.x, y_wall), gable.angle)
    ridge_face = to_plan((row.x, y_wall + inward * shape.reach), gable.angle)
    direction = unit(sub(ridge_face, wall_face))
    outline = tuple((s, z + plate) for s, z in shape.outline())
    tail = (wall_face[0] - shape.overhang * direction[0], wall_face[1] - shape.overhang * direction[1])
    mid = shape.plumb / 2 + plate
    seat = (wall_face[0] + shape.seat / 2 * direction[0], wall_face[1] + shape.seat / 2 * direction[1])
    under = _under(seat, strips)
    ridge = Support(shape.overhang + shape.reach, section.depth, f"roof:{roof.id}/ridge:01", ridge_face)
    middle = (row.low + row.high) / 2
    span = (row.low, middle) if side == "a" else (middle, row.high)
    area = row.width * (span[1] - span[0] + shape.overhang)
    plumb = f"plumb {math.degrees(shape.angle):.1f}°"
    seat_cut = f"birdsmouth, seat {format_run(shape.seat, system)}, {format_run(shape.notch, system)} deep"
    return Member(
        f"roof:{roof.id}/rafter:{row.name}{side}", f"{roof.id}-R{row.name}{side}", "rafter", f"roof:{roof.id}",
        roof.plate, section.name, f"{roof.species} {roof.grade}",
        side_profile(wall_face, direction, outline, section.breadth),
        (*tail, mid + shape.under(-shape.overhang)), (*ridge_face, mid + shape.under(shape.reach)),
        shape.length + shape.tail, shape.blank,
        (plumb, plumb, seat_cut),
        (Support(shape.overhang + shape.seat / 2, shape.seat if under else 0.0, under, seat), ridge), area,
        (0.0, shape.overhang + shape.reach + gable.ridge_thickness / 2), shape.slope, touched,
    )  # fmt: skip


def _under(point: Point, strips: tuple[Strip, ...]) -> str:
    for strip in strips:
        x0, y0, x1, y1 = box(strip.ring)
        near = x0 - TOUCH < point[0] < x1 + TOUCH and y0 - TOUCH < point[1] < y1 + TOUCH
        if near and distance_to_ring(point, strip.ring) < TOUCH:
            return strip.on
    return ""


def _ridge(roof: GableRoof, gable: Gable, plate: float, sections: dict[str, Section]) -> Member:
    x0, y0, x1, y1 = box(gable.local)
    section = ridge_section(gable.shape, gable.ridge_thickness, sections)
    y = (y0 + y1) / 2
    a, b = to_plan((x0, y), gable.angle), to_plan((x1, y), gable.angle)
    top = plate + gable.shape.under(gable.shape.reach) + gable.shape.plumb
    length = distance(a, b)
    outline: Ring = ((0.0, top - section.depth), (length, top - section.depth), (length, top), (0.0, top))
    z = top - section.depth / 2
    return Member(
        f"roof:{roof.id}/ridge:01", f"{roof.id}-B01", "ridge", f"roof:{roof.id}", roof.plate, section.name,
        f"{roof.species} {roof.grade}", side_profile(a, unit(sub(b, a)), outline, section.breadth), (*a, z), (*b, z),
        length, length, ("square", "square"),
    )  # fmt: skip
