"""Findings of members: nothing under an end, too short a bearing, used too far, longer than what is sold."""

import math
from collections.abc import Iterable
from typing import Final

from balken.design.sizing import LEAST_BEARING
from balken.fit.advice import BY_CHECK, advice_for
from balken.fit.finding import (
    Finding,
    length_text,
    run_text,
    us_clause,
)
from balken.fit.places import place_name
from balken.framing import kinds
from balken.framing.member import Member, Part, Support
from balken.geometry.plane import TOUCH
from balken.loads.path import place_of
from balken.model.catalogue import catalogue_of, sections_of
from balken.model.names import (
    HostName,
    Rest,
    whole_of,
)
from balken.model.project import Project
from balken.model.sections import STEEL
from balken.recall import remembered_piece
from balken.site.wall_weights import is_masonry
from balken.units import INCH
from balken.works.building import Checked, checks_of, is_over


def _by_host(members: Iterable[Member]) -> dict[HostName, list[Member]]:
    found: dict[HostName, list[Member]] = {}
    for member in members:
        found.setdefault(member.host, []).append(member)
    return found


def _marks(members: list[Member]) -> str:
    first = members[0].mark
    return first if len(members) == 1 else f"{first} and {len(members) - 1} more"


def supports(checked: Checked) -> Iterable[Finding]:
    project = checked.project
    loose = [m for part in checked.structure.parts for m in hanging(part)]
    for host, members in _by_host(loose).items():
        end = next(s.point for s in members[0].carrier.supports if not s.on)
        where = place_name(project, end)
        count = sum(not s.on for m in members for s in m.carrier.supports)
        yield Finding(
            "unsupported",
            f"{_marks(members)}, {where}",
            float(count),
            "count",
            f"{_marks(members)} {'has' if len(members) == 1 else 'have'} nothing under an end,"
            f" {where}."
            f" {advice_for(members[0].kind).hanging}.",
            host,
            tuple(m.id for m in members),
            end,
        )


@remembered_piece
def hanging(part: Part) -> tuple[Member, ...]:
    return tuple(
        m for m in part.members if m.kind.flows and any(not s.on for s in m.carrier.supports)
    )


def bearings(checked: Checked) -> Iterable[Finding]:
    """Ends that bear on too little: 1½ in on wood and steel, 3 in on concrete and masonry (IRC 2021
    R502.6)."""
    project = checked.project
    hard = _hard_walls(project)
    steel = {
        s.name for s in sections_of(project.system, project.products).values() if s.family in STEEL
    }
    short = [m for part in checked.structure.parts for m in _short(part, hard)]
    wood = [m for m in short if m.section not in steel]
    for host, members in _by_host(wood).items():
        rests = [
            (least_on(s.on, hard), s)
            for m in members
            for s in m.carrier.supports
            if s.on and not s.hung
        ]
        least, worst = max(rests, key=lambda rest: rest[0] - rest[1].length)
        yield _short_bearing(project, host, members, worst, least)


def _short_bearing(
    project: Project, host: HostName, members: list[Member], worst: Support, least: float
) -> Finding:
    lack, where = least - worst.length, place_name(project, worst.point)
    under = "wood on concrete or masonry" if least > LEAST_BEARING else "wood"
    return Finding(
        "bearing",
        f"{_marks(members)}, {where}",
        lack,
        "mm",
        f"{_marks(members)} bear only {run_text(project, worst.length)} {where}; {under} needs"
        f" {run_text(project, least)}{us_clause(project, 'IRC R502.6')}. Widen what is under it or move it by"
        f" {run_text(project, lack)}.",
        host,
        tuple(m.id for m in members),
        worst.point,
    )


LEAST_ON_HARD: Final = 3 * INCH
"""Least bearing of wood on concrete and masonry (IRC 2021 R502.6)."""


def least_on(on: Rest, hard_walls: frozenset[HostName]) -> float:
    """Least bearing on something by its name, mm."""
    kind = kinds.named(on)
    hard = kind is not None and kind.hard
    return LEAST_ON_HARD if hard or on in hard_walls else LEAST_BEARING


def _hard_walls(project: Project) -> frozenset[HostName]:
    """Walls of masonry or concrete, on which no plate lies, by what supports call them."""
    hard = {b.id for b in project.wall_build_ups if is_masonry(b)}
    return frozenset(HostName("wall", w.id) for w in project.walls if w.build_up in hard)


@remembered_piece
def _short(part: Part, hard_walls: frozenset[HostName]) -> tuple[Member, ...]:
    those = (
        *kinds.those(lambda k: k.spans),
        kinds.BEAM,
        kinds.TRIMMER,
        kinds.BOTTOM_CHORD,
        kinds.RIDGE_BEAM,
    )
    return tuple(
        m
        for m in part.members
        if m.kind in those
        and any(
            s.on and not s.hung and s.length < least_on(whole_of(s.on), hard_walls) - 0.5
            for s in m.carrier.supports
        )
    )


def over(checked: Checked) -> Iterable[Finding]:
    if not is_over(max((ratio for ratio, _ in checked.used.values()), default=0.0)):
        return
    over = [
        m
        for m in checked.structure.members
        if m.id in checked.used and is_over(checked.used[m.id][0])
    ]
    for host, members in _by_host(over).items():
        members.sort(key=lambda m: -checked.used[m.id][0])
        ratio, name = checked.used[members[0].id]
        help_ = advice_for(members[0].kind)
        mend = help_.mend(checked, members[0])
        advice = mend.text if mend else BY_CHECK.get(name, help_.over)
        yield Finding(
            "over",
            f"{_marks(members)}, {name.lower()}",
            ratio,
            "ratio",
            f"{_marks(members)}: {used_to(checked, members[0], ratio, name)}. {advice}.",
            host,
            tuple(m.id for m in members),
            place_of(members[0]),
            mend=mend,
        )


def used_to(checked: Checked, member: Member, ratio: float, name: str) -> str:
    """How far a check is used up, in words; where no number can be said, why."""
    if math.isfinite(ratio):
        return f"{name.lower()} is used to {ratio:.2f} of 1.00"
    check = next((c for c in checks_of(checked, member) if c.name == name), None)
    lines = check.lines if check else ()
    why = next((s.how.rstrip(".") for s in lines if not math.isfinite(s.value) and s.how), "")
    return (
        f"{name.lower()} cannot be"
        f" met{': ' + why[0].lower() + why[1:] if why else ', whatever the load'}"
    )


@remembered_piece
def _longer(part: Part, longest: float) -> tuple[Member, ...]:
    return tuple(m for m in part.members if m.kind.spans and m.blank > longest + TOUCH)


def stock(checked: Checked) -> Iterable[Finding]:
    project = checked.project
    longest = catalogue_of(project.system).stock[-1]
    lumber = [m for part in checked.structure.parts for m in _longer(part, longest)]
    for host, members in _by_host(lumber).items():
        worst = max(members, key=lambda m: m.blank)
        yield Finding(
            "too long",
            f"{_marks(members)}",
            worst.blank - longest,
            "mm",
            f"{_marks(members)} need {length_text(project, worst.blank)} in one piece; the longest"
            " sold is"
            f" {length_text(project, longest)}. Put a bearing wall or a beam between.",
            host,
            tuple(m.id for m in members),
            place_of(worst),
        )
