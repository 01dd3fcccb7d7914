"""What fasteners are asked to hold: the ends that hang, the ends that wind lifts, the feet of rafters
that push, ledgers on walls, plies that are loaded from one side; and how far those that are chosen are
used."""

import math
from collections.abc import Iterable, Iterator
from typing import Final, NamedTuple

from msgspec.structs import replace

from balken.design.codes.timber import Joined, Lap
from balken.design.lines import Check, Line
from balken.design.service import service_class
from balken.framing import kinds
from balken.framing.hosts.walls import rule_of, stands_on_concrete
from balken.framing.member import Member
from balken.geometry.plane import distance, dot, sub
from balken.loads.cases import Sums
from balken.loads.parcels import Parcel, laid_on
from balken.model.cases import Cases
from balken.model.fasteners import IN_ROWS, USE_WORDS, Dowels, Fastener, Use
from balken.model.names import HostName, MemberName, Rest, whole
from balken.model.project import Project, host_records, wall
from balken.model.sections import Section
from balken.model.walls import Wall, arc_middle, direction_of, wall_length
from balken.recall import remembered_of_one
from balken.site.wall_weights import is_masonry
from balken.units import FOOT
from balken.works.bracing import braced_lines, ends_of, turned_by_quake
from balken.works.building import Checked
from balken.works.diaphragms import decks_of
from balken.works.overturning import held_ends, stud_at, words_of
from balken.works.terms import terms_of
from balken.works.thrust import thrust_of

ROW: Final = 4 * FOOT - 1.0
"""A load along a row of fasteners is the worst over this length, mm: what stands at one place is
spread by the piece they hold (common practice, no source)."""


class Demand(NamedTuple):
    """What one fastener, or one joint of them, must hold."""

    use: Use
    what: MemberName
    on: Rest | None
    force: float
    """By the worst combination of the code: N, or N/mm along a row."""
    combination: str
    lap: Lap | None = None
    """The pieces of wood they join, with the duration of the load; None where they do not join
    wood to wood."""


@remembered_of_one
def demands_of(checked: Checked) -> tuple[Demand, ...]:
    """All that fasteners are asked to hold, the greatest of each use first."""
    found = [
        *_hangers(checked),
        *_straps(checked),
        *_heels(checked),
        *_ledgers(checked),
        *_plies(checked),
        *_hold_downs(checked),
        *_sole_plates(checked),
        *_ties_of_studs(checked),
        *_plate_laps(checked),
    ]
    return tuple(sorted(found, key=lambda d: (d.use, -d.force, str(d.what))))


def _sums(checked: Checked, host: HostName) -> Sums:
    terms = terms_of(checked.built)
    record = host_records(checked.built)[host]
    return terms.timber.sums(service_class(record), terms.on_floors)


def _worst_for_wood(sums: Sums, forces: Cases) -> tuple[float, str, float]:
    """The sum that asks most of a joint of wood: force, name and duration."""
    return max(
        ((forces.weighed(c.factors), c.name, c.duration) for c in sums.every),
        key=lambda f: (f[0] / f[2], f[1]),
    )


def _hangers(checked: Checked) -> Iterator[Demand]:
    """Ends that hang at the side of another, with the worst sum of what comes to them."""
    path, records = checked.path, host_records(checked.built)
    for m in checked.structure.members:
        hung = [(i, s) for i, s in enumerate(m.carrier.supports) if s.hung]
        if not hung or m.id not in path.reactions or m.host not in records:
            continue
        sums = _sums(checked, m.host)
        for i, support in hung:
            forces = path.reactions[m.id][i]
            worst, name = max((forces.weighed(c.factors), c.name) for c in sums.every)
            if worst > 0:
                yield Demand("hanger", m.id, support.on, worst, name)


def _straps(checked: Checked) -> Iterator[Demand]:
    name = terms_of(checked.built).timber.uplift(1)[0]
    for s in checked.straps:
        if isinstance(s.what, MemberName) and s.what.family not in ("post", "pier", "sill"):
            yield Demand("strap", s.what, s.on, s.force, name)


def _hold_downs(checked: Checked) -> Iterator[Demand]:
    """Ends of braced walls that pull up, by the stud each hold-down is fixed to."""
    for held in held_ends(checked):
        stud = stud_at(checked, held)
        if stud is not None:
            on = HostName("wall", held.wall)
            yield Demand("hold-down", stud.id, on, held.pulls, held.combination)


