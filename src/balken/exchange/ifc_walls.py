"""Walls of an architect's file and the openings in them: line, thickness, heights, holes."""

import math
from typing import Any, Final

import numpy as np

from balken.exchange.ifc_curve import ShapeError
from balken.exchange.ifc_notes import note
from balken.exchange.ifc_shape import Body, axis_line, body_of, parts_of, placement
from balken.geometry.plane import TOUCH, Point, distance, distance_to_segment, dot, left, sub, unit
from balken.model.project import ReadNote
from balken.model.walls import arc_of

LOOSE: Final = 0.02
"""Corners of a wall without axis lie on its long faces, to this share of its length: what is
farther off is bent."""
ROUND: Final = 1.0
"""A face of a curved wall may lie off its arc by this, mm."""


class RawWall:
    """A wall as it was read: plan line, side, heights and holes, before it is hung between
    levels."""

    def __init__(self, product: Any) -> None:
        self.product = product
        self.start: Point = (0.0, 0.0)
        self.end: Point = (0.0, 0.0)
        self.thickness = 0.0
        self.side = "centre"
        self.shift = 0.0
        self.bulge = 0.0
        self.bottom = 0.0
        self.top = 0.0
        self.openings: list[tuple[str, float, float, float, float]] = []


def read_wall_or_note(product: Any, scale: float, notes: list[ReadNote]) -> RawWall | None:
    """A wall with its openings; None, and noted, where it cannot be read."""
    try:
        raw = _read_wall(product, scale)
    except ShapeError as error:
        note(notes, product, str(error))
        return None
    except Exception as error:  # damaged references surface as many kinds
        note(notes, product, f"it is damaged ({type(error).__name__})")
        return None
    for relation in getattr(product, "HasOpenings", None) or ():
        hole = relation.RelatedOpeningElement
        try:
            raw.openings.append(_opening(hole, raw, scale))
        except ShapeError as error:
            note(notes, hole, str(error))
        except Exception as error:
            note(notes, hole, f"it is damaged ({type(error).__name__})")
    return raw


def _read_wall(product: Any, scale: float) -> RawWall:
    if product.Representation is None:
        raise ShapeError(
            "it is made of parts and has no shape of its own"
            if parts_of(product)
            else "it has no shape"
        )
    raw = RawWall(product)
    axis = axis_line(product, scale)
    body = body_of(product, scale)
    if body is None:
        raise ShapeError("it has no body, so its height is unknown")
    *line, raw.bulge = axis or (*_line_from_body(body), 0.0)
    across = _across(body, line[0], line[1], raw.bulge)
    _set_across(raw, min(across), max(across), distance(*line))
    raw.start, raw.end = ((rounded(p[0]), rounded(p[1])) for p in line)
    if len(body.points) == 0:
        raise ShapeError("nothing of its body is left after it is clipped")
    heights = body.points[:, 2]
    raw.bottom, raw.top = rounded(float(heights.min())), rounded(float(heights.max()))
    if raw.top - raw.bottom < TOUCH:
        raise ShapeError("its body has no height")
    return raw


def _set_across(raw: RawWall, low: float, high: float, length: float) -> None:
    """Set how thick a wall is and where it lies by its line, from how far its body reaches to the
    right and to the left of it."""
    thickness = high - low
    if thickness < 1.0:
        raise ShapeError("its body has no thickness")
    if thickness > 5000 or thickness > 3 * length + 5000:
        raise ShapeError(f"its body is {thickness:.0f} mm thick, which no wall is")
    if abs(low) < TOUCH:
        raw.side = "left"
    elif abs(high) < TOUCH:
        raw.side = "right"
    else:
        raw.side, raw.shift = "centre", zero(rounded((low + high) / 2))
    raw.thickness = rounded(thickness)


def _across(body: Body, start: Point, end: Point, bulge: float) -> list[float]:
    """How far the corners of a body lie to the left of a wall's line, mm.

    Raises:
        ShapeError: the line is an arc and the body does not go round with it.
    """
    places = [(x, y) for x, y, _ in body.plain.tolist()]
    if not bulge:
        normal = left(unit(sub(end, start)))
        return [dot(sub(p, start), normal) for p in places]
    centre, radius, _, _ = arc_of(start, end, bulge)
    away = [math.copysign(1.0, radius) * (abs(radius) - distance(p, centre)) for p in places]
    faces = min(away), max(away)
    if any(min(abs(x - face) for face in faces) > ROUND for x in away):
        raise ShapeError("its body does not go round with its curved axis")
    return away


