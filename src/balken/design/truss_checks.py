"""Checks of trusses, many at once: chords in combined stress, webs in buckling, deflection, heel
bearing; what they need held.

Chords run through their joints and webs are pinned (:mod:`balken.design.truss_forces`). Effective
lengths are 0.8 of a panel in the plane of the truss and of the whole web across it (ANSI/TPI 1,
from memory); the top chord is held sideways by sheathing.
"""

import math
from collections.abc import Sequence
from typing import Final, NamedTuple

import msgspec
import numpy as np
from numpy.typing import NDArray

from balken.design.codes.us.nds.bending import repetitive
from balken.design.codes.us.nds.columns import C_SAWN, SLENDEREST
from balken.design.codes.us.nds.factors import Adjusted, adjusted, bearing_area_factor, size_factor
from balken.design.codes.us.nds.values import Reference, reference
from balken.design.lines import Check, Line
from balken.design.seats import UNKNOWN, Under
from balken.design.truss_forces import ChordLoads, TrussForces, chord_forces, through
from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.trusses.placing import PlacedTruss
from balken.framing.trusses.shapes import Truss
from balken.geometry.plane import TOUCH, distance
from balken.loads.cases import COMBINATIONS
from balken.loads.unbalanced_snow import WINDWARD, Drift, drift_on
from balken.model.sections import Section

Floats = NDArray[np.float64]
K_PANEL: Final = 0.8
"""Effective length of a panel or web over its length between joints (ANSI/TPI 1, from memory)."""
HELD_BELOW: Final = 3048.0
"""Between places where a bottom chord is held sideways, where wind lifts it into compression, mm
(10 ft; common practice)."""
HARDLY_OUT: Final = 300.0
"""A heel that reaches no further past its bearing is no cantilever, mm."""
WIND: Final = 1.6
"""C_D of wind (NDS table 2.3.2)."""
CHECK_WORDS: Final = (
    "Top chord",
    "Bottom chord",
    "Webs",
    "Live deflection",
    "Total deflection",
    "Heel bearing",
)


class Case(msgspec.Struct, frozen=True, gc=False):
    """One combination: its name, how much of dead, bottom live, and top load left and right of the
    apex it holds, its C_D."""

    name: str
    dead: float
    live: float
    roof: float
    """How much of the roof's live load."""
    snow: tuple[float, float]
    """How much of the snow, left and right."""
    up: float
    duration: float
    drift: tuple[float, float] = (0.0, 0.0)
    """How much of the drift beside the ridge, left and right."""


def cases_of(*, live: bool, roof: bool, snow: bool, uplift: bool) -> tuple[Case, ...]:
    """The combinations of a truss: those of ASCE 7-16 2.4.1, with the snow that wind carries
    over the ridge as well (7.6.1: 0.3 of it to windward, all and a drift to leeward), and wind that
    lifts it."""
    found = []
    for c in COMBINATIONS:
        d, bottom, lr, s = c.factors.dead, c.factors.live, c.factors.roof_live, c.factors.snow
        if (bottom and not live) or (lr and not roof) or (s and not snow):
            continue
        found.append(Case(c.name, d, bottom, lr, (s, s), 0.0, c.duration))
        if s:
            less = WINDWARD * s
            found += [
                Case(f"{c.name} unbalanced", d, bottom, lr, (s, less), 0.0, c.duration, (s, 0.0)),
                Case(f"{c.name} unbalanced", d, bottom, lr, (less, s), 0.0, c.duration, (0.0, s)),
            ]
    if uplift:
        found.append(Case("0.6D + 0.6W up", 0.6, 0.0, 0.0, (0.0, 0.0), 0.6, WIND))
    return tuple(found)


