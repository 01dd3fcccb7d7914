"""What does not fit in roofs: what pushes walls apart untied, ridges too flat, notches too deep,
skylights across lines, roofs that run on to nothing."""

import math
from collections.abc import Iterable
from functools import partial
from typing import Final

from balken.design.thrust import raised_factor
from balken.fit.finding import (
    Finding,
    Mend,
    run_text,
    us_clause,
)
from balken.fit.places import place_name
from balken.framing import kinds
from balken.framing.member import Member
from balken.framing.roofs.shape import placed_opening
from balken.geometry.plane import TOUCH, Point, dot, sub, unit
from balken.model.catalogue import sections_of
from balken.model.edits.roofs import remove_roof_opening, set_rafters, set_roof
from balken.model.names import HostName, in_words, wall_key
from balken.model.roofs import RoofArea
from balken.units import format_force
from balken.units.pitch import format_pitch
from balken.works.building import Checked, is_over
from balken.works.thrust import TIES, Thrust, thrust_of

FLATTEST: Final = 3 / 12
"""A flatter roof needs a ridge that carries (IRC 2021 R802.4.4)."""
NOTCH: Final = 0.25
"""Depth of a birdsmouth over the depth of the rafter, at most (IRC 2021 R802.7.1, from memory)."""


def roof_findings(checked: Checked) -> Iterable[Finding]:
    """What does not fit in the roofs of a building."""
    for roof in checked.project.roofs:
        if HostName("roof", roof.id) in checked.structure.roofs:
            yield from _openings(checked, roof)
            yield from _runs_on(checked, roof)
            if roof.framing == "rafters":
                yield from _flat(checked, roof)
                yield from _pushes(checked, roof)
                yield from _ties(checked, roof)
                yield from _notches(checked, roof)
                yield from _lined_up(checked, roof)
                yield from _raised(checked, roof)
            else:
                yield from _unchecked(checked, roof)


def _unchecked(checked: Checked, roof: RoofArea) -> Iterable[Finding]:
    host = HostName("roof", roof.id)
    if host not in checked.trusses and all(h != host for h, _ in checked.structure.unframed):
        yield Finding(
            "unsupported",
            f"trusses of roof {roof.name}",
            1.0,
            "count",
            f"The trusses of roof {roof.name} cannot be checked: a truss of this shape would fold"
            " under its roof, or the tables"
            f" hold no values for {roof.species} {roof.grade} in its chords. Choose another shape,"
            " or other lumber.",
            host,
        )


def _openings(checked: Checked, roof: RoofArea) -> Iterable[Finding]:
    shape = checked.structure.roofs[HostName("roof", roof.id)]
    for item in roof.openings:
        found = placed_opening(shape, item)
        if isinstance(found, str):
            where = place_name(checked.project, item.at)
            yield Finding(
                "overlap",
                f"{item.use} {item.id}, {where}",
                1.0,
                "count",
                f"The {item.use} {item.id} of roof {roof.name}, {where}, is left out: {found}."
                " Move it up or down the slope, or"
                " make it smaller.",
                HostName("roof", roof.id),
                at=item.at,
                mend=Mend(
                    f"Take the {item.use} away",
                    partial(remove_roof_opening, key=roof.id, opening=item.id),
                ),
            )


def _runs_on(checked: Checked, roof: RoofArea) -> Iterable[Finding]:
    shape = checked.structure.roofs[HostName("roof", roof.id)]
    others = [h for h in checked.structure.roofs if h != HostName("roof", roof.id)]
    for edge in shape.edges:
        if edge.rule.kind == "runs on" and not others:
            middle = ((edge.a[0] + edge.b[0]) / 2, (edge.a[1] + edge.b[1]) / 2)
            yield Finding(
                "gap",
                f"roof {roof.name}, {place_name(checked.project, middle)}",
                1.0,
                "count",
                f"Roof {roof.name} runs on past its side {edge.name}, and there is no other roof"
                " for it to meet. Place the"
                " roof it runs into, or give the side a gable.",
                HostName("roof", roof.id),
                at=middle,
            )


