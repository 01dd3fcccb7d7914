"""Checks of trusses, many at once: chords in combined stress, webs in buckling, deflection, heel
bearing; what they need held.

Chords run through their joints and webs are pinned (:mod:`balken.design.truss_forces`). Effective
lengths are 0.8 of a panel in the plane of the truss and of the whole web across it (ANSI/TPI 1,
from memory); the top chord is held sideways by sheathing.
"""

import math
from collections.abc import Mapping, Sequence
from typing import Final, NamedTuple

import msgspec
import numpy as np
from numpy.typing import NDArray

from balken.design.codes.timber import Contact, InFrame, TimberCode
from balken.design.lines import Check, Line
from balken.design.truss_forces import ChordLoads, TrussForces, chord_forces, through
from balken.design.truss_more import CASES, More, on_chords
from balken.design.under import UNKNOWN, Under
from balken.design.worth import Worth
from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.trusses.placing import PlacedTruss
from balken.framing.trusses.shapes import Truss
from balken.geometry.plane import TOUCH, distance
from balken.loads.cases import Combination
from balken.loads.codes.drift import Drift
from balken.model.cases import Cases
from balken.model.record import ServiceClass
from balken.model.sections import Section

Floats = NDArray[np.float64]
K_PANEL: Final = 0.8
"""Effective length of a panel or web over its length between joints (ANSI/TPI 1, from memory)."""
HELD_BELOW: Final = 3048.0
"""Between places where a bottom chord is held sideways, where wind lifts it into compression, mm
(10 ft; common practice)."""
HARDLY_OUT: Final = 300.0
"""A heel that reaches no further past its bearing is no cantilever, mm."""
HEEL_BEARING: Final = "Heel bearing"


def check_names(timber: TimberCode) -> tuple[str, ...]:
    """The checks of a truss, in the order of their results."""
    return ("Top chord", "Bottom chord", "Webs", *timber.rules.sags, HEEL_BEARING)


Pair = tuple[float, float]


class Share(msgspec.Struct, frozen=True, gc=False):
    """How much of each load a sum holds."""

    dead: float = 0.0
    live: float = 0.0
    """On the bottom chord."""
    roof: float = 0.0
    """Of the roof's live load."""
    wind: float = 0.0
    """Of what wind presses."""
    snow: Pair = (0.0, 0.0)
    """Left and right of the apex."""
    up: float = 0.0
    drift: Pair = (0.0, 0.0)
    """Of the drift beside the ridge, left and right."""


_NOTHING: Final = Share()


class Case(msgspec.Struct, frozen=True, gc=False):
    """One combination: its name, what it holds for strength and for the two limits of deflection,
    and what its duration makes of strength."""

    name: str
    strong: Share
    first_sag: Share
    second_sag: Share
    duration: float


def cases_of(
    timber: TimberCode,
    service: ServiceClass,
    *,
    live: bool,
    roof: bool,
    snow: bool,
    uplift: bool,
    wind: bool = False,
) -> tuple[Case, ...]:
    """The combinations of a truss: those of the code, with the snow that wind carries over the ridge
    as well, and wind that lifts it."""
    found = []
    for c in timber.sums(service, "A").every:
        f = c.factors
        if (
            (f.live and not live)
            or (f.roof_live and not roof)
            or (f.snow and not snow)
            or (f.wind and not wind)
        ):
            continue
        snows = timber.trusses.snows if f.snow else timber.trusses.snows[:1]
        found += [_case(c, s.words, s.sides, s.drift) for s in snows]
    if uplift:
        name, held, blown, duration = timber.uplift(service)
        lifts = Share(held, up=blown)
        found.append(Case(name, lifts, _NOTHING, _NOTHING, duration))
    return tuple(found)


def _case(c: Combination, words: str, sides: Pair, drift: Pair) -> Case:
    def share(f: Cases) -> Share:
        snow = (f.snow * sides[0], f.snow * sides[1])
        beside = (f.snow * drift[0], f.snow * drift[1])
        return Share(f.dead, f.live, f.roof_live, f.wind, snow, 0.0, beside)

    return Case(
        f"{c.name}{words}",
        share(c.factors),
        share(c.first_sag),
        share(c.second_sag),
        c.duration,
    )


