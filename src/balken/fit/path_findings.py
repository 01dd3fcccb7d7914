"""Findings on the way of loads: what finds nothing under it, and what lies on no member."""

import math
from collections.abc import Iterable
from functools import partial

from balken.fit.finding import Finding
from balken.fit.member_findings import hanging
from balken.fit.places import place_name
from balken.geometry.plane import Point
from balken.loads.path import BALANCE, SPECK, Beside
from balken.model.cases import greatest_of, total
from balken.model.names import (
    HostName,
    MemberName,
    Rest,
    ThingName,
    in_words,
    whole_of,
)
from balken.model.project import host_record, level, wall_base
from balken.model.walls import called
from balken.units import System, format_area, format_force
from balken.works.building import Checked


def path_of_loads(checked: Checked) -> Iterable[Finding]:
    """What finds nothing under it, what lies on no member, and what is lost on the way."""
    by_source = _open_by_source(checked)
    if not checked.project.runs and by_source:
        yield _nothing_under(checked, by_source)
        return
    yield from _open_ends(checked, by_source)
    yield from map(partial(_beside, checked), checked.path.beside)
    yield from _lost_on_the_way(checked)


def _open_by_source(checked: Checked) -> dict[Rest, list[tuple[Point, float]]]:
    """Loads that find nothing further down, by what they come from; members whose ends have nothing
    under them have a line of their own."""
    unsupported: set[Rest] = {m.id for part in checked.structure.parts for m in hanging(part)}
    found: dict[Rest, list[tuple[Point, float]]] = {}
    for end in checked.path.open_ends:
        if end.source not in unsupported:
            found.setdefault(end.source, []).append(((end.x, end.y), sum(end.forces.down)))
    return found


def _open_ends(
    checked: Checked, by_source: dict[Rest, list[tuple[Point, float]]]
) -> Iterable[Finding]:
    if not by_source:
        return
    project = checked.project
    names: dict[Rest, str] = {HostName("wall", w.id): called(w) for w in project.walls}
    names |= {HostName("load", x.id): x.name for x in project.loads}
    marks: dict[Rest, str] = {m.id: m.mark for m in checked.structure.members}
    for source, ends in by_source.items():
        force = sum(f for _, f in ends)
        what = names.get(whole_of(source)) or marks.get(source) or in_words(source)
        where = place_name(project, ends[0][0])
        yield Finding(
            "load path",
            f"{what}, {where}",
            force,
            "N",
            f"{format_force(force, project.system)} from {what} find nothing that carries them"
            f" further down, {where}."
            " Put a wall, a beam or a footing under it.",
            source,
            (source,) if isinstance(source, MemberName) else (),
            ends[0][0],
        )


def _beside(checked: Checked, found: Beside) -> Finding:
    """Load on a floor or a roof that its members do not carry, or carry twice."""
    project = checked.project
    name = getattr(host_record(project, found.host), "name", in_words(found.host))
    force, area = abs(math.fsum(found.forces.down)), format_area(abs(found.area), project.system)
    if math.fsum(found.forces.down) > 0:
        words = (
            f"{name}: {_force(force, project.system)} lie on {area} that none of its members"
            " carries."
        )
        help_ = " Its outline reaches past them: turn them, move its edge, or place one more."
    else:
        words = (
            f"{name}: its members carry {_force(force, project.system)} more than lies on it,"
            f" {area} twice."
        )
        help_ = (
            " Where its sides run together, two of them count the same strip: they carry more than"
            " they must."
        )
    return Finding("load path", name, force, "N", words + help_, found.host, ())


def _force(force: float, system: System) -> str:
    words = format_force(force, system)
    return (
        words
        if any(c in "123456789" for c in words)
        else f"less than {'1 lb' if system == 'us' else '0.01 kN'}"
    )


def _lost_on_the_way(checked: Checked) -> Iterable[Finding]:
    """What comes into the soil or ends in the open must be what was applied, less what lies beside
    the members."""
    path = checked.path
    ended = total(
        (
            *path.soil.values(),
            *(e.forces for e in path.open_ends),
            *(b.forces for b in path.beside),
        )
    )
    short = path.applied - ended
    if greatest_of(short) > max(SPECK, BALANCE * greatest_of(path.applied)):
        yield Finding(
            "load path",
            "whole building",
            greatest_of(short),
            "N",
            f"{_force(greatest_of(short), checked.project.system)} of the applied load are not found again"
            " in the soil."
            " Something in the building cannot be followed; do not build on these loads.",
            None,
            (),
        )


def _nothing_under(checked: Checked, by_source: dict[Rest, list[tuple[Point, float]]]) -> Finding:
    """Before there is a foundation, one line says so for the whole building."""
    project = checked.project
    force = math.fsum(f for ends in by_source.values() for _, f in ends)
    walls = len({whole_of(s) for s in by_source})
    lowest = min(project.walls, key=lambda w: (wall_base(project, w), w.id))
    return Finding(
        "load path",
        f"under {level(project, lowest.base).name}",
        force,
        "N",
        f"{format_force(force, project.system)} from {walls} {'wall' if walls == 1 else 'walls'}"
        " find nothing that carries"
        " them further down: there is no foundation yet. Place a foundation.",
        ThingName("walls", lowest.base),
    )
