"""Wind and earthquake of the site: how strong, and what they ask of each storey."""

from functools import partial
from typing import Any, Final, get_args

from msgspec.structs import replace

from balken.fit.wind_findings import compass
from balken.loads.sideways import Storey
from balken.loads.wind import wind_by
from balken.model.edits import set_site
from balken.model.edits.common import checked
from balken.model.names import HostName
from balken.model.wind import Earthquake, Exposure, Terrain, Wind
from balken.session.desk import Desk
from balken.session.rows import Checks, Fact, Field, Heading, Line, Options, Rows
from balken.units import System, format_force, format_length, format_speed, parse_speed
from balken.units.number import parse_number, parse_several
from balken.works.bracing import braced_lines, check_of, ends_of
from balken.works.held_down import host_of, worst_by_host
from balken.works.overturning import held_ends, stud_at

NONE: Final = "none typed"
RECOMMENDED_ZONES: Final = "as recommended"


def wind_rows(desk: Desk) -> Rows:
    """What is known of wind and earthquake, and what they come to."""
    yield Heading("Wind")
    yield from _wind(desk)
    if desk.project.code == "us":
        yield Heading("Earthquake")
        yield from _earthquake(desk)
    yield from _asked(desk)


def _wind(desk: Desk) -> Rows:
    system, wind = desk.system, desk.project.site.wind

    def speed(text: str) -> object:
        if text.strip().lower() in ("", NONE):
            return _put(desk, "wind", None)
        found = parse_speed(text, system)
        return _put(desk, "wind", replace(wind, speed=found) if wind else Wind(found))

    yield Field(
        "wind speed",
        format_speed(wind.speed, system) if wind else NONE,
        speed,
        example="115 mph" if system == "us" else "24 m/s",
    )
    if wind is None:
        return
    if desk.project.code == "us":
        yield _choice(desk, wind, "exposure", "exposure", [(x, x) for x in get_args(Exposure)])
    else:
        yield _choice(desk, wind, "terrain", "terrain", [(x, x) for x in get_args(Terrain)])
    factor = "topography Kzt" if desk.project.code == "us" else "orography c0"
    yield Field(
        factor,
        f"{wind.topography:g}",
        lambda t: _put(desk, "wind", replace(wind, topography=parse_number(t))),
    )
    yield _choice(desk, wind, "building is", "enclosed", [("enclosed", True), ("part open", False)])
    yield from _zones(desk, wind)


def _zones(desk: Desk, wind: Wind) -> Rows:
    """Suction on rafters as components."""
    eu = desk.project.code == "eu"
    none = RECOMMENDED_ZONES if eu else NONE

    def put(text: str) -> object:
        if text.strip().lower() in ("", none, NONE):
            return _put(desk, "wind", replace(wind, zones=None))
        return _put(desk, "wind", replace(wind, zones=parse_several(text, 3, "1.0, 1.4, 1.8")))

    shown = none if wind.zones is None else ", ".join(f"{c:g}" for c in wind.zones)
    yield Field("cpe of H, G, F" if eu else "GCp of zones", shown, put, example="1.0, 1.4, 1.8")
    words = "Rafters by the zones they lie in" if eu or wind.zones else "Zones of roofs: type GCp"
    more = "" if eu else ": inside, along edges, in corners (figure 30.3-2)"
    yield Line(f"{words}{more}.", quiet=True, small=True)


def _earthquake(desk: Desk) -> Rows:
    shake = desk.project.site.earthquake

    def change(field: str, text: str) -> object:
        if field == "sds" and text.strip().lower() in ("", NONE):
            return _put(desk, "earthquake", None)
        value = parse_number(text)
        # S_D1 is rarely more than S_DS; until it is typed it is taken as large.
        now = replace(shake, **{field: value}) if shake else Earthquake(value, value)
        return _put(desk, "earthquake", now)

    yield Field("SDS", f"{shake.sds:g}" if shake else NONE, partial(change, "sds"))
    if shake is None:
        return
    for name, field in (("SD1", "sd1"), ("S1", "s1"), ("R", "response"), ("Ie", "importance")):
        yield Field(name, f"{getattr(shake, field):g}", partial(change, field))


def _put(desk: Desk, field: str, value: Wind | Earthquake | None) -> object:
    return desk.edit(
        f"{field} of the site", lambda p: checked(p, site=replace(p.site, **{field: value}))
    )