def _sole_plates(checked: Checked) -> Iterator[Demand]:
    """What slides each stretch of a braced wall along the floor or foundation under it, N/mm
    (SDPWS-2015 4.3.6.4.3; EN 1995-1-1 9.2.4.2(15))."""
    lasts = terms_of(checked.built).timber.uplift(1)[3]
    for braced in braced_lines(checked):
        words = words_of(checked, turned_by_quake(braced))
        for end in ends_of(checked.built, braced):
            stretch = end.stretch
            item = wall(checked.built, stretch.wall)
            plate = _plate_at(checked, item, (stretch.low + stretch.high) / 2)
            if plate is None:
                continue
            shear = end.turning / stretch.height
            host = HostName("wall", item.id)
            if stands_on_concrete(checked.built, item):
                yield Demand("anchor", plate.id, host, shear, words)
                continue
            lap = _lap(checked, plate, plate, 0.0, lasts)
            if lap is not None:
                deck = _deck_under(checked.built, item)
                section = terms_of(checked.built).sections[plate.section]
                # The plate lies flat, and the nails go through it into the edge of what is under it.
                lap = lap._replace(side=section.breadth, main=section.depth, deck=deck)
            yield Demand("sole plate", plate.id, host, shear, words, lap)


def _plate_at(checked: Checked, item: Wall, at: float) -> Member | None:
    """The piece of bottom plate at a place along a wall."""
    way = direction_of(item)
    for m in checked.structure.in_host(HostName("wall", item.id), kinds.BOTTOM_PLATE):
        ends = sorted(dot(sub(p[:2], item.start), way) for p in (m.start, m.end))
        if ends[0] - 1.0 <= at <= ends[1] + 1.0:
            return m
    return None


def _deck_under(project: Project, item: Wall) -> float:
    """How thick the deck is between a wall's plate and the wood under it, mm."""
    bodies = {b.id: b.subfloor for b in project.build_ups}
    return max(
        (bodies.get(f.build_up, 0.0) for f in project.floors if f.level == item.base), default=0.0
    )


def _ties_of_studs(checked: Checked) -> Iterator[Demand]:
    """Where wind lifts a framed wall by more than dead load holds: what one of its studs pulls at the
    plates over and under it."""
    name = terms_of(checked.built).timber.uplift(1)[0]
    for s in checked.straps:
        if not isinstance(s.what, HostName) or s.what.kind != "wall":
            continue
        item = wall(checked.built, whole(s.what.key))
        studs = checked.structure.in_host(HostName("wall", item.id), kinds.WALL_STUD)
        rule = rule_of(checked.built, item)
        if studs and rule is not None:
            middle = min(studs, key=lambda m: distance(m.start[:2], arc_middle(item)))
            force = s.force * rule.spacing / wall_length(item)
            yield Demand("strap", middle.id, s.what, force, name)


def _plate_laps(checked: Checked) -> Iterator[Demand]:
    """What pulls the plates along the edges of floors and roofs: the nails over each lap of two plates
    hand it from one to the other."""
    lasts = terms_of(checked.built).timber.uplift(1)[3]
    for deck in decks_of(checked):
        if deck.plate is None or deck.chord <= 0 or deck.decked.why:
            continue
        lap = _lap(checked, deck.plate, deck.plate, 0.0, lasts)
        section = terms_of(checked.built).sections[deck.plate.section]
        if lap is not None:
            lap = lap._replace(side=section.breadth, main=section.breadth)
        quake = deck.checks[0].name.startswith("Earthquake") if deck.checks else False
        yield Demand("plate lap", deck.plate.id, None, deck.chord, words_of(checked, quake), lap)


def _heels(checked: Checked) -> Iterator[Demand]:
    """The push of the worst pair of each roof, which the joints at their feet hold."""
    by_id = {m.id: m for m in checked.structure.members}
    for roof in checked.built.roofs:
        found = thrust_of(checked.built, checked.structure, roof)
        if found is None:
            continue
        rafter = by_id[found.member]
        pitch = math.degrees(math.atan(abs(rafter.slope)))
        lap = _lap(checked, rafter, rafter, pitch, found.duration)
        yield Demand("heel", found.member, None, found.force, found.combination, lap)


def _lap(
    checked: Checked, through: Member, into: Member, angle: float, duration: float
) -> Lap | None:
    """Two pieces side by side, as thick as one of their plies; None where there are no values."""
    terms = terms_of(checked.built)
    sections = [terms.sections.get(m.section) for m in (through, into)]
    species, _, grade = through.material.partition(" ")
    if sections[0] is None or sections[1] is None:
        return None
    worth = terms.timber.worth(species, grade, sections[0])
    if worth is None or sections[0].product is not None:
        return None
    thick = [_ply(s) for s in sections if s is not None]
    ea = worth.e * thick[0] * sections[0].depth
    return Lap(thick[0], thick[1], species, grade, angle, ea, duration)


def _ply(section: Section) -> float:
    return section.breadth / section.plies


