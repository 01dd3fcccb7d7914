"""Findings on lines of walls: what wind and earthquake ask along them and what they hold, with the least
that would do."""

import math
from collections.abc import Iterable, Iterator
from functools import partial
from typing import Final

from msgspec.structs import replace

from balken.fit.finding import Finding, Mend
from balken.fit.places import place_name
from balken.fit.wind_findings import compass
from balken.framing.hosts.walls import rule_of
from balken.geometry.plane import add, distance
from balken.model.edits.wall_frames import EDGES, OFFERED, let_brace, rule_studs_of
from balken.model.names import ThingName
from balken.model.project import Project, wall
from balken.model.wall_frames import Panels
from balken.model.walls import arc_middle, called, direction_of
from balken.units import format_force, format_run
from balken.works.bracing import Braced, braced_lines, held_with
from balken.works.building import Checked, is_over
from balken.works.overturning import HeldEnd, held_ends, pressed_ends, stud_at


def bracing_findings(checked: Checked) -> Iterable[Finding]:
    """Lines of framed walls that hold less than comes along them, and ends of panels that nothing below
    can hold down."""
    for line in braced_lines(checked):
        framed = any(rule_of(checked.built, wall(checked.built, k)) for k in line.line.walls)
        if framed and (is_over(line.used) or line.why):
            yield _lacking(checked, line)
    yield from _held_by_nothing(checked)
    yield from _pressed_too_far(checked)


def _pressed_too_far(checked: Checked) -> Iterable[Finding]:
    """Studs at ends of panels that bear less than what pushes them beside what comes down."""
    over = [p for p in pressed_ends(checked) if is_over(p[2])]
    if not over:
        return
    end, stud, ratio = max(over, key=lambda p: (p[2], p[1].mark))
    force = format_force(end.pushes, checked.project.system)
    more = f" and {len(over) - 1} more" if len(over) > 1 else ""
    at = (stud.start[0], stud.start[1])
    yield Finding(
        "over",
        f"{stud.mark}{more}, end of panels",
        ratio,
        "ratio",
        f"{stud.mark}{more}: panels push it with {force} ({end.combination}) beside what comes down on"
        f" it, {place_name(checked.project, at)}; it is used to {ratio:.2f} of 1.00. Brace a longer"
        " stretch, or cut the studs from a larger section.",
        stud.host,
        tuple(p[1].id for p in over),
        at=at,
    )


def _held_by_nothing(checked: Checked) -> Iterable[Finding]:
    """Where the panels of a wall pull at what has no stud there: over an opening of the wall below."""
    bare = [h for h in held_ends(checked) if stud_at(checked, h) is None]
    if not bare:
        return
    worst = max(bare, key=lambda h: (h.pulls, h.wall))
    item = wall(checked.built, worst.wall)
    force = format_force(worst.pulls, checked.project.system)
    more = f", and at {len(bare) - 1} more places" if len(bare) > 1 else ""
    yield Finding(
        "unchecked",
        f"{called(item)}, {place_name(checked.project, worst.at)}",
        worst.pulls,
        "N",
        f"The end of a stretch of panels pulls up with {force} ({worst.combination}) at"
        f" {called(item)}, {place_name(checked.project, worst.at)}{more}, and no stud stands there that"
        " a hold-down could be fixed to. Set openings over one another, let that stretch not"
        " brace, or check how it is held by hand.",
        ThingName("walls", item.base),
        at=worst.at,
        mend=_let_out(checked, worst),
    )


NEAR: Final = 10.0
"""The end of a stretch lies no further from what it pulls at, mm."""


def _let_out(checked: Checked, end: HeldEnd) -> Mend | None:
    """Let the stretch that pulls there not brace, where its line still holds all that comes along it."""
    for line in braced_lines(checked):
        for stretch in line.stretches:
            item = wall(checked.built, stretch.wall)
            way = direction_of(item)
            ends = (add(item.start, way, stretch.low), add(item.start, way, stretch.high))
            if min(distance(end.at, p) for p in ends) > NEAR:
                continue
            wind, quake = line.wind - stretch.wind.held, line.quake - stretch.quake.held
            if wind < line.line.wind or quake < line.line.quake:
                continue
            where = (stretch.low, stretch.high)
            change = partial(let_brace, key=item.id, stretch=where, braces=False)
            return Mend(f"Let that stretch of {called(item)} not brace", change)
    return None


def _lacking(checked: Checked, braced: Braced) -> Finding:
    project, system = checked.project, checked.project.system
    first = wall(project, braced.line.walls[0])
    more = len(braced.line.walls) - 1
    names = called(first) + (f" and {more} more" if more else "")
    asked = max(braced.line.wind, braced.line.quake)
    held = braced.wind if braced.line.wind >= braced.line.quake else braced.quake
    way = compass(braced.storey.way)
    mend = _least(checked, braced)
    helps = f" {mend.text}." if mend else " Add panels, a longer stretch of wall, or another wall."
    at = arc_middle(first)
    where = place_name(project, at)
    why = f": {braced.why}" if braced.why else ""
    if math.isfinite(braced.used):
        says = f"holds {format_force(held, system)}, used to {braced.used:.2f} of 1.00"
    else:
        says = f"holds nothing{why}"
    return Finding(
        "over" if math.isfinite(braced.used) else "unchecked",
        f"line of {names}",
        braced.used if math.isfinite(braced.used) else asked,
        "ratio" if math.isfinite(braced.used) else "N",
        f"The line of {names}, {where}, is asked for {format_force(asked, system)} {way} and"
        f" {says}.{helps}",
        ThingName("walls", first.base),
        at=at,
        mend=mend,
    )


def _least(checked: Checked, braced: Braced) -> Mend | None:
    """The least that makes a line hold: nails closer, then stronger panels, then both faces."""
    system = checked.project.system
    for panels in _offers(checked.built, braced):
        wind, quake = held_with(checked, braced, panels)
        enough = wind >= braced.line.wind and quake >= braced.line.quake
        if enough:
            faces = " on both faces" if panels.faces == 2 else ""
            apart = format_run(panels.edges, system)
            words = f"Nail {panels.panel} panels with {panels.nail} nails at {apart}{faces}"
            keys = tuple(braced.line.walls)
            return Mend(words, partial(rule_studs_of, keys=keys, panels=panels))
    return None


def _offers(project: Project, braced: Braced) -> Iterator[Panels]:
    """What may be nailed, the least first: the panels that are there, then stronger ones."""
    rules = (rule_of(project, wall(project, k)) for k in braced.line.walls)
    now = next((r.panels for r in rules if r is not None and r.panels is not None), None)
    offered = OFFERED[project.system]
    kinds = [p for p in offered if now is None or p.thick >= now.thick - 0.1]
    if now is not None:
        kinds = [now, *(p for p in kinds if (p.panel, p.nail) != (now.panel, now.nail))]
    else:
        kinds = kinds[2:] + kinds[:2] if project.system == "us" else kinds[1:]
    for faces in (1, 2):
        for panels in kinds:
            for edges in EDGES[project.system]:
                yield replace(panels, edges=edges, faces=faces)
