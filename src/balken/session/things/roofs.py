"""A roof: its shape, its sides, what frames it, its measures."""

from functools import partial
from typing import Any, Final

from balken.drawing.tiers import Tier
from balken.drawing.words import pretty
from balken.framing import kinds
from balken.framing.hosts.divided_roofs import can_divide, divided
from balken.framing.hosts.roof_bearing import bearings_of_roof
from balken.framing.roofs.shape import Edge, RoofShape, soffit_area
from balken.geometry.roof_lines import measures
from balken.loads.roof_snow import CLAUSE, ON_ROOF, flattest
from balken.loads.roof_zones import CLAUSES as ZONE_CLAUSES
from balken.loads.roof_zones import effective_area, zones_of
from balken.loads.wind import WIND
from balken.model.catalogue import catalogue_of
from balken.model.edits.roofs import set_roof, set_side
from balken.model.names import HostName, as_host
from balken.model.project import Project, level
from balken.model.roofs import SIDE_WORDS, RoofArea
from balken.session.desk import Desk, Thing
from balken.session.rows import Button, Fact, Field, Heading, Line, Link, Options, Rows, Title
from balken.session.things import rafters, trusses
from balken.session.things.fields import length_or_none
from balken.session.things.members import alike_members, called_member, slip_or, take_away, tier_of
from balken.session.things.sized import summary
from balken.session.things.wood import air_row, limit_rows, wood_row
from balken.units import format_area_load, format_length, format_run, parse_length
from balken.units.pitch import format_pitch, parse_pitch
from balken.units.quantity import parse_area_load


def parts_of_tier(desk: Desk, tier: Tier) -> list[RoofArea]:
    """The roofs that lie in a tier."""
    return [r for r in desk.project.roofs if tier.holds(HostName("roof", r.id))]


def list_of(desk: Desk, roofs: list[RoofArea]) -> Rows:
    """Add the list of roofs on a plate level, to go to each."""
    yield Heading("Roofs here", str(len(roofs)))
    for roof in roofs:
        yield Link(
            roof.id, f"{roof.name}, {roof.framing}", partial(desk.select, HostName("roof", roof.id))
        )


def fields(desk: Desk, roof: RoofArea) -> Rows:
    """Fill in what can be changed of a roof, its sides and its measures."""
    system = desk.system
    shape = desk.checked.structure.roofs.get(HostName("roof", roof.id))

    def put(words: str, **what: Any) -> object:
        return desk.edit(words, partial(set_roof, key=roof.id, **what))

    yield Heading("Shape")
    yield Field(
        "pitch",
        format_pitch(roof.rise, system),
        lambda t: put("pitch", rise=parse_pitch(t, system), ridge=None),
    )
    if shape is not None:
        plate = level(desk.project, roof.plate).elevation
        over = format_length(shape.roof.top - plate, system)
        yield Field(
            "ridge over plate",
            over if roof.ridge else f"{over}, by the pitch",
            lambda t: put("ridge height", ridge=length_or_none(t, system)),
        )
        yield Field(
            "heel",
            format_run(shape.heel, system) + ("" if roof.heel else ", by the seat"),
            lambda t: put("heel", heel=length_or_none(t, system)),
        )
    yield Field(
        "overhang",
        format_run(roof.overhang, system),
        lambda t: put("overhang", overhang=parse_length(t, system)),
    )
    rake = roof.overhang if roof.rake is None else roof.rake
    yield Field(
        "at gables",
        format_run(rake, system),
        lambda t: put("overhang at gables", rake=parse_length(t, system)),
    )
    yield Options(
        "eave cut",
        [("plumb", "plumb"), ("square", "square")],
        roof.eave_cut,
        lambda v: put("eave cut", eave_cut=v),
    )
    yield Options(
        "soffit",
        [("open", "open"), ("level", "level"), ("along the rafters", "sloped")],
        roof.soffit,
        lambda v: put("soffit", soffit=v),
    )
    if shape is not None:
        yield from _sides(desk, roof, shape)
        yield from _framing(desk, roof)
        yield from _measures(desk, roof, shape)