def _flat(checked: Checked, roof: RoofArea) -> Iterable[Finding]:
    shape = checked.structure.roofs[HostName("roof", roof.id)]
    ridged = any(m.host == HostName("roof", roof.id) for m in checked.structure.of(kinds.RIDGE))
    low = min((f.pitch for f in shape.roof.faces if f.pitch > 1e-9), default=1.0)
    if ridged and low < FLATTEST - 1e-9:
        system = checked.project.system
        yield Finding(
            "unsupported",
            f"ridge of roof {roof.name}",
            low / FLATTEST,
            "ratio",
            f"Roof {roof.name} rises {format_pitch(low * 12, system)}, under"
            f" {format_pitch(3.0, system)}: its rafters do not lean"
            " against a ridge board, a beam must carry"
            f" them{us_clause(checked.project, 'IRC R802.4.4')}.",
            HostName("roof", roof.id),
            mend=_with_beam(roof),
        )


def _with_beam(roof: RoofArea) -> Mend:
    return Mend("Make the ridge a beam", partial(set_rafters, key=roof.id, ridge="beam"))


def _pushes(checked: Checked, roof: RoofArea) -> Iterable[Finding]:
    thrust: Thrust | None = thrust_of(checked.built, checked.structure, roof)
    if thrust is not None and not thrust.tied_by:
        yield Finding(
            "unsupported",
            f"roof {roof.name}, its plates",
            thrust.force,
            "N",
            f"The rafters of roof {roof.name} push its walls apart by"
            f" {format_force(thrust.force, checked.project.system)} each"
            f" ({thrust.combination}), and nothing ties them"
            f" together{us_clause(checked.project, 'IRC R802.5.2')}. Tie the"
            " pairs, lay a ceiling whose"
            " joists run with the rafters, or let a ridge beam carry.",
            HostName("roof", roof.id),
            mend=_with_beam(roof),
        )


def _ties(checked: Checked, roof: RoofArea) -> Iterable[Finding]:
    """Ties that lie too high to hold the feet of rafters, and rafters that bend too much
    over raised ties."""
    thrust: Thrust | None = thrust_of(checked.built, checked.structure, roof)
    if thrust is None or thrust.tied_by != TIES or not roof.rafters.tie_up:
        return
    m = next(m for m in checked.structure.of(kinds.RAFTER) if m.id == thrust.member)
    rise = (m.carrier.supports[-1].at - m.carrier.supports[0].at) * m.slope
    factor = raised_factor(roof.rafters.tie_up, rise)
    if factor == 0.0:
        yield _ties_too_high(checked, roof, rise)
    elif factor < 1.0:
        yield from _bent_over_ties(checked, roof, factor)


def _lower_ties(roof: RoofArea) -> Mend:
    return Mend("Lay the ties on the plates", partial(set_rafters, key=roof.id, tie_up=0.0))


def _ties_too_high(checked: Checked, roof: RoofArea, rise: float) -> Finding:
    project, up = checked.project, roof.rafters.tie_up
    over = up - rise / 3
    return Finding(
        "unsupported",
        f"ties of roof {roof.name}",
        over,
        "mm",
        f"The ties of roof {roof.name} lie {run_text(project, up)} over its plates,"
        f" {run_text(project, over)} over"
        f" the lower third of"
        f" {run_text(project, rise)}{us_clause(project, 'IRC R802.5.2')}: they do not hold the"
        " feet of the rafters."
        " Lower them.",
        HostName("roof", roof.id),
        mend=_lower_ties(roof),
    )


def _bent_over_ties(checked: Checked, roof: RoofArea, factor: float) -> Iterable[Finding]:
    """Rafters that are used to more than they bear over raised ties."""
    project, host = checked.project, HostName("roof", roof.id)
    rafters = [m for m in checked.structure.of(kinds.RAFTER) if m.host == host]
    used = [checked.used[m.id][0] for m in rafters if m.id in checked.used]
    worst = max(used, default=0.0) / factor**2
    if is_over(worst):
        yield Finding(
            "over",
            f"rafters of roof {roof.name}",
            worst,
            "ratio",
            f"The ties of roof {roof.name} lie {run_text(project, roof.rafters.tie_up)} over its"
            f" plates: its rafters reach {factor:.2f} of what"
            f" they would{us_clause(project, 'IRC R802.4.1')}, and are used to {worst:.2f} of"
            " 1.00. Lower the ties, or choose stronger rafters.",
            host,
            mend=_lower_ties(roof),
        )


