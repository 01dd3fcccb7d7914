"""The site: code, frost, soil and backfill, and what walls weigh."""

from functools import partial
from typing import Final, get_args

from msgspec.structs import replace

from balken.design.codes.us.irc_soil import SOIL_CLASSES
from balken.exchange.site_service import SiteSheet, ask, taken_in
from balken.model.catalogue import STRENGTH_CLASSES
from balken.model.edits import set_site
from balken.model.edits.code import change_code, changed_by
from balken.model.edits.common import checked
from balken.model.foundations import PlateSpecies
from balken.model.record import Code
from balken.model.snow import GroundSnow
from balken.session.desk import Desk
from balken.session.rows import Fact, Field, Heading, Line, Options, Rows, Title
from balken.session.things.left_open import left_open_rows
from balken.session.things.site_wind import wind_rows
from balken.units import PCF, format_area_load, format_length, format_run, parse_length
from balken.units.number import parse_number
from balken.units.quantity import parse_area_load, parse_soil_bearing

BY_LAYERS: Final = "by their layers"
"""What stands in the field of the weight of walls where none is typed."""


CODE_WORDS: Final[dict[str, Code]] = {"US codes": "us", "Eurocodes": "eu"}


def site(desk: Desk) -> Rows:
    """The fields of the site: codes, ground, walls, snow, wind."""
    system, site = desk.system, desk.project.site
    yield Heading("Site")
    yield Options(
        "checked by", list(CODE_WORDS.items()), desk.project.code, partial(_ask_of_code, desk)
    )
    yield Field("place", site.place, partial(_ask_for_place, desk), example="from the site service")
    yield Field(
        "frost depth",
        format_length(site.frost_depth, system),
        lambda t: desk.edit("frost depth", partial(set_site, frost_depth=parse_length(t, system))),
    )
    yield Field(
        "above the ground",
        format_run(site.clearance, system),
        lambda t: desk.edit("clearance", partial(set_site, clearance=parse_length(t, system))),
    )
    now = next(
        (
            q
            for q in SOIL_CLASSES.values()
            if abs(q.bearing - site.soil_bearing) < 1e-9 and abs(q.fluid - site.fluid) < 1e-12
        ),
        None,
    )
    soils = [("typed", None), *SOIL_CLASSES.items()]
    yield Options(
        "soil",
        soils,
        now,
        lambda q: (
            desk.edit("soil", partial(set_site, soil_bearing=q.bearing, fluid=q.fluid))
            if q
            else None
        ),
    )
    yield Field(
        "soil bearing",
        format_area_load(site.soil_bearing, system),
        lambda t: desk.edit(
            "soil bearing", partial(set_site, soil_bearing=parse_soil_bearing(t, system))
        ),
    )

    def fluid(text: str) -> object:
        plain = text.lower().replace("pcf", "").replace("kn/m³", "").replace("kn/m3", "").strip()
        value = parse_number(plain) * (PCF if system == "us" else 1e-6)
        return desk.edit("weight of backfill", partial(set_site, fluid=value))

    shown = f"{site.fluid / PCF:.0f} pcf" if system == "us" else f"{site.fluid * 1e6:.1f} kN/m³"
    yield Field("backfill as a fluid", shown, fluid)
    yield Field(
        "load on the ground",
        format_area_load(site.surcharge, system),
        lambda t: desk.edit("surcharge", partial(set_site, surcharge=parse_area_load(t, system))),
    )
    yield Field("water stands", _water_words(desk), partial(_put_water, desk))
    eu = desk.project.code == "eu"
    species = [(x, x) for x in get_args(PlateSpecies) if (x in STRENGTH_CLASSES) == eu]
    yield Options(
        "plates of walls",
        species,
        site.plates,
        lambda v: desk.edit("plates of walls", partial(set_site, plates=v)),
    )
    yield from _wall_weight(desk)
    yield from _snow(desk)
    yield from wind_rows(desk)
    yield from left_open_rows(desk)


DRAINED: Final = "drained away"


def _water_words(desk: Desk) -> str:
    water = desk.project.site.water
    return DRAINED if water is None else f"{format_length(water, desk.system)} down"