def _sides(desk: Desk, roof: RoofArea, shape: RoofShape) -> Rows:
    yield Heading("Sides", f"{len(shape.edges)}")
    for edge in shape.edges:
        yield Options(
            side_called(desk.project, edge),
            [(words, kind) for kind, words in SIDE_WORDS.items()],
            edge.rule.kind,
            partial(_set_kind, desk, roof.id, edge.name),
        )
    if any(e.rule != type(e.rule)(e.name, kind=e.rule.kind) for e in shape.edges):
        yield Line(
            "Some sides have a pitch, an overhang or a plate of their own: click an eave to see"
            " it.",
            quiet=True,
        )


def _set_kind(desk: Desk, key: str, side: str, kind: str) -> object:
    return desk.edit("side of the roof", partial(set_side, key=key, side=side, kind=kind))


def side_called(project: Project, edge: Edge) -> str:
    """A side of a roof by the wall it stands on, or its number."""
    wall = next((x for x in project.walls if x.id == edge.name), None)
    return wall.name if wall and wall.name else f"side {edge.name}"


def _framing(desk: Desk, roof: RoofArea) -> Rows:
    yield Heading("Framing")
    yield Options(
        "of",
        [("rafters", "rafters"), ("trusses", "trusses")],
        roof.framing,
        lambda v: desk.edit("framing of the roof", partial(set_roof, key=roof.id, framing=v)),
    )
    if roof.framing == "trusses":
        shape = desk.checked.structure.roofs.get(HostName("roof", roof.id))
        if shape is not None and can_divide(shape):
            yield Button(
                "Divide over rectangles",
                lambda: desk.edit("divide the roof", partial(divided, key=roof.id, shape=shape)),
            )
        yield from trusses.fields(desk, roof)
        return
    yield from rafters.fields(desk, roof)


def _measures(desk: Desk, roof: RoofArea, shape: RoofShape) -> Rows:
    system = desk.system
    found = measures(shape.roof)
    yield Heading("Measures")
    yield Fact("on the slope", _area(found.true, system))
    yield Fact("in plan", _area(found.plan, system))
    for kind, words in (
        ("ridge", "ridges"),
        ("hip", "hips"),
        ("valley", "valleys"),
        ("eave", "eaves, fascia and gutter"),
        ("rake", "rakes"),
    ):
        if found.lengths.get(kind):
            yield Fact(words, format_length(found.lengths[kind], system))
    if roof.soffit != "open":
        yield Fact("soffit", _area(soffit_area(shape, sloped=roof.soffit == "sloped"), system))


def _area(mm2: float, system: str) -> str:
    return f"{mm2 / 304.8**2:,.0f} sq ft" if system == "us" else f"{mm2 / 1e6:,.1f} m²"


def _held_fields(desk: Desk, roof: RoofArea) -> Rows:
    """What is held by hand of section and spacing."""
    catalogue, system = catalogue_of(desk.system), desk.system

    def hold(words: str, **what: Any) -> object:
        return desk.edit(words, partial(set_roof, key=roof.id, **what))

    sections: list[tuple[str, Any]] = [("by calculation", None)]
    sections += [(pretty(n), n) for n, s in catalogue.sections.items() if s.nominal[0] <= 4]
    yield Options("section", sections, roof.section, lambda v: hold("hold section", section=v))
    gaps: list[tuple[str, Any]] = [("by calculation", None)]
    gaps += [(format_run(s, system), s) for s in catalogue.spacings]
    yield Options("spacing", gaps, roof.spacing, lambda v: hold("hold spacing", spacing=v))
    yield from wood_row(desk, roof, hold)
    yield from air_row(desk, roof, hold)
    yield from limit_rows(desk, roof, hold)


BY_SITE: Final = "by the site’s wind"
"""What stands in the field of the wind that lifts a roof where none is typed."""

LOADS = (
    ("snow", "snow", "snow load"),
    ("roof live", "live", "roof live load"),
    ("dead load", "dead", "dead load"),
)
"""The loads of a roof: what its field is called, the field of the record, what the edit is called."""