class TrussLoads(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """What lies on a roof of trusses, N/mm²; the dead load of the top lies on the slope."""

    dead: float
    live: float
    snow: float
    bottom_dead: float
    bottom_live: float
    uplift: float = 0.0
    pressed: float = 0.0


class Lumber(msgspec.Struct, frozen=True, gc=False):
    """What the pieces of a truss are cut from: section and values by role."""

    sections: tuple[Section, Section, Section]
    values: tuple[Worth, Worth, Worth]


def lumber_of(
    timber: TimberCode, names: Sequence[str], species: str, grade: str, sections: dict[str, Section]
) -> Lumber | None:
    """What pieces are cut from; None where the code holds no values for one."""
    top, bottom, web = (sections[n] for n in names)
    values = [timber.worth(species, grade, s) for s in (top, bottom, web)]
    known = [v for v in values if v is not None and v.ft and v.fc]
    if len(known) < len(values):
        return None
    return Lumber((top, bottom, web), (known[0], known[1], known[2]))


class TrussCheck(msgspec.Struct, frozen=True):
    """What came out for one truss."""

    truss: Truss
    cases: tuple[Case, ...]
    forces: TrussForces
    """Of this truss alone: axes cases, 1, pieces or joints."""
    sags: tuple[Floats, Floats]
    """Of its joints, for the two limits of deflection: axes cases, joints, mm."""
    ratios: Floats
    """(cases, pieces): utilisation of every piece."""
    others: tuple[tuple[float, int], ...]
    """Live and total deflection and heel bearing, each with the case that governs."""
    braces: tuple[int, ...]
    """By pieces: at how many places between its ends a web must be held sideways."""

    def worst_of(self, kind: MemberKind) -> tuple[float, int, int]:
        """The greatest utilisation of the pieces of a kind, its case, and the piece."""
        mine = [i for i, p in enumerate(self.truss.pieces) if p.kind is kind]
        if not mine:
            return 0.0, 0, 0
        part = self.ratios[:, mine]
        c, k = np.unravel_index(int(part.argmax()), part.shape)
        return float(part[c, k]), int(c), mine[int(k)]

    names: tuple[str, ...]
    """Of its checks."""

    @property
    def worst(self) -> tuple[float, str]:
        """The greatest utilisation and what governs."""
        every = [*(self.worst_of(k)[0] for k in kinds.OF_TRUSS), *(r for r, _ in self.others)]
        i = int(np.argmax(every))
        return every[i], self.names[i]

    @property
    def uplift(self) -> float:
        """The greatest force that lifts it off a bearing, N."""
        return max(0.0, float(-self.forces.reactions.min()))


class TrussTask(msgspec.Struct, frozen=True, gc=False):
    """What trusses are checked with."""

    timber: TimberCode
    """What the code says."""
    service: ServiceClass
    loads: TrussLoads
    limits: tuple[float, float]
    """Span over live and total deflection."""
    seat: float
    """Length of the bearing, mm."""
    camber: float = 0.0
    """Built in, mm: what sags less is level."""
    under: Under = UNKNOWN
    """The softest of what they bear on."""
    spacing: float = 0.0
    count: int = 0
    """Between trusses, mm, and how many there are: whether they help one another; three stand for
    more."""

    def shared(self, plies: int, breadth: float) -> float:
        """What a truss of so many plies, each of a breadth, mm, is stronger by beside others like
        it, or in plies. A girder of one or two plies stands for itself."""
        if plies > 1:
            return self.timber.shared(plies, breadth, 0.0)
        return self.timber.shared(self.count, breadth, self.spacing)


def check_trusses(
    placed: Sequence[PlacedTruss],
    lumber: Lumber,
    task: TrussTask,
    more: Mapping[str, More] | None = None,
) -> list[TrussCheck]:
    """Check trusses, those of one form in one batch; alike ones once.

    Args:
        placed: where each stands.
        lumber: what they are cut from.
        task: what they are checked with.
        more: what lies on some of them beside the even loads, by row.
    """
    besides = more or {}
    keys = [(t.truss, round(t.wide, 1), t.plies, besides.get(t.row, ())) for t in placed]
    groups: dict[tuple[object, ...], list[tuple[_Alike, PlacedTruss]]] = {}
    for key, t in dict(zip(keys, placed)).items():
        groups.setdefault((through(t.truss), t.truss.apex), []).append((key, t))
    done: dict[_Alike, TrussCheck] = {}
    for group in groups.values():
        found = _check_group([t for _, t in group], [key[3] for key, _ in group], lumber, task)
        done.update((key, made) for (key, _), made in zip(group, found))
    return [done[key] for key in keys]


_Alike = tuple[Truss, float, int, More]
"""Trusses of one shape, strip, plies and load are checked once."""


def _check_group(
    group: Sequence[PlacedTruss], more: Sequence[More], lumber: Lumber, task: TrussTask
) -> list[TrussCheck]:
    trusses, timber = [t.truss for t in group], task.timber
    role = np.array([kinds.OF_TRUSS.index(p.kind) for p in trusses[0].pieces])
    plies = np.array([float(t.plies) for t in group])[:, None]
    breadth = np.array([s.breadth for s in lumber.sections])[role][None, :] * plies
    depth = np.array([s.depth for s in lumber.sections])[role][None, :]
    e = np.array([v.e for v in lumber.values])[role]
    besides = on_chords(trusses, more) if any(more) else None
    unit = chord_forces(
        trusses,
        breadth * depth * e,
        breadth * depth**3 / 12 * e,
        [
            ChordLoads(1),
            ChordLoads(0, 1),
            ChordLoads(0, 0, 1),
            *(ChordLoads(near_apex=side) for side in ((1, 0), (0, 1))),
        ],
        np.array(
            [d.reach if d else 0.0 for d in (_drift(timber, t, task.loads.snow) for t in trusses)]
        ),
        besides.lying if besides else None,
    )
    loads = task.loads
    there = {case for mine in more for _, q in mine for case in CASES if getattr(q, case)}
    drift = np.array(
        [d.load if d else 0.0 for d in (_drift(timber, t, loads.snow) for t in trusses)]
    )
    cases = cases_of(
        timber,
        task.service,
        live=loads.bottom_live > 0 or "live" in there,
        roof=loads.live > 0 or "roof_live" in there,
        snow=loads.snow > 0 or "snow" in there,
        uplift=loads.uplift > 0,
        wind=loads.pressed > 0,
    )
    top = np.array([[_steep(t, left=True), _steep(t, left=False)] for t in trusses])
    wide = np.array([t.wide for t in group])

    def summed(share: Share, values: Floats) -> Floats:
        amounts = _amounts(share, loads, top, wide, drift)
        if besides:
            amounts += [np.full(len(trusses), counts) for counts in _counts(share)]
        return _sum(values, *amounts)

    whole = TrussForces(*(np.stack([summed(c.strong, values) for c in cases]) for values in unit))
    if besides:
        bends = [np.tensordot(_counts(c.strong), besides.bends, axes=1) for c in cases]
        whole = whole._replace(moment=_bent_more(whole.moment, np.stack(bends)))
    first = np.stack([summed(c.first_sag, unit.sag) for c in cases])
    second = np.stack([summed(c.second_sag, unit.sag) for c in cases])
    used = _used(group, whole, cases, lumber, role, task)
    return [
        _of_one(i, t, whole, (first, second), cases, lumber, task, used)
        for i, t in enumerate(group)
    ]


def _counts(share: Share) -> tuple[float, ...]:
    """How much of what lies on single trusses a sum holds, in the order of its cases; heaped snow as
    the heavier side."""
    return share.dead, share.live, share.roof, max(share.snow)


def _bent_more(moment: Floats, bends: Floats) -> Floats:
    """Moments with those of forces at single places added between the joints, where they sag most;
    where the chord hogs between, no less than that."""
    found = moment.copy()
    sagging = moment[..., 1] + bends
    found[..., 1] = np.where(np.abs(sagging) > np.abs(moment[..., 1]), sagging, moment[..., 1])
    return found


def _amounts(
    share: Share, loads: TrussLoads, top: Floats, wide: Floats, drift: Floats
) -> list[Floats]:
    """What lies on trusses left and right, on their bottom chords and beside their apexes, N/mm of
    span."""
    sides = [
        (
            share.dead * loads.dead * top[:, k]
            + share.roof * loads.live
            + share.wind * loads.pressed
            + share.snow[k] * loads.snow
            - share.up * loads.uplift
        )
        * wide
        for k in (0, 1)
    ]
    bottom = (share.dead * loads.bottom_dead + share.live * loads.bottom_live) * wide
    return [*sides, bottom, *(side * drift * wide for side in share.drift)]


def _sum(values: Floats, *times: Floats) -> Floats:
    shape = (-1,) + (1,) * (values.ndim - 2)
    total: Floats = sum(
        (v * t.reshape(shape) for v, t in zip(values, times)), np.zeros(values.shape[1:])
    )
    return total


def _drift(timber: TimberCode, truss: Truss, snow: float) -> Drift | None:
    """The drift beside the ridge of a truss that falls to both sides; None of one that does not, or
    is too steep or too flat."""
    xs = [x for x, _ in truss.joints]
    apex = truss.joints[truss.apex][0]
    sides = (apex - min(xs), max(xs) - apex)
    if min(sides) < TOUCH or not _comes_to_a_point(truss):
        return None
    length = _steep(truss, left=True)
    return timber.trusses.drift(snow, math.sqrt(max(0.0, length**2 - 1)), max(sides))


def _comes_to_a_point(truss: Truss) -> bool:
    """Whether both chords fall from the apex: under a hip a truss is cut off flat, and no ridge is
    over it."""
    high = truss.joints[truss.apex][1]
    beside = [
        j
        for p in truss.chord(kinds.TOP_CHORD)
        for j in (p.start, p.end)
        if truss.apex in (p.start, p.end)
    ]
    return all(truss.joints[j][1] < high - TOUCH for j in beside if j != truss.apex)


def _steep(truss: Truss, *, left: bool) -> float:
    """The length along the slope over the plan of the outermost stretch of a top chord that
    slopes."""
    chord = truss.chord(kinds.TOP_CHORD)
    pieces = chord if left else chord[::-1]
    ways = [np.subtract(truss.joints[p.end], truss.joints[p.start]) for p in pieces]
    way = next((w for w in ways if abs(w[1]) > 1e-6), ways[0])
    return float(math.hypot(*way) / abs(way[0]))


def _of_one(
    i: int,
    t: PlacedTruss,
    whole: TrussForces,
    sags: tuple[Floats, Floats],
    cases: tuple[Case, ...],
    lumber: Lumber,
    task: TrussTask,
    used: "Used",
) -> TrussCheck:
    forces = TrussForces(*(v[:, i : i + 1] for v in whole))
    braces = tuple(int(b) for b in used.braces[i])
    mine = (sags[0][:, i], sags[1][:, i])
    return TrussCheck(
        t.truss,
        cases,
        forces,
        mine,
        used.ratios[:, i],
        _others(t, forces, mine, cases, lumber, task),
        braces,
        check_names(task.timber),
    )


class Used(NamedTuple):
    """Utilisation (cases, trusses, pieces), and at how many places webs are held sideways (trusses,
    pieces)."""

    ratios: Floats
    braces: NDArray[np.int_]


def _used(
    group: Sequence[PlacedTruss],
    whole: TrussForces,
    cases: tuple[Case, ...],
    lumber: Lumber,
    role: NDArray[np.int_],
    task: TrussTask,
) -> Used:
    """The utilisation of all pieces, pulled or pushed, with the moments at their ends and
    between."""

    def of(values: Sequence[float]) -> Floats:
        return np.array(values)[role][None, None, :]

    pieces = group[0].truss.pieces
    nodes = np.array([t.truss.joints for t in group])
    run = nodes[:, [p.end for p in pieces]] - nodes[:, [p.start for p in pieces]]
    length = np.hypot(run[..., 0], run[..., 1])[None]
    plies = np.array([float(t.plies) for t in group])[None, :, None]
    breadth, depth = (
        of([s.breadth for s in lumber.sections]) * plies,
        of([s.depth for s in lumber.sections]),
    )
    duration = np.array([c.duration for c in cases])[:, None, None]
    ply = max(s.breadth for s in lumber.sections)
    together = np.array([task.shared(t.plies, ply) for t in group])[None, :, None]
    fb = np.abs(whole.moment) / (breadth * depth**2 / 6)[..., None]
    pull, push = (
        whole.axial.max(axis=3) / (breadth * depth),
        -whole.axial.min(axis=3) / (breadth * depth),
    )
    least = whole.axial.min(axis=(0, 3))
    web = role == kinds.OF_TRUSS.index(kinds.WEB)
    wanted = (
        np.ceil(K_PANEL * length[0] / breadth[0] / task.timber.trusses.slenderest).astype(int) - 1
    )
    braces = np.where(web[None, :] & (least < -1.0), np.maximum(0, wanted), 0)
    across = np.where(
        web,
        K_PANEL * length / (braces[None] + 1),
        np.where(
            role == kinds.OF_TRUSS.index(kinds.BOTTOM_CHORD), np.minimum(length, HELD_BELOW), 0.0
        ),
    )
    pieces_of = InFrame(
        pull,
        push,
        np.maximum(fb[..., 0], fb[..., 2]),
        fb[..., 1],
        of([v.fb for v in lumber.values]) * duration * together,
        of([v.fc for v in lumber.values]) * duration,
        of([v.ft for v in lumber.values]) * duration,
        duration,
        K_PANEL * length / depth,
        across / breadth,
        of([v.e_min for v in lumber.values]),
        of([v.characteristic for v in lumber.values]),
    )
    return Used(task.timber.trusses.used(pieces_of), braces)


def _others(
    t: PlacedTruss,
    forces: TrussForces,
    sags: tuple[Floats, Floats],
    cases: tuple[Case, ...],
    lumber: Lumber,
    task: TrussTask,
) -> tuple[tuple[float, int], ...]:
    first, last = (t.truss.joints[n][0] for n in t.truss.bearings)
    span = last - first
    at_once, whole = (_greatest_sag(t, sag, first, last) for sag in sags)
    level = np.maximum(whole - task.camber, 0.0)
    pressed = forces.reactions[:, 0].max(axis=1) / _heel_holds(t, cases, lumber, task)
    return (
        (float(at_once.max()) / (span / task.limits[0]), int(at_once.argmax())),
        (float(level.max()) / (span / task.limits[1]), int(level.argmax())),
        (float(pressed.max()), int(pressed.argmax())),
    )


def _greatest_sag(t: PlacedTruss, sag: Floats, first: float, last: float) -> Floats:
    """Of a truss between its bearings, by cases, mm; a cantilever may sag twice its length over the
    limit."""
    deep = np.abs(sag)
    inside = [n for n, (x, _) in enumerate(t.truss.joints) if first <= x <= last]
    found: Floats = deep[:, inside].max(axis=1)
    for n in {n for p in t.truss.chord(kinds.BOTTOM_CHORD) for n in (p.start, p.end)}:
        out = max(first - t.truss.joints[n][0], t.truss.joints[n][0] - last)
        if out > HARDLY_OUT:
            found = np.maximum(found, deep[:, n] * (last - first) / (2 * out))
    return found


def _heel_holds(t: PlacedTruss, cases: tuple[Case, ...], lumber: Lumber, task: TrussTask) -> Floats:
    """What a heel bearing takes, by cases, N."""
    k = 1 if t.profile.hang is None else 0  # the chord that lies on the plate
    section, seat, timber = lumber.sections[k], max(task.seat, 1.0), task.timber
    touch = timber.contact(Contact(seat, seat / 2, section.depth), section)
    duration = np.array([c.duration if timber.bearing_by_duration else 1.0 for c in cases])
    own = lumber.values[k].fc_perp * touch * duration
    below = task.under.stress * seat * (1.0 if task.under.hard else duration)
    found: Floats = np.minimum(own, below) * section.breadth * t.plies
    return found


def explain_truss(
    t: PlacedTruss, found: TrussCheck, lumber: Lumber, task: TrussTask
) -> tuple[Check, ...]:
    """The checks of a truss with their lines."""
    checks = []
    names, rules, clauses = check_names(task.timber), task.timber.rules, task.timber.trusses.clauses
    for k, kind in enumerate(kinds.OF_TRUSS):
        ratio, c, m = found.worst_of(kind)
        if not any(p.kind is kind for p in found.truss.pieces):
            continue
        case, section = found.cases[c], lumber.sections[k]
        axial, moment = found.forces.axial[c, 0, m], np.abs(found.forces.moment[c, 0, m])
        length = distance(
            *(
                found.truss.joints[j]
                for j in (found.truss.pieces[m].start, found.truss.pieces[m].end)
            )
        )
        force = float(axial[int(np.abs(axial).argmax())])
        lines = (
            Line(
                "P, pulled" if force > 0 else "P, pushed",
                abs(force),
                "force",
                how="chords run through, webs pinned",
            ),
            Line("M", float(moment.max()), "moment"),
            Line("ℓ", length, "length", how="between joints"),
            Line("A", section.breadth * t.plies * section.depth, "steel", how="b d"),
            Line(
                "fc, ft",
                lumber.values[k].fc if force < 0 else lumber.values[k].ft,
                "stress",
                clauses[1],
            ),
            Line(rules.duration_symbol, case.duration, "factor", rules.duration_clause),
            Line(
                task.timber.trusses.share_symbol,
                task.shared(t.plies, section.breadth),
                "factor",
                clauses[2],
            ),
        )
        checks.append(Check(names[k], ratio, case.name, clauses[0], lines))
    where = ("deflection", "deflection", task.timber.bearing_clause)
    for i, (word, clause, (ratio, c)) in enumerate(zip(names[3:], where, found.others)):
        step = (
            Line("R", float(found.forces.reactions[c, 0].max()), "force")
            if word == HEEL_BEARING
            else Line("Δ", float(np.abs(found.sags[i][c]).max()), "run")
        )
        checks.append(
            Check(word, ratio, found.cases[c].name, clause, (step, Line("seat", task.seat, "run")))
        )
    return tuple(checks)