def _choice(
    desk: Desk, wind: Wind, name: str, field: str, values: list[tuple[str, Any]]
) -> Options:
    return Options(
        name,
        values,
        getattr(wind, field),
        lambda v: _put(desk, "wind", replace(wind, **{field: v})),
    )


def _asked(desk: Desk) -> Rows:
    """What comes to each storey, and what of the building must be held down."""
    site, system = desk.project.site, desk.system
    if site.wind is None and site.earthquake is None:
        return
    yield Heading("Sideways")
    yield Options(
        "floors hand on",
        [("by areas", "by areas"), ("as stiff plates", "stiff")],
        site.diaphragms,
        lambda v: desk.edit("how floors hand on", partial(set_site, diaphragms=v)),
    )
    for storey in desk.checked.sideways:
        yield Fact(
            f"to {format_length(storey.top, system)}",
            f"{compass(storey.way)}: {push_words(storey.wind, storey.quake, system)}",
        )
    yield Line("Before any factor; each wall’s share is in its slip.", quiet=True, small=True)
    yield from _held(desk, system)


def push_words(wind: float, quake: float, system: System) -> str:
    """What wind and earthquake push, in words."""
    found = [f"wind {format_force(wind, system)}"] if wind else []
    found += [f"earthquake {format_force(quake, system)}"] if quake else []
    return ", ".join(found) or "nothing"


def _held(desk: Desk, system: System) -> Rows:
    straps = desk.checked.straps
    if not straps:
        yield Fact("straps", "dead load holds everything down")
        return
    names = {r.id: r.name for r in desk.project.roofs}
    yield Heading("Held down against wind")
    for host, strap in worst_by_host(straps).items():
        if host.kind == "roof":
            count = sum(host_of(s) == host for s in straps)
            force = format_force(strap.force, system)
            yield Fact(names.get(host.key, host.key), f"{count} ends, up to {force} each")
    yield Line(
        f"{_holding_words(desk)}.",
        quiet=True,
        small=True,
    )


def _holding_words(desk: Desk) -> str:
    return wind_by(desk.project.code, desk.project.site.left_open).holding_words


def wall_rows(desk: Desk, key: str) -> Rows:
    """What wind and earthquake ask of a wall: its line's force along it, and what lifts it."""
    system, found = desk.system, list(_lines_of(desk.checked.sideways, key))
    lifted = [s for s in desk.checked.straps if s.what == HostName("wall", key)]
    if not found and not lifted:
        return
    yield Heading("Wind and earthquake")
    for others, wind, quake in found:
        beside = f" with {others} more" if others else ""
        yield Fact("along its line", push_words(wind, quake, system) + beside)
    yield from _held_along(desk, key)
    for strap in lifted:
        force = format_force(strap.force, system)
        yield Fact(
            "lifts",
            f"{force} beyond {_holding_words(desk)}",
        )


def _held_along(desk: Desk, key: str) -> Rows:
    """What the panels of a wall's line hold, and what must be held down at the ends of its
    stretches."""
    system = desk.system
    for braced in braced_lines(desk.checked):
        if key not in braced.line.walls or not braced.stretches:
            continue
        check = check_of(braced)
        if check is not None:
            yield Checks((check,))
        mine = [e for e in ends_of(desk.project, braced) if e.stretch.wall == key]
        for end in mine:
            where = f"{format_length(end.stretch.low, system)} to {format_length(end.stretch.high, system)}"
            sways = f", top goes {format_length(end.sways, system)}" if end.sways else ""
            held = "held by its load" if not end.pulls else "pulls up"
            yield Fact(where, f"{held}{sways}")
    for held_end in held_ends(desk.checked):
        if held_end.wall == key:
            stud = stud_at(desk.checked, held_end)
            above = format_force(held_end.above, system)
            words = f"{format_force(held_end.pulls, system)} ({held_end.combination})"
            words += f", {above} of it from above" if held_end.above else ""
            yield Fact(f"hold down {stud.mark}" if stud else "hold down", words)


def _lines_of(sideways: tuple[Storey, ...], key: str) -> list[tuple[int, float, float]]:
    lines = [x for storey in sideways for x in storey.lines]
    return [(len(x.walls) - 1, x.wind, x.quake) for x in lines if key in x.walls]
