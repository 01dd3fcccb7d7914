"""The chapters of the calculation book before its members: what it rests on, the way of the loads,
wind and earthquake; and the list of all members at its end."""

from collections.abc import Iterable, Iterator, Sequence
from typing import Final

from balken.drawing.book.flow import (
    Column,
    Piece,
    gap,
    heading,
    line,
    paragraph,
    row,
    table,
    width_of,
)
from balken.drawing.words import pretty
from balken.fit.finding import Finding
from balken.fit.wind_findings import compass
from balken.loads.path import area_loads, loads_on_areas
from balken.loads.wind import wind_by
from balken.model.cases import CASE_NAMES, CASE_WORDS, Cases, total
from balken.model.floors import FloorArea
from balken.model.names import HostName
from balken.model.project import host_records
from balken.model.roofs import RoofArea
from balken.units import (
    System,
    format_area,
    format_area_load,
    format_force,
    format_length,
    format_speed,
    format_stress,
)
from balken.works.building import Checked
from balken.works.held_down import worst_by_host
from balken.works.terms import terms_of


def basis(checked: Checked) -> Iterator[Piece]:
    """The codes, the site, the materials, and what lies on floors and roofs."""
    project, system = checked.built, checked.project.system
    site = project.site
    yield heading("Basis")
    yield from paragraph(f"Codes: {CODES[project.code]}", system)
    yield line(f"Timber: {terms_of(project).timber.basis}.")
    facts = [
        ("soil bearing", format_area_load(site.soil_bearing, system)),
        ("frost depth", format_length(site.frost_depth, system)),
        ("concrete", format_stress(site.strength, system)),
        ("bars, yield", format_stress(site.steel, system)),
    ]
    if site.place:
        facts.insert(0, ("place", site.place))
    if site.snow is not None:
        facts.append(("snow on the ground", format_area_load(site.snow.ground, system)))
    if site.wind is not None:
        ground = site.wind.exposure if project.code == "us" else site.wind.terrain
        word = "exposure" if project.code == "us" else "terrain"
        facts.append(("wind", f"{format_speed(site.wind.speed, system)}, {word} {ground}"))
    if site.earthquake is not None:
        shake = site.earthquake
        facts.append(("earthquake", f"SDS {shake.sds:g}, SD1 {shake.sd1:g}, R {shake.response:g}"))
    columns = (Column("site", 0.0), Column("", 55.0))
    yield gap()
    yield from table(columns, facts, system)
    yield gap()
    yield from _materials(checked)
    yield gap()
    yield from _on_areas(checked)


CODES: Final = {
    "us": "IRC 2021; ASCE 7-16, allowable stress combinations 2.4.1; NDS-2018; AISC 360-16 (ASD);"
    " ACI 318-19 with strength combinations; SDPWS-2015.",
    "eu": "EN 1990, EN 1991-1-1, -1-3 and -1-4, EN 1992-1-1, EN 1993-1-1, EN 1995-1-1 and"
    " EN 1997-1 with recommended values; EN 338:2016, EN 14080:2013.",
}


def _materials(checked: Checked) -> Iterable[Piece]:
    counts: dict[tuple[str, str], int] = {}
    for m in checked.structure.members:
        if m.material and m.material != "concrete":
            key = (m.material, m.role)
            counts[key] = counts.get(key, 0) + 1
    rows = [(role, material, str(n)) for (material, role), n in sorted(counts.items())]
    columns = (Column("pieces", 0.0), Column("of", 55.0), Column("count", 120.0, right=True))
    yield from table(columns, rows, checked.project.system)


def _on_areas(checked: Checked) -> Iterable[Piece]:
    """What lies on each floor and roof, per area."""
    system = checked.project.system
    cases = [n for n in CASE_NAMES if any(getattr(area_loads(r), n) for r in _areas(checked))]
    columns = [Column("floor or roof", 0.0), *case_columns(cases, 50.0, system)]
    rows = []
    for record in _areas(checked):
        loads = area_loads(record)
        amounts = [
            format_area_load(abs(x), system) if (x := getattr(loads, n)) else "–" for n in cases
        ]
        rows.append([record.name, *amounts])
    yield from table(columns, rows, system)
    yield line("Dead load of roofs lies on the slope; all else on the plan.", quiet=True)


def case_columns(cases: Sequence[str], first: float, system: System) -> list[Column]:
    """A column a case, from a place to the edge of the page, mm."""
    wide = min(26.0, (width_of(system) - first) / max(1, len(cases)))
    return [Column(CASE_WORDS[n], first + wide * (i + 1), right=True) for i, n in enumerate(cases)]


def _areas(checked: Checked) -> list[FloorArea | RoofArea]:
    return [*checked.built.floors, *checked.built.roofs]


