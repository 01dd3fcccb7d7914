"""Which views of a building are drawn for its set of sheets, in their order, each drawn when it is asked
for."""

from collections.abc import Callable, Iterator
from functools import cache, cached_property, partial
from typing import Final, Literal, NamedTuple

from msgspec.structs import replace

from balken.drawing.clearing import without_contours_under
from balken.drawing.cut import Body, Gathered, View, bodies_of, gathered
from balken.drawing.detail_places import places_of
from balken.drawing.details import Place, clipped_to, detail_lines, detail_notes
from balken.drawing.marks import Drawing, Mark, extent
from balken.drawing.paper.words import host_notes, truss_words, wall_words
from balken.drawing.placing import placed
from balken.drawing.plan import plan, plan_notes
from balken.drawing.roof_planes_plan import faces_of, roof_planes_lines, roof_planes_notes
from balken.drawing.seen import isometric, lines_of, strokes_of
from balken.drawing.tiers import Tier, tiers
from balken.drawing.truss_figure import truss_drawing
from balken.drawing.upright import SIDES, looking, upright_lines, upright_notes
from balken.drawing.valley_figure import valley_drawing, valley_frames, valley_notes
from balken.drawing.wall_elevation import framed_walls, wall_elevation
from balken.framing import kinds
from balken.geometry.plane import add, left, sub, unit
from balken.model.named import named
from balken.model.names import HostName, Name
from balken.model.paper import SectionLine
from balken.model.project import wall
from balken.model.walls import called
from balken.recall import remembered
from balken.takeoff.trusses import TrussKind, truss_kinds
from balken.units import System
from balken.works.building import Checked

Group = Literal["plans", "upright", "details", "joints", "space", "walls", "trusses"]
"""Views of a group lie on the same sheets."""
LARGEST: Final[dict[Group, dict[System, float]]] = {
    "plans": {"us": 48.0, "metric": 50.0},
    "upright": {"us": 48.0, "metric": 50.0},
    "details": {"us": 16.0, "metric": 20.0},
    "joints": {"us": 8.0, "metric": 10.0},
    "space": {"us": 16.0, "metric": 20.0},
    "walls": {"us": 32.0, "metric": 25.0},
    "trusses": {"us": 24.0, "metric": 25.0},
}
"""No view is drawn larger (common practice, no source)."""


class Lines:
    """What of a view is the same at every scale, no words and heads: worked out when it is first asked for,
    or put in by who worked it out."""

    def __init__(self, make: Callable[[], Drawing], bodies: int) -> None:
        self.make = make
        self.bodies = bodies
        """How many are looked at, which tells how long it takes."""
        self.made: Drawing | None = None

    def __call__(self, scale: float = 1.0) -> Drawing:
        """The lines."""
        if self.made is None:
            self.made = self.make()
        return self.made

    @cached_property
    def box(self) -> tuple[float, float, float, float] | None:
        """Round the lines, mm of building; None where there are none."""
        return extent(self())


class Drawn(NamedTuple):
    """A view before it lies on a sheet."""

    key: str
    """Its lasting name, as ``plan:F1``."""
    title: str
    group: Group
    draw: Callable[[float], Drawing]
    """By mm of building to a mm of paper."""
    notes: tuple[str, ...] = ()
    north: bool = False
    """It is a plan, and has a north mark."""
    lines: Lines | None = None
    """What of it takes long, where something does: what it draws begins with them."""


def views_of(checked: Checked) -> Iterator[Drawn]:
    """All views: plans from the foundation up, the four sides, sections, the whole in space, framed walls,
    trusses."""
    for tier in tiers(checked):
        yield _plan(checked, tier)
        if tier.kind == "roof" and faces_of(checked, tier.hosts):
            yield _planes(checked, tier)
    all_of = gathered(bodies_of(checked))
    if checked.project.walls or checked.structure.members:
        for side in SIDES:
            view, title = looking(checked.project, side), f"{side.capitalize()} elevation"
            yield _upright(checked, all_of, (f"side:{side}", title), view)
    for line in checked.project.paper.sections:
        yield _section(checked, all_of, line)
    for place in places_of(checked, all_of):
        yield _detail(checked, all_of, place)
    if checked.structure.members:
        lines = Lines(partial(_space, checked, all_of), 2 * len(all_of.bodies))
        yield Drawn("space", "The structure in space", "space", lines, lines=lines)
    for host in framed_walls(checked):
        yield _wall(checked, host)
    for kind in truss_kinds(checked):
        yield _truss(checked, kind)
    for host in checked.trusses:
        if valley_frames(checked, host):
            yield _valleys(checked, host)


def _plan(checked: Checked, tier: Tier) -> Drawn:
    lines = plan(checked, tier)

    @cache
    def draw(scale: float) -> Drawing:
        notes = plan_notes(checked, tier, scale, on_paper=True)
        ground = tier.kind == "ground"
        return (without_contours_under(lines, notes, scale) if ground else lines) + notes

    notes = tuple(host_notes(checked, tier))
    return Drawn(f"plan:{tier.id}", title_of(tier), "plans", draw, notes, north=True)