def _line_from_body(body: Body) -> tuple[Point, Point]:
    """The centre line of a body seen from above: along the longer side of the smallest box
    round it."""
    import shapely

    box = shapely.MultiPoint(body.plain[:, :2]).minimum_rotated_rectangle
    corners = list(getattr(box, "exterior", box).coords)
    if len(corners) < 5:
        raise ShapeError("its body has no area in plan")
    a, b, c, d = corners[:4]
    if distance(a, b) < distance(b, c):
        a, b, c, d = b, c, d, a
    full = distance(a, b)
    for x, y in body.plain[:, :2].tolist():
        if min(distance_to_segment((x, y), a, b), distance_to_segment((x, y), c, d)) > LOOSE * full:
            raise ShapeError("it has no axis and its body is not straight")
    start: Point = ((a[0] + d[0]) / 2, (a[1] + d[1]) / 2)
    end: Point = ((b[0] + c[0]) / 2, (b[1] + c[1]) / 2)
    if (end[0], end[1]) < (start[0], start[1]):
        start, end = end, start
    return start, end


def _opening(hole: Any, raw: RawWall, scale: float) -> tuple[str, float, float, float, float]:
    """Kind, distance along the wall, width, height, sill over the wall's foot."""
    if raw.bulge:
        raise ShapeError("it lies in a curved wall; openings there are not read")
    kind, filling = _filling(hole)
    body = body_of(hole, scale)
    if body is not None:
        at, width, bottom, top = _by_body(body, raw)
    elif filling is not None and filling.OverallWidth and filling.OverallHeight:
        at, width, bottom, top = _by_filling(filling, raw, scale)
    else:
        raise ShapeError("it has no body and nothing in it that tells its size")
    low, high = max(0.0, at), min(distance(raw.start, raw.end), at + width)
    if high - low < TOUCH or top - bottom < TOUCH:
        raise ShapeError("it lies outside its wall")
    return (
        kind,
        rounded(low),
        rounded(high - low),
        rounded(top - bottom),
        rounded(bottom - raw.bottom),
    )


FILLINGS: Final = {"IfcDoor": "door", "IfcWindow": "window"}


def _filling(hole: Any) -> tuple[str, Any | None]:
    """What fills an opening: door or window, and the thing itself."""
    kind, filling = "opening", None
    for relation in getattr(hole, "HasFillings", None) or ():
        filling = relation.RelatedBuildingElement
        kind = next((word for name, word in FILLINGS.items() if filling.is_a(name)), kind)
    return kind, filling


def _by_body(body: Body, raw: RawWall) -> tuple[float, float, float, float]:
    """From where, how wide, from and to which height an opening is, by its body."""
    direction = unit(sub(raw.end, raw.start))
    along = [dot(sub((x, y), raw.start), direction) for x, y, _ in body.points.tolist()]
    heights = body.points[:, 2]
    bottom, top = max(float(heights.min()), raw.bottom), min(float(heights.max()), raw.top)
    return min(along), max(along) - min(along), bottom, top


def _by_filling(filling: Any, raw: RawWall, scale: float) -> tuple[float, float, float, float]:
    """The same by the door or window in it."""
    direction = unit(sub(raw.end, raw.start))
    spot = placement(filling.ObjectPlacement, scale)
    width, height = float(filling.OverallWidth) * scale, float(filling.OverallHeight) * scale
    back = 0.0 if float(np.dot(spot[:2, 0], direction)) > 0 else width
    at = dot(sub((spot[0, 3], spot[1, 3]), raw.start), direction) - back
    return at, width, float(spot[2, 3]), float(spot[2, 3]) + height


def rounded(value: float) -> float:
    """Drop what arithmetic in another unit leaves behind the sixth decimal of a millimetre."""
    return round(float(value), 6) + 0.0


def zero(value: float) -> float:
    """A height over a level; nothing where it is only what arithmetic leaves, mm."""
    return 0.0 if abs(value) < 1e-3 else value