class TrussLoads(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """What lies on a roof of trusses, N/mm²; the dead load of the top lies on the slope."""

    dead: float
    live: float
    snow: float
    bottom_dead: float
    bottom_live: float
    uplift: float = 0.0


class Lumber(msgspec.Struct, frozen=True, gc=False):
    """What the pieces of a truss are cut from: section and values by role."""

    sections: tuple[Section, Section, Section]
    values: tuple[Adjusted, Adjusted, Adjusted]
    references: tuple[Reference, Reference, Reference]
    species: str
    grade: str

    def tension(self, i: int) -> float:
        """Ft with its size factor, N/mm²."""
        return self.references[i].ft * size_factor(
            "ft", self.species, self.grade, self.sections[i].nominal
        )


def lumber_of(
    names: Sequence[str], species: str, grade: str, sections: dict[str, Section]
) -> Lumber:
    """What pieces are cut from.

    Raises:
        NoValueError: the tables hold no values for one.
    """
    cut = tuple(sections[n] for n in names)
    refs = tuple(reference(species, grade, s.nominal) for s in cut)
    values = tuple(adjusted(r, species, grade, s.nominal) for r, s in zip(refs, cut))
    return Lumber(cut, values, refs, species, grade)  # type: ignore[arg-type]


class TrussCheck(msgspec.Struct, frozen=True):
    """What came out for one truss."""

    truss: Truss
    cases: tuple[Case, ...]
    forces: TrussForces
    """Of this truss alone: axes cases, 1, pieces or joints."""
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

    @property
    def worst(self) -> tuple[float, str]:
        """The greatest utilisation and what governs."""
        every = [*(self.worst_of(k)[0] for k in kinds.OF_TRUSS), *(r for r, _ in self.others)]
        i = int(np.argmax(every))
        return every[i], CHECK_WORDS[i]

    @property
    def uplift(self) -> float:
        """The greatest force that lifts it off a bearing, N."""
        return max(0.0, float(-self.forces.reactions.min()))


class TrussTask(msgspec.Struct, frozen=True, gc=False):
    """What trusses are checked with."""

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
    """Between trusses, mm, and how many there are: whether they help one another (NDS 4.3.9); three
    stand for more."""

    def shared(self, plies: int, breadth: float) -> float:
        """C_r of a truss of so many plies, each of a breadth, mm: of three trusses or more, 24 in
        apart at most, or of three plies or more. A girder of one or two plies stands for itself."""
        if plies > 1:
            return repetitive(plies, breadth, 0.0)
        return repetitive(self.count, breadth, self.spacing)


def check_trusses(
    placed: Sequence[PlacedTruss], lumber: Lumber, task: TrussTask
) -> list[TrussCheck]:
    """Check trusses, those of one form in one batch; alike ones once."""
    groups: dict[tuple[object, ...], list[PlacedTruss]] = {}
    for t in {(t.truss, round(t.wide, 1), t.plies): t for t in placed}.values():
        groups.setdefault((through(t.truss), t.truss.apex), []).append(t)
    done: dict[tuple[object, ...], TrussCheck] = {}
    for group in groups.values():
        for t, made in zip(group, _check_group(group, lumber, task)):
            done[t.truss, round(t.wide, 1), t.plies] = made
    return [done[t.truss, round(t.wide, 1), t.plies] for t in placed]


def _check_group(group: Sequence[PlacedTruss], lumber: Lumber, task: TrussTask) -> list[TrussCheck]:
    trusses = [t.truss for t in group]
    first = trusses[0]
    role = np.array([kinds.OF_TRUSS.index(p.kind) for p in first.pieces])
    plies = np.array([float(t.plies) for t in group])[:, None]
    breadth = np.array([s.breadth for s in lumber.sections])[role][None, :] * plies
    depth = np.array([s.depth for s in lumber.sections])[role][None, :]
    e = np.array([v.e for v in lumber.values])[role]
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
        np.array([d.reach if d else 0.0 for d in (_drift(t, task.loads.snow) for t in trusses)]),
    )
    loads = task.loads
    drift = np.array([d.load if d else 0.0 for d in (_drift(t, loads.snow) for t in trusses)])
    cases = cases_of(
        live=loads.bottom_live > 0,
        roof=loads.live > 0,
        snow=loads.snow > 0,
        uplift=loads.uplift > 0,
    )
    top = np.array([[_steep(t, left=True), _steep(t, left=False)] for t in trusses])
    wide = np.array([t.wide for t in group])
    found: list[list[Floats]] = []
    for c in cases:
        left = (
            c.dead * loads.dead * top[:, 0]
            + c.roof * loads.live
            + c.snow[0] * loads.snow
            - c.up * loads.uplift
        ) * wide
        right = (
            c.dead * loads.dead * top[:, 1]
            + c.roof * loads.live
            + c.snow[1] * loads.snow
            - c.up * loads.uplift
        ) * wide
        bottom = (c.dead * loads.bottom_dead + c.live * loads.bottom_live) * wide
        beside = [side * drift * wide for side in c.drift]
        found.append([_sum(values, left, right, bottom, *beside) for values in unit])
    whole = TrussForces(*(np.stack([row[k] for row in found]) for k in range(4)))
    used = _used(group, whole, cases, lumber, role, task)
    return [_of_one(i, t, whole, cases, lumber, task, used) for i, t in enumerate(group)]