def _lined_up(checked: Checked, roof: RoofArea) -> Iterable[Finding]:
    """A roof whose rafters are to stand over what is not there, or does not run along
    them."""
    wanted, host = roof.rafters.line_up, HostName("roof", roof.id)
    mine = [_way(m) for m in checked.structure.of(kinds.RAFTER) if m.host == host]
    if wanted is None or not mine:
        return
    way = _way_of_rows(checked, wanted)
    if way is None or not any(abs(dot(way, v)) > ALONG for v in mine):
        what = "no longer there" if way is None else "not laid along its rafters"
        yield Finding(
            "module",
            f"rafters of roof {roof.name}",
            1.0,
            "count",
            f"The rafters of roof {roof.name} are to stand over {in_words(wanted)}, which is"
            f" {what}. Choose what they"
            " stand over, or set them out from an edge.",
            host,
            mend=Mend("Set them out from an edge", partial(set_rafters, key=roof.id, line_up=None)),
        )


def _way_of_rows(checked: Checked, host: HostName) -> Point | None:
    """The direction of a host's joists, rafters or trusses; None where it has none."""
    rows = (kinds.JOIST, kinds.CEILING_JOIST, kinds.RAFTER, kinds.BOTTOM_CHORD)
    there = [m for m in checked.structure.members if m.host == host and m.kind in rows]
    return next((_way(m) for m in there if m.carrier.supports), None)


def _way(m: Member) -> Point:
    return unit(sub(m.end[:2], m.start[:2]))


ALONG: Final = 0.999
"""Cosine of the angle between pieces that run along one another."""


def _raised(checked: Checked, roof: RoofArea) -> Iterable[Finding]:
    shape = checked.structure.roofs[HostName("roof", roof.id)]
    sections = sections_of(checked.project.system, checked.project.products)
    gaps = [
        (shape.heel - sections[m.section].depth * math.hypot(1, m.slope), m.id)
        for m in checked.structure.of(kinds.RAFTER)
        if m.host == HostName("roof", roof.id)
        and m.carrier.supports
        and wall_key(m.carrier.supports[0].on)
    ]
    over = [(gap, name) for gap, name in gaps if gap > TOUCH]
    if over:
        gap = max(over)[0]
        yield Finding(
            "gap",
            f"heel of roof {roof.name}",
            gap,
            "mm",
            f"The heel of roof {roof.name} is {run_text(checked.project, shape.heel)}, and its"
            " rafters end"
            f" {run_text(checked.project, gap)} over the plate. Raise the plate by that much, or"
            " lower the heel.",
            HostName("roof", roof.id),
            tuple(name for _, name in over),
            mend=Mend("Let the heel follow the seat", partial(set_roof, key=roof.id, heel=None)),
        )


def _notches(checked: Checked, roof: RoofArea) -> Iterable[Finding]:
    shape = checked.structure.roofs[HostName("roof", roof.id)]
    sections = sections_of(checked.project.system, checked.project.products)
    worst: tuple[float, float, str] | None = None
    members = []
    for m in checked.structure.of(kinds.RAFTER):
        if m.host == HostName("roof", roof.id) and any(
            "birdsmouth, seat" in c for c in m.cuts
        ):  # of those that stand on a plate
            depth = sections[m.section].depth
            deep = (depth * math.hypot(1, m.slope) - shape.heel) / math.hypot(1, m.slope)
            if deep > NOTCH * depth + TOUCH / 2:
                members.append(m.id)
                worst = max(worst or (0.0, 0.0, ""), (deep - NOTCH * depth, deep, m.mark))
    if worst is not None:
        held = roof.seat is not None or roof.heel is not None
        yield Finding(
            "overlap",
            f"birdsmouths of roof {roof.name}",
            worst[0],
            "mm",
            f"The birdsmouth of {worst[2]} is {run_text(checked.project, worst[1])} deep,"
            f" {run_text(checked.project, worst[0])}"
            f" more than a quarter of the rafter; so are {len(members)} in all. Make the seat"
            " shorter, the heel higher or the"
            " rafters deeper.",
            HostName("roof", roof.id),
            tuple(members),
            mend=Mend("Let the seat follow", partial(set_roof, key=roof.id, seat=None, heel=None))
            if held
            else None,
        )