def _load_fields(desk: Desk, roof: RoofArea) -> Rows:
    system, site = desk.system, desk.project.site
    if site.snow is not None:
        ways = [("typed for this roof", "typed"), ("from the ground of the site", "site")]
        yield Options(
            "snow is",
            ways,
            roof.snow_from,
            lambda v: desk.edit("snow of roof", lambda p: set_roof(p, roof.id, snow_from=v)),
        )
    follows = site.snow is not None and roof.snow_from == "site"
    for name, field, words in LOADS:
        if field == "snow" and follows and site.snow is not None:
            lies = ON_ROOF[desk.project.code](site.snow, flattest(roof))
            yield Fact(name, f"{format_area_load(lies, system)}, {CLAUSE[desk.project.code]}")
            continue

        def change(text: str, field: str = field, words: str = words) -> object:
            value = parse_area_load(text, system)
            return desk.edit(words, lambda p: set_roof(p, roof.id, **{field: value}))

        yield Field(name, format_area_load(getattr(roof, field), system), change)


def _wind_field(desk: Desk, roof: RoofArea) -> Rows:
    """What the wind lifts: by the site's wind where nothing is typed."""
    system = desk.system
    found = next((r for r in desk.checked.built.roofs if r.id == roof.id), roof)
    by_site = roof.uplift is None and found.uplift is not None

    def change(text: str) -> object:
        emptied = text.strip().lower() in ("", BY_SITE)
        value = None if emptied else parse_area_load(text, system)
        return desk.edit("uplift", lambda p: set_roof(p, roof.id, uplift=value))

    yield Field(
        "wind lifts",
        BY_SITE if roof.uplift is None else format_area_load(roof.uplift, system),
        change,
    )
    if by_site and found.uplift is not None:
        clause = WIND[desk.project.code].clause
        yield Fact("which is", f"{format_area_load(found.uplift, system)} of plan, {clause}")
    yield from _zones(desk, roof)
    if found.pressed:
        yield Fact("and presses", f"{format_area_load(found.pressed, system)} of plan")


def _zones(desk: Desk, roof: RoofArea) -> Rows:
    """What lifts rafters along edges and in corners."""
    built = next(r for r in desk.checked.built.roofs if r.id == roof.id)
    bearings = bearings_of_roof(desk.checked.built, built)
    rafters = [
        m
        for m in desk.checked.structure.of(kinds.RAFTER)
        if m.host == HostName("roof", roof.id) and m.carrier.area > 0
    ]
    if bearings is None or not rafters:
        return
    area = min(effective_area(m) for m in rafters)
    zones = zones_of(desk.checked.built, built, bearings, area)
    if zones is None:
        return
    system = desk.system
    amounts = (format_area_load(z, system) for z in (zones.inner, zones.edge, zones.corner))
    yield Fact("rafters inside, at edges, in corners", ", ".join(amounts))
    wide = format_length(zones.wide, system)
    yield Fact("edges are", f"{wide} wide, {ZONE_CLAUSES[desk.project.code]}")


def roof_slip(desk: Desk, roof: RoofArea) -> Rows:
    """What a roof is framed of, and its fields."""
    yield from summary(desk, HostName("roof", roof.id))
    yield from fields(desk, roof)
    yield from _held_fields(desk, roof)
    yield from _load_fields(desk, roof)
    yield from _wind_field(desk, roof)


def _one(desk: Desk, key: str) -> Rows:
    roof = next((r for r in desk.project.roofs if r.id == key), None)
    if roof is None:
        yield Title("Roof", "", "gone")
        return
    yield Title(roof.name, "roof", roof.id)
    yield from roof_slip(desk, roof)


ROOF = Thing(
    "roof",
    "roof",
    slip_or(_one),
    there=lambda project, name: any(r.id == as_host(name).key for r in project.roofs),
    called=called_member,
    tier=tier_of,
    alike=alike_members,
    take_away=take_away,
)
