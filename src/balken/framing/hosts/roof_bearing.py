"""What a roof is framed from: the plates, beams and posts it lies on."""

from balken.framing.beams.fitting import strip_of
from balken.framing.hosts.beam_heights import placed_beams
from balken.framing.hosts.plates import plates_of
from balken.framing.hosts.runs import walls_of
from balken.framing.member import Bearings, Strip
from balken.framing.roofs.shape import side_names
from balken.geometry.plane import (
    Point,
    Ring,
    add,
    distance,
    left,
    signed_area,
    simplify,
)
from balken.model.names import HostName, MemberName, whole
from balken.model.project import Project, level
from balken.model.roofs import RoofArea
from balken.model.supports import outline_at, spots_of
from balken.model.walls import Wall, direction_of, reach
from balken.recall import remembered
from balken.site.bodies import bodies, outer_sides


def bearings_of_roof(project: Project, roof: RoofArea) -> Bearings | None:
    """What a roof lies on: the plates of its walls, or the beams under its own outline; None
    where neither closes."""
    return _bearings_of_roof(project, roof)


@remembered
def _bearings_of_roof(project: Project, roof: RoofArea) -> Bearings | None:
    height = level(project, roof.plate).elevation
    beams = tuple(strip_of(p) for p in placed_beams(project)[0] if p.axis.level == roof.plate)
    walls = walls_of(project, roof.walls) if roof.walls else ()
    own = _own_outline(roof)
    plates = plates_of(walls, project.system, own) if walls else None
    if plates is None:
        width = max((min(_across(s.ring)) for s in beams), default=0.0)
        return Bearings(own, beams, height, width) if own is not None else None
    outline, strips, width = plates
    inner = tuple(
        Strip(HostName("wall", whole(k)), body.ring, False)
        for k, body in bodies(_others_at(project, roof, walls)).items()
    )
    return Bearings(
        outline,
        strips + inner + beams + _posts_at(project, roof),
        height,
        width,
        sides=side_names(outline, _outer_faces(walls, outline)),
    )


def _own_outline(roof: RoofArea) -> Ring | None:
    """The outline drawn for a roof, counter-clockwise."""
    if len(roof.corners) < 3:
        return None
    own = simplify(roof.corners)
    return own[::-1] if signed_area(own) < 0 else own


def _outer_faces(walls: tuple[Wall, ...], outline: Ring) -> list[tuple[str, Point, Point]]:
    """The outer faces of the walls that stand on an outline, by the names of the walls."""
    by_name = {w.id: w for w in walls}
    found = []
    for key, sign in outer_sides(walls, outline).items():
        wall = by_name[key]
        face, n = reach(wall)[0 if sign > 0 else 1], left(direction_of(wall))
        found.append((whole(key), add(wall.start, n, face), add(wall.end, n, face)))
    return found


def _posts_at(project: Project, roof: RoofArea) -> tuple[Strip, ...]:
    """The posts that reach a roof's plate."""
    mine = [p for p in project.point_supports if p.kind == "post" and p.top == roof.plate]
    return tuple(
        Strip(MemberName(HostName("support", p.id), "post", "1"), outline_at(p, spot, turn), False)
        for p, spot, turn in spots_of(project, mine)
    )


def _others_at(project: Project, roof: RoofArea, known: tuple[Wall, ...]) -> tuple[Wall, ...]:
    """The straight walls that reach a roof's plate and are none of its own."""
    mine = {w.id for w in known} | set(roof.walls)
    return tuple(
        w for w in project.walls if w.top == roof.plate and not w.bulge and w.id not in mine
    )


def _across(ring: Ring) -> tuple[float, float]:
    a, b, c = ring[:3]
    return distance(a, b), distance(b, c)
