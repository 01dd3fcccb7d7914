"""Wind and earthquake of the site: how strong, and what they ask of each storey."""

from functools import partial
from typing import Any, Final, get_args

from msgspec.structs import replace

from balken.fit.wind_findings import compass
from balken.framing.hosts.walls import rule_of
from balken.loads.sideways import Storey
from balken.loads.wind import wind_by
from balken.model.edits import set_site
from balken.model.edits.common import checked
from balken.model.edits.wall_frames import let_brace
from balken.model.names import HostName
from balken.model.project import wall
from balken.model.wind import Earthquake, Exposure, Terrain, Wind
from balken.session.desk import Desk
from balken.session.rows import Checks, Fact, Field, Heading, Line, Link, Options, Rows
from balken.units import (
    System,
    format_force,
    format_length,
    format_line_load,
    format_run,
    format_speed,
    parse_length,
    parse_speed,
)
from balken.units.number import parse_number, parse_several
from balken.works.bracing import End, between_openings, braced_lines, check_of, ends_of, is_slack
from balken.works.diaphragms import worst_decks
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
    yield from _decks(desk)
    yield from _held(desk, system)


def _decks(desk: Desk) -> Rows:
    """Floors and roofs as beams on their side."""
    site, system = desk.project.site, desk.system
    found = worst_decks(desk.checked)
    if not found:
        return
    yield Heading("Floors and roofs on their side")
    yield Options(
        "edges of panels",
        [("free between joists", False), ("on blocking", True)],
        site.blocked,
        lambda v: desk.edit("edges of panels", partial(set_site, blocked=v)),
    )

    def thick(text: str) -> object:
        mm = 0.0 if text.strip().lower() in ("", "usual") else parse_length(text, system)
        return desk.edit("panels on roofs", partial(set_site, roof_panels=mm))

    now = format_run(site.roof_panels, system) if site.roof_panels else "usual"
    yield Field("panels on roofs", now, thick)
    for deck in found.values():
        what = deck.panels.what if deck.panels else "top"
        where = f"{what} at {format_length(deck.storey.top, system)}"
        asked = format_line_load(deck.unit, system)
        chord = format_force(deck.chord, system)
        yield Fact(where, f"{compass(deck.storey.way)}: {asked}, {chord} along its edge")
        if deck.decked.why:
            yield Line(f"Not checked: {deck.decked.why}.", quiet=True, small=True)
        elif deck.checks:
            yield Checks(deck.checks)


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
    """What the panels of a wall's line hold, stretch by stretch, and what must be held down at their
    ends."""
    system = desk.system
    for braced in braced_lines(desk.checked):
        rule = rule_of(desk.project, wall(desk.project, key))
        if key not in braced.line.walls or rule is None or rule.panels is None:
            continue
        check = check_of(braced)
        if check is not None:
            yield Checks((check,))
        ends = ends_of(desk.checked.built, braced)
        yield from _stretches(desk, key, {e.stretch.low: e for e in ends if e.stretch.wall == key})
    held = [h for h in held_ends(desk.checked) if h.wall == key]
    if held:
        yield Heading("Hold-downs", held[0].combination)
    for one in held:
        stud = stud_at(desk.checked, one)
        above = f", {format_force(one.above, system)} of it from above" if one.above else ""
        yield Fact(stud.mark if stud else "no stud", f"{format_force(one.pulls, system)}{above}")


def _stretches(desk: Desk, key: str, ends: dict[float, End]) -> Rows:
    """The stretches between openings: how each is held, and the word that lets it out or in again."""
    item, system = wall(desk.project, key), desk.system
    yield Heading("Stretches that brace")
    for stretch in between_openings(item):
        slack, end = is_slack(item, stretch), ends.get(stretch[0])
        where = f"{format_length(stretch[0], system)} to {format_length(stretch[1], system)}"
        if slack:
            words = "does not brace · let it"
        elif end is None:
            words = "too short · let it out"
        else:
            held = "pulls up" if end.pulls else "held by its load"
            sways = f", top goes {format_length(end.sways, system)}" if end.sways else ""
            words = f"{held}{sways} · let it out"
        change = partial(let_brace, key=key, stretch=stretch, braces=slack)
        yield Link(where, words, partial(desk.edit, "whether a stretch braces", change))


def _lines_of(sideways: tuple[Storey, ...], key: str) -> list[tuple[int, float, float]]:
    lines = [x for storey in sideways for x in storey.lines]
    return [(len(x.walls) - 1, x.wind, x.quake) for x in lines if key in x.walls]