def _sum(values: Floats, *times: Floats) -> Floats:
    shape = (-1,) + (1,) * (values.ndim - 2)
    total: Floats = sum(
        (v * t.reshape(shape) for v, t in zip(values, times)), np.zeros(values.shape[1:])
    )
    return total


def _drift(truss: Truss, snow: float) -> Drift | None:
    """The drift beside the ridge of a truss that falls to both sides; None of one that does not, or
    is too steep or too flat."""
    xs = [x for x, _ in truss.joints]
    apex = truss.joints[truss.apex][0]
    sides = (apex - min(xs), max(xs) - apex)
    if min(sides) < TOUCH or not _comes_to_a_point(truss):
        return None
    length = _steep(truss, left=True)
    return drift_on(snow, math.sqrt(max(0.0, length**2 - 1)), max(sides))


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
    cases: tuple[Case, ...],
    lumber: Lumber,
    task: TrussTask,
    used: "Used",
) -> TrussCheck:
    forces = TrussForces(*(v[:, i : i + 1] for v in whole))
    braces = tuple(int(b) for b in used.braces[i])
    return TrussCheck(
        t.truss, cases, forces, used.ratios[:, i], _others(t, forces, cases, lumber, task), braces
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
    """The utilisation of all pieces: NDS 3.9.1 in tension, 3.9.2 in compression, with the
    moments at their ends and between."""

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
    bent = of([v.fb for v in lumber.values]) * duration * together
    star, e_min = of([v.fc for v in lumber.values]) * duration, of([v.e_min for v in lumber.values])
    pulled = of([lumber.tension(k) for k in range(3)]) * duration
    fb = np.abs(whole.moment) / (breadth * depth**2 / 6)[..., None]
    pull, push = (
        whole.axial.max(axis=3) / (breadth * depth),
        -whole.axial.min(axis=3) / (breadth * depth),
    )
    least = whole.axial.min(axis=(0, 3))
    web = role == kinds.OF_TRUSS.index(kinds.WEB)
    wanted = np.ceil(K_PANEL * length[0] / breadth[0] / SLENDEREST).astype(int) - 1
    braces = np.where(web[None, :] & (least < -1.0), np.maximum(0, wanted), 0)
    across = np.where(
        web,
        K_PANEL * length / (braces[None] + 1),
        np.where(
            role == kinds.OF_TRUSS.index(kinds.BOTTOM_CHORD), np.minimum(length, HELD_BELOW), 0.0
        ),
    )
    slender = K_PANEL * length / depth
    fc = star * _stable(star, e_min, np.maximum(slender, across / breadth))
    euler = 0.822 * e_min / slender**2
    with np.errstate(divide="ignore", invalid="ignore"):
        between = (push / fc) ** 2 + fb[..., 1] / (bent * (1 - push / euler))
    ends = (push / star) ** 2 + np.maximum(fb[..., 0], fb[..., 2]) / bent
    pushed = np.where(push >= euler, BUCKLES, np.maximum(np.maximum(between, ends), push / fc))
    ratios = np.where(pull > 0, pull / pulled + fb.max(axis=3) / bent, fb.max(axis=3) / bent)
    return Used(
        np.where(push > 0, np.maximum(np.where(pull > 0, ratios, 0.0), pushed), ratios), braces
    )


BUCKLES: Final = 99.0
"""Utilisation of a piece pushed harder than its Euler stress."""


def _stable(star: Floats, e_min: Floats, slender: Floats) -> Floats:
    """C_P of many pieces (NDS 3.7-1)."""
    with np.errstate(divide="ignore"):
        ratio = 0.822 * e_min / np.maximum(slender, 1e-9) ** 2 / star
    middle = (1 + ratio) / (2 * C_SAWN)
    found: Floats = middle - np.sqrt(np.maximum(middle**2 - ratio / C_SAWN, 0.0))
    return found


def _others(
    t: PlacedTruss, forces: TrussForces, cases: tuple[Case, ...], lumber: Lumber, task: TrussTask
) -> tuple[tuple[float, int], ...]:
    first, last = (t.truss.joints[n][0] for n in t.truss.bearings)
    span = last - first
    sag = np.abs(forces.sag[:, 0])
    total = sag[:, [n for n, (x, _) in enumerate(t.truss.joints) if first <= x <= last]].max(axis=1)
    for n in {n for p in t.truss.chord(kinds.BOTTOM_CHORD) for n in (p.start, p.end)}:
        out = max(first - t.truss.joints[n][0], t.truss.joints[n][0] - last)
        if out > HARDLY_OUT:  # a cantilever may sag twice its length over the limit
            total = np.maximum(total, sag[:, n] * span / (2 * out))
    dead = next((float(total[c]) for c, case in enumerate(cases) if case.name == "D"), 0.0)
    live = np.array([max(0.0, float(v) - dead * case.dead) for v, case in zip(total, cases)])
    reactions = forces.reactions[:, 0].max(axis=1)
    k = 1 if t.profile.hang is None else 0  # the chord that lies on the plate
    value, breadth = lumber.values[k], lumber.sections[k].breadth * t.plies
    level = np.maximum(total - task.camber, 0.0)
    allowed = (
        min(value.fc_perp, task.under.stress)
        * bearing_area_factor(task.seat, 0.0)
        * breadth
        * max(task.seat, 1.0)
    )
    return (
        (float(live.max()) / (span / task.limits[0]), int(live.argmax())),
        (float(level.max()) / (span / task.limits[1]), int(level.argmax())),
        (float(reactions.max()) / allowed, int(reactions.argmax())),
    )


def explain_truss(
    t: PlacedTruss, found: TrussCheck, lumber: Lumber, task: TrussTask
) -> tuple[Check, ...]:
    """The checks of a truss with their lines."""
    checks = []
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
                "Fc, Ft",
                lumber.values[k].fc if force < 0 else lumber.tension(k),
                "stress",
                "NDS Supp. 4A, CF",
            ),
            Line("CD", case.duration, "factor", "NDS 2.3.2"),
            Line("Cr", task.shared(t.plies, section.breadth), "factor", "NDS 4.3.9"),
        )
        checks.append(Check(CHECK_WORDS[k], ratio, case.name, "NDS 3.9.1, 3.9.2", lines))
    clauses = ("deflection", "deflection", "NDS 3.10.2")
    for word, clause, (ratio, c) in zip(CHECK_WORDS[3:], clauses, found.others):
        sag = float(np.abs(found.forces.sag[c, 0]).max())
        step = (
            Line("R", float(found.forces.reactions[c, 0].max()), "force")
            if word == "Heel bearing"
            else Line("Δ", sag, "run")
        )
        checks.append(
            Check(word, ratio, found.cases[c].name, clause, (step, Line("seat", task.seat, "run")))
        )
    return tuple(checks)