def _ledgers(checked: Checked) -> Iterator[Demand]:
    """What hangs on each ledger, along it; into a wall of wood, across the grain of both."""
    by_wall = {HostName("wall", whole(w.id)): w for w in checked.built.walls}
    of_wood = {b.id for b in checked.built.wall_build_ups if not is_masonry(b)}
    for m in checked.structure.of(kinds.LEDGER):
        parcels = tuple(checked.path.carried.get(m.id, ()))
        if not parcels:
            continue
        force, name, lasts = _worst_for_wood(_sums(checked, m.host), _along(m, parcels))
        on = m.carrier.supports[0].on if m.carrier.supports else None
        wall = by_wall.get(on) if isinstance(on, HostName) else None
        framed = wall is not None and wall.build_up in of_wood
        lap = _lap(checked, m, m, 90.0, lasts) if framed else None
        yield Demand("ledger", m.id, on, force, name, lap)


def _along(m: Member, parcels: tuple[Parcel, ...]) -> Cases:
    """The heaviest stretch of what lies along a piece, N/mm per case."""
    laid = laid_on(m, parcels)
    found = []
    for at in laid.at:
        there = (laid.at >= at - 1e-6) & (laid.at < at + ROW)
        found.append(Cases(*laid.forces[:, there].sum(axis=1).tolist()))
    return max(found, key=lambda c: sum(c.down)) / min(ROW, m.length)


def _plies(checked: Checked) -> Iterator[Demand]:
    """What hangs at the side of a beam of several plies and must come into the others: of n plies
    (n − 1) / n."""
    sections = terms_of(checked.built).sections
    records = host_records(checked.built)
    hung: dict[Rest, list[Parcel]] = {}
    for m in checked.structure.members:
        ends = checked.path.reactions.get(m.id, ())
        for support, forces in zip(m.carrier.supports, ends):
            if support.hung and isinstance(support.on, MemberName):
                hung.setdefault(support.on, []).append(Parcel(*support.point, forces, m.id))
    for m in checked.structure.members:
        section = sections.get(m.section)
        if m.id not in hung or section is None or section.plies < 2 or m.host not in records:
            continue
        comes = _along(m, tuple(hung[m.id])) * ((section.plies - 1) / section.plies)
        force, name, lasts = _worst_for_wood(_sums(checked, m.host), comes)
        if force > 0:
            yield Demand("plies", m.id, None, force, name, _lap(checked, m, m, 90.0, lasts))


class Used(NamedTuple):
    """How far what was chosen for a use is used by one demand."""

    demand: Demand
    check: Check
    why: str = ""
    """Why it could not be reckoned."""


def used_by(checked: Checked, fastener: Fastener, demand: Demand) -> Used:
    """Hold what was chosen against one demand: its maker's value, or nails, screws or bolts by the
    code."""
    force = demand.force
    lines: tuple[Line, ...] = (Line("F", force, "force", how=demand.combination),)
    if demand.use in IN_ROWS:
        force = demand.force * fastener.apart
        lines = (
            Line("w", demand.force, "line load", how=demand.combination),
            Line("s", fastener.apart, "run", how="along the row"),
            Line("F", force, "force", how="w s"),
        )
    joint = _held(checked, fastener, demand)
    name = USE_WORDS[demand.use].capitalize()
    ratio = force / joint.held if joint.held > 0 else math.inf
    check = Check(name, ratio, demand.combination, joint.clause, (*lines, *joint.lines))
    return Used(demand, check, joint.why)


NO_WOOD: Final = (
    "they do not join wood to wood there, or its values are not known: type what they hold"
)


def _held(checked: Checked, fastener: Fastener, demand: Demand) -> Joined:
    if fastener.holds is not None:
        clause = "typed, by its maker"
        return Joined(fastener.holds, (Line("holds", fastener.holds, "force", clause),), clause)
    assert fastener.dowels is not None, "one of the two"
    if demand.lap is None:
        return Joined(why=NO_WOOD)
    joint = terms_of(checked.built).timber.joined(fastener.dowels, demand.lap)
    line = Line("holds", joint.held, "force", joint.clause)
    return joint if joint.why else joint._replace(lines=(*joint.lines, line))


def over(checked: Checked, demands: Iterable[Demand]) -> Iterator[Used]:
    """What is asked of more than the chosen fastener holds, and what cannot be reckoned."""
    chosen = {f.use: f for f in checked.project.fasteners}
    for d in demands:
        if d.use in chosen:
            used = used_by(checked, chosen[d.use], d)
            if used.check.ratio > 1 + 1e-9:
                yield used


def least_count(checked: Checked, fastener: Fastener, demand: Demand) -> int | None:
    """How many nails, screws or bolts of the chosen kind hold a demand; None where sixty do not."""
    if fastener.dowels is None:
        return None
    for count in range(1, 61):
        dowels: Dowels = replace(fastener.dowels, count=count)
        trial = used_by(checked, replace(fastener, dowels=dowels), demand)
        if trial.check.ratio <= 1 + 1e-9:
            return count
    return None