def loads(checked: Checked) -> Iterator[Piece]:
    """Where the loads come from, where they go, and that the two agree."""
    project, system, path = checked.built, checked.project.system, checked.path
    cases = [n for n in CASE_NAMES if getattr(path.applied, n)]
    columns = [Column("", 0.0), *case_columns(cases, 62.0, system)]

    def cells(words: str, forces: Cases) -> list[str]:
        found = [getattr(forces, n) for n in cases]
        return [words, *(format_force(f, system) if abs(f) >= 1.0 else "–" for f in found)]

    yield heading("The way of the loads")
    yield from paragraph(
        "Every load goes to what lies under it, from the roof down. Both columns of sums are made"
        " apart: what is applied from areas, lengths and volumes, what comes into the soil by"
        " following every reaction.",
        system,
    )
    names = {h: getattr(r, "name", h.key) for h, r in host_records(project).items()}
    on_areas = loads_on_areas(project, checked.structure)
    lying = [cells(f"{names[x.host]}, {format_area(x.plan, system)}", x.forces) for x in on_areas]
    rest = path.applied - total(x.forces for x in on_areas)
    rows = [*lying, cells("walls, concrete, beams, typed and drawn", rest)]
    yield from table(columns, rows, system)
    yield row(columns, cells("applied", path.applied), bold=True)
    yield gap()
    into: dict[HostName, list[Cases]] = {}
    for member, forces in path.soil.items():
        into.setdefault(member.host, []).append(forces)
    soil = [cells(_foundation(checked, h), total(each)) for h, each in into.items()]
    yield from table(columns, soil, system)
    yield row(columns, cells("into the soil", path.soil_total), bold=True)
    open_ = total([e.forces for e in path.open_ends] + [b.forces for b in path.beside])
    if open_:
        yield row(columns, cells("nothing takes over", open_), bold=True)


def _foundation(checked: Checked, host: HostName) -> str:
    names = {HostName("run", r.id): f"foundation {r.name}" for r in checked.project.runs}
    return names.get(host, f"{host.kind} {host.key}")


def sideways(checked: Checked) -> Iterator[Piece]:
    """Wind and earthquake by storey and line of walls, and what the wind lifts."""
    system, rules = (
        checked.project.system,
        wind_by(checked.project.code, checked.project.site.left_open),
    )
    if not checked.sideways and not checked.straps:
        return
    yield heading("Wind and earthquake")
    yield line(f"{rules.clause}. Forces before any factor.", quiet=True)
    columns = (
        Column("storey ends at", 0.0),
        Column("acts", 32.0),
        Column("walls", 75.0),
        Column("wind", 145.0, right=True),
        Column("earthquake", 172.0, right=True),
    )
    rows: list[tuple[str, str, str, str, str]] = []
    for s in checked.sideways:
        top, way = format_length(s.top, system), compass(s.way)
        forces = format_force(s.wind, system), format_force(s.quake, system)
        rows.append((top, way, "all", *forces))
        for x in s.lines:
            forces = format_force(x.wind, system), format_force(x.quake, system)
            rows.append(("", "", ", ".join(x.walls)[:34], *forces))
    yield from table(columns, rows, system)
    yield gap()
    if not checked.straps:
        yield line(f"Dead load holds everything down ({rules.holding_words}).")
        return
    yield line(f"What must be held down ({rules.holding_words}), the most of each:", bold=True)
    held = worst_by_host(checked.straps)
    two = (Column("of", 0.0), Column("force", 110.0, right=True))
    each = [(f"{h.kind} {h.key}", format_force(s.force, system)) for h, s in held.items()]
    yield from table(two, each, system)


def members(checked: Checked) -> Iterator[Piece]:
    """Every member that is checked, with how far it is used."""
    system = checked.project.system
    yield heading("All members", new_page=True)
    columns = (
        Column("mark", 0.0),
        Column("is", 30.0),
        Column("cut from", 65.0),
        Column("long", 112.0, right=True),
        Column("used", 126.0, right=True),
        Column("by", 130.0),
    )
    rows = [
        (
            m.mark,
            m.role,
            " ".join(dict.fromkeys((pretty(m.section), pretty(m.material))))[:26],
            format_length(m.length, system),
            f"{checked.used[m.id][0]:.2f}",
            checked.used[m.id][1],
        )
        for m in checked.structure.members
        if m.id in checked.used
    ]
    yield from table(columns, rows, system)


def open_points(findings: Iterable[Finding], checked: Checked) -> Iterator[Piece]:
    """What does not fit, and what is not checked: nobody who reads the book may miss it."""
    found = list(findings)
    yield heading("What is open")
    if not found:
        yield line("Nothing: everything fits, and all that carries is checked.")
    for f in found:
        yield from paragraph(f"• {f.text}", checked.project.system)
        yield gap(1.0)