def _put_water(desk: Desk, text: str) -> object:
    """How far under the ground water stands; emptied, it is drained away."""
    typed = text.lower().replace("down", "").strip()
    drained = typed in ("", DRAINED, "none")
    water = None if drained else parse_length(typed, desk.system)
    return desk.edit("water in the ground", partial(set_site, water=water))


def _snow(desk: Desk) -> Rows:
    """The snow on the ground, and what leads from it to the roofs that ask for it."""
    system, snow = desk.system, desk.project.site.snow
    yield Heading("Snow on the ground")

    def change(text: str) -> object:
        if text.strip().lower() in ("", NONE):
            return desk.edit("ground snow", partial(set_site, snow=None))
        ground = parse_area_load(text, system)
        now = replace(snow, ground=ground) if snow else GroundSnow(ground)
        return desk.edit("ground snow", partial(set_site, snow=now))

    yield Field("ground snow", format_area_load(snow.ground, system) if snow else NONE, change)
    if snow is None:
        yield Line("Roofs have what is typed for each.", quiet=True, small=True)
        return
    eu = desk.project.code == "eu"
    for name, field in (
        ("exposure Ce", "exposure"),
        ("thermal Ct", "thermal"),
        *(() if eu else (("importance Is", "importance"),)),
    ):
        yield Field(name, f"{getattr(snow, field):g}", partial(_snow_factor, desk, snow, field))
    kept = ("guarded", "kept on by guards") if eu else ("slides", "slippery, nothing in its way")
    yield Options(
        kept[1],
        [("no", False), ("yes", True)],
        getattr(snow, kept[0]),
        lambda v: desk.edit("snow", partial(set_site, snow=replace(snow, **{kept[0]: v}))),
    )
    follow = sum(r.snow_from == "site" for r in desk.project.roofs)
    yield Fact("roofs that follow it", f"{follow} of {len(desk.project.roofs)}")


NONE: Final = "none typed"


def _snow_factor(desk: Desk, snow: GroundSnow, field: str, text: str) -> object:
    value = parse_number(text)
    return desk.edit("snow", partial(set_site, snow=replace(snow, **{field: value})))


def _ask_for_place(desk: Desk, text: str) -> None:
    """Ask the site service what a place asks for, apart from the window."""
    place = text.strip()
    if not place:
        desk.edit("place", partial(set_site, place=""))
        return
    desk.say(f"Asking for {place} …  Esc leaves it.")
    desk.under_way = desk.face.apart(
        partial(ask, desk.site_service, place), partial(_take_sheet, desk), desk.say
    )


def _take_sheet(desk: Desk, sheet: SiteSheet) -> None:
    """Take in what the service says; roofs go on with what is typed for them until told."""
    desk.edit("site sheet", lambda p: checked(p, site=taken_in(p.site, sheet)))
    desk.say(f"{sheet.place}: frost, soil, snow and wind are those of the site service.")


def _ask_of_code(desk: Desk, code: Code) -> None:
    """Say what other codes change, and ask."""
    if code == desk.project.code:
        return
    words = " ".join(changed_by(desk.project, code))
    change = partial(desk.edit, "code", partial(change_code, code=code))
    desk.ask(words, [("Change the code", change), ("Stay", lambda: None)])


def _wall_weight(desk: Desk) -> Rows:
    """A field for what all walls weigh; emptied, each weighs what its layers do."""
    system, typed = desk.system, desk.project.site.wall_dead

    def change(text: str) -> object:
        layers = text.strip().lower() in ("", BY_LAYERS)
        return desk.edit(
            "weight of walls",
            partial(set_site, wall_dead=None if layers else parse_area_load(text, system)),
        )

    yield Field(
        "walls weigh", BY_LAYERS if typed is None else format_area_load(typed, system), change
    )


def points(desk: Desk) -> Rows:
    """How many pads, piers and posts there are."""
    there = desk.project.point_supports
    for kind in ("pad", "pier", "post"):
        count = sum(s.kind == kind for s in there)
        if count:
            yield Fact(f"{kind}s", str(count))


def points_alone(desk: Desk) -> Rows:
    """Fill the slip where only pads and piers stand in the ground yet."""
    yield Title("Foundation", "")
    yield from points(desk)
    yield Line(
        "P puts posts, pads and piers at crossings. No foundation wall is placed yet: G places"
        " one.",
        quiet=True,
    )
    yield from site(desk)