def _planes(checked: Checked, tier: Tier) -> Drawn:
    """The planes of roofs, beside their framing."""
    lines = roof_planes_lines(checked, tier)

    @cache
    def draw(scale: float) -> Drawing:
        return lines + roof_planes_notes(checked, tier, scale)

    title = title_of(tier).replace("framing ", "")
    return Drawn(f"planes:{tier.key}", title, "plans", draw, north=True)


def title_of(tier: Tier) -> str:
    """A plan's title."""
    return {
        "ground": "Foundation plan",
        "walls": f"{tier.name} plan",
        "ceiling": "Ceiling framing plan",
        "roof": "Roof framing plan",
    }.get(tier.kind, tier.name.replace(" joists", "") + " framing plan")


def _upright(checked: Checked, all_of: Gathered, name: tuple[str, str], view: View) -> Drawn:
    """Lines are worked out once; words stand by the scale. By its lasting name and its title."""
    lines = Lines(partial(upright_lines, checked, view, all_of), len(all_of.bodies))

    def draw(scale: float) -> Drawing:
        return lines(scale) + upright_notes(checked, view, scale, all_of)

    return Drawn(*name, "upright", draw, lines=lines)


def view_of(line: SectionLine) -> View:
    """The view behind a line on the plan: to the left of its way."""
    right = unit(sub(line.end, line.start))
    return View(right, left(right), line.start, line.depth)


def _section(checked: Checked, all_of: Gathered, line: SectionLine) -> Drawn:
    name = f"section:{line.id}", f"Section {line.id}"
    if not line.jogs:
        return _upright(checked, all_of, name, view_of(line))
    lines = Lines(partial(_in_legs, checked, all_of, line), len(all_of.bodies))

    def draw(scale: float) -> Drawing:
        return lines(scale) + upright_notes(checked, view_of(line), scale, all_of)

    return Drawn(*name, "upright", draw, lines=lines)


def _in_legs(checked: Checked, all_of: Gathered, line: SectionLine) -> Drawing:
    """What each leg of a jogged section cuts and has behind it, side by side."""
    whole = view_of(line)
    jogs = sorted(line.jogs, key=lambda j: j.at)
    start = whole.along(line.start)
    places = [-FAR, *(start + j.at for j in jogs), FAR]
    found: list[Mark] = []
    for x0, x1, ahead in zip(places, places[1:], (0.0, *(j.ahead for j in jogs))):
        view = replace(whole, cut=add(line.start, whole.ahead, ahead))
        window = (x0, -FAR, x1, FAR)
        found += clipped_to(upright_lines(checked, view, all_of, window), window)
    return tuple(found)


FAR: Final = 1e7
"""Past any building, mm."""


def _detail(checked: Checked, all_of: Gathered, place: Place) -> Drawn:
    lines = Lines(partial(detail_lines, checked, place, all_of), 0)

    def draw(scale: float) -> Drawing:
        return (*lines(scale), *detail_notes(checked, lines(scale), scale))

    group: Group = "joints" if place.small else "details"
    return Drawn(place.key, place.title, group, draw, lines=lines)


def _space(checked: Checked, all_of: Gathered) -> Drawing:
    framed: set[Name | None] = {*framed_walls(checked)}  # of them their studs are shown
    hidden = framed | {m.id for m in checked.structure.of(kinds.SUBFLOOR)}  # what covers joists
    return _from_a_corner(tuple(b for b in all_of.bodies if b.key not in hidden))


@remembered
def _from_a_corner(bodies: tuple[Body, ...]) -> Drawing:
    sight = isometric()
    return tuple(strokes_of(bodies, lines_of(bodies, sight), sight))


def _wall(checked: Checked, host: HostName) -> Drawn:
    title = f"Framing of {called(wall(checked.project, host.key))} from outside"
    notes = tuple(wall_words(checked, host))
    draw = partial(wall_elevation, checked, host, titled=False)
    return Drawn(f"wall:{host.key}", title, "walls", draw, notes)


def _truss(checked: Checked, kind: TrussKind) -> Drawn:
    count = f", {len(kind.rows)} alike" if len(kind.rows) > 1 else ""
    return Drawn(
        f"truss:{kind.record.id}/{kind.roof.placed[kind.first].row}",
        f"{kind.title}{count}",
        "trusses",
        partial(_truss_lines, checked, kind),
        tuple(truss_words(checked, kind)),
    )


def _valleys(checked: Checked, host: HostName) -> Drawn:
    """The frames that a roof sets on others."""
    title = f"Valley frames of {named(checked.built.roofs, host.key, 'roof').name}"
    draw = partial(valley_drawing, checked, host)
    return Drawn(f"valleys:{host.key}", title, "trusses", draw, tuple(valley_notes(checked, host)))


def _truss_lines(checked: Checked, kind: TrussKind, scale: float) -> Drawing:
    """A truss whose names of pieces give way to one another."""
    return placed(truss_drawing(checked, kind.roof, kind.first, scale), scale)
