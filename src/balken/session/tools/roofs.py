"""Tools for roofs: placed over a storey's walls or by corners; skylights left out of them."""

from functools import partial

from balken.drawing.marks import Drawing, Stroke
from balken.framing.hosts.roof_bearing import bearings_of_roof
from balken.framing.hosts.twice import roof_under
from balken.geometry.plane import Point, holds
from balken.model.edits.common import EditError
from balken.model.edits.roofs import add_court, add_roof, add_roof_opening
from balken.model.names import whole
from balken.model.project import Project
from balken.model.roofs import RoofArea
from balken.session.tools.asking import Bench, Do, Tool, around_place, ask
from balken.session.tools.floors import corners_of
from balken.site.bodies import outer_sides, storey_outline, storey_walls
from balken.units import format_area

FROM = ("all walls here", "its corners")


def place(bench: Bench) -> Tool:
    """Place a roof over the outside walls of the storey, or corner by corner."""
    if bench.kit.roof_from == "all walls here":
        yield from ask(
            "Enter places a roof over the outside walls of this storey.", ends=True, free=True
        )
        yield Do("place a roof", partial(over_walls, base=bench.base))
        return
    while True:
        corners = yield from corners_of(
            "Click the corners of the walls under the roof one after another; Enter closes it."
        )
        if corners is None:
            return
        yield Do(
            "place a roof", partial(by_corners, base=bench.base, plate=bench.top, corners=corners)
        )


def over_walls(project: Project, base: str) -> Project:
    """Add a roof over the outside walls that stand on a level."""
    walls = storey_walls(project, base)
    outline = storey_outline(walls)
    if outline is None:
        raise EditError("The walls here enclose nothing. Draw the corners of the roof instead.")
    outside = outer_sides(walls, outline)
    mine = tuple(dict.fromkeys(whole(w.id) for w in walls if w.id in outside))
    tops = [w.top for w in project.walls if w.id in mine]
    plate = max(sorted(set(tops)), key=tops.count)
    if any(r.plate == plate and set(r.walls) & set(mine) for r in project.roofs):
        raise EditError(
            "There is a roof over these walls already. Change it, or take it away first."
        )
    return add_roof(project, plate, mine)[0]


def by_corners(project: Project, base: str, plate: str, corners: tuple[Point, ...]) -> Project:
    """Add a roof over corners; it bears on the walls under it that reach the plate."""
    mine = tuple(w.id for w in project.walls if w.top == plate and not w.bulge)
    ring = tuple((round(x, 3), round(y, 3)) for x, y in corners)
    project, key = add_roof(project, plate, mine, corners=ring)
    under = roof_under(project, key)
    if under is not None:
        roof, area = under
        raise EditError(
            f"Roof {roof.name} lies there already: {format_area(area, project.system)} would be roofed"
            " twice. Change that roof, or take it away first."
        )
    return project


def roof_at(project: Project, p: Point) -> RoofArea | None:
    """The roof whose walls hold a place."""
    for roof in project.roofs:
        bearings = bearings_of_roof(project, roof)
        if bearings is not None and holds(bearings.outline, p):
            return roof
    return None


def skylight(bench: Bench) -> Tool:
    """Place skylights of a size, one after another, by their middle."""
    while True:
        across, up = bench.kit.skylight

        def around(p: Point, wide: float = across) -> Drawing:
            ring = around_place(p, (wide, wide))
            return (Stroke((*ring, ring[0]), "mark"),)

        answer = yield from ask(
            "Click the middle of a skylight on a roof. Enter ends.", ghost=around, ends=True
        )
        if answer.finished:
            return
        yield Do("place a skylight", partial(_open, at=answer.point, size=(across, up)))


def _open(project: Project, at: Point, size: tuple[float, float]) -> Project:
    roof = roof_at(project, at)
    if roof is None:
        raise EditError("There is no roof there. Click inside the walls under one.")
    return add_roof_opening(project, roof.id, (round(at[0], 3), round(at[1], 3)), size)[0]


def court(bench: Bench) -> Tool:
    """Leave courtyards open in a roof, corner by corner along the outer faces of the walls round
    them."""
    while True:
        corners = yield from corners_of(
            "Click the corners of a courtyard, at the outer faces of its walls; Enter closes it."
        )
        if corners is None:
            return
        yield Do("leave a courtyard open", partial(_court, corners=corners))


def _court(project: Project, corners: tuple[Point, ...]) -> Project:
    middle = (sum(x for x, _ in corners) / len(corners), sum(y for _, y in corners) / len(corners))
    roof = roof_at(project, middle)
    if roof is None:
        raise EditError("There is no roof there. Click inside the walls under one.")
    return add_court(project, roof.id, corners)
