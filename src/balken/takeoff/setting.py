"""The order in which a building is set: from what sits on what, each step what can be set together, with the
weight of its heaviest lift, and what must be propped until what carries it is there."""

import heapq
from collections.abc import Iterator
from typing import Final, NamedTuple

from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.member import Member
from balken.model.catalogue import sections_of
from balken.model.foundations import walls_on
from balken.model.names import HostName, MemberName
from balken.model.project import host_records
from balken.recall import remembered_of_one
from balken.takeoff.lifts import panels_of
from balken.takeoff.listing import Column, Listing, Row
from balken.takeoff.weights import called_host, weight_of_member
from balken.works.building import Checked

RANK: Final[dict[MemberKind, tuple[int, str]]] = {
    kinds.BLINDING: (0, "blinding"),
    kinds.FOOTING: (1, "footings"),
    kinds.LINK: (1, "footings"),
    kinds.EDGE: (1, "edges of slabs"),
    kinds.GRADE_BEAM: (1, "grade beams"),
    kinds.PAD: (1, "pads"),
    kinds.PIER: (2, "piers"),
    kinds.STEM: (3, "walls of concrete"),
    kinds.CORBEL: (3, "walls of concrete"),
    kinds.SLAB: (4, "slab"),
    kinds.SILL: (5, "sill plates"),
    kinds.POST: (6, "posts"),
    kinds.BEAM: (7, "beams"),
    kinds.SUBFLOOR: (9, "panels of the deck"),
    kinds.RIDGE_BEAM: (10, "ridge beam and purlins"),
    kinds.PURLIN: (10, "ridge beam and purlins"),
    kinds.STRUT: (10, "ridge beam and purlins"),
    kinds.FASCIA: (12, "fascia"),
}
"""In which order, of what lies at one height, and what it is called; all else is set with its host."""
FRAME: Final = 8


class Stage(NamedTuple):
    """What is set together."""

    key: tuple[str, str]
    """Its host and what it is called."""
    words: str
    level: str
    members: tuple[Member, ...]
    low: float
    """How high it begins, mm."""
    rank: int
    lift: float | None
    """The heaviest piece or panel, N; None of what is poured."""
    weight: float


class Step(NamedTuple):
    """A stage in its place, and what it waits for in vain: what must hold it until then."""

    stage: Stage
    on: tuple[str, ...]
    propped: tuple[str, ...]


class Setting(NamedTuple):
    """The step that is looked at, of the steps of which building."""

    checked: Checked
    steps: tuple[Step, ...]
    number: int
    """From 0."""


@remembered_of_one
def steps_of(checked: Checked) -> tuple[Step, ...]:
    """All stages in the order they are set: each after what it sits on, the lowest first."""
    stages = {s.key: s for s in _stages(checked)}
    of = {m.id: s.key for s in stages.values() for m in s.members}
    under = _under_walls(checked)
    waits = {key: _sits_on(stage, of, under) for key, stage in stages.items()}
    found: list[Step] = []
    done: set[tuple[str, str]] = set()
    heap = [(*_place(s), s.key) for s in stages.values() if not waits[s.key]]
    heapq.heapify(heap)
    while len(done) < len(stages):
        if not heap:  # two hold one another: the lowest is propped until the other is there
            rest = [s for s in stages.values() if s.key not in done]
            heap = [(*_place(min(rest, key=_place)), min(rest, key=_place).key)]
        key = heapq.heappop(heap)[-1]
        if key in done:
            continue
        stage = stages[key]
        on = sorted(waits[key], key=lambda k: _place(stages[k]))
        found.append(
            Step(
                stage,
                tuple(stages[k].words for k in on if k in done),
                tuple(stages[k].words for k in on if k not in done),
            )
        )
        done.add(key)
        for other, needed in waits.items():
            if other not in done and key in needed and needed <= done:
                heapq.heappush(heap, (*_place(stages[other]), other))
    return tuple(found)


def _place(stage: Stage) -> tuple[float, int, str]:
    return round(stage.low / STOREY), stage.rank, stage.words


STOREY: Final = 1200.0
"""What begins within this of one another is set by the order of the trades, mm."""


def _stages(checked: Checked) -> Iterator[Stage]:
    groups: dict[tuple[str, str], list[Member]] = {}
    for m in checked.structure.members:
        word = RANK[m.kind][1] if m.kind in RANK else ""
        groups.setdefault((str(m.host), word), []).append(m)
    sections = sections_of(checked.project.system, checked.project.products)
    records, levels = host_records(checked.built), {x.id: x.name for x in checked.project.levels}
    panels = _panels(checked)
    for (host, word), members in groups.items():
        first = members[0]
        weights = [weight_of_member(checked, m, sections) or 0.0 for m in members]
        name = called_host(records.get(first.host), first.host.key)
        yield Stage(
            (host, word),
            f"{name}: {word}" if word else name,
            levels.get(first.level, ""),
            tuple(members),
            min(m.solid.bounds()[0][2] for m in members),
            RANK[first.kind][0] if word else FRAME,
            None if first.kind.concrete else panels.get(first.host, max(weights)),
            sum(weights),
        )


def _panels(checked: Checked) -> dict[HostName, float]:
    """The heaviest panel of each wall that is lifted in panels, N."""
    found: dict[HostName, float] = {}
    for p in panels_of(checked):
        host = HostName("wall", p.wall)
        found[host] = max(found.get(host, 0.0), p.weight)
    return found


def _sits_on(
    stage: Stage, of: dict[MemberName, tuple[str, str]], under: dict[HostName, set[str]]
) -> set[tuple[str, str]]:
    """The stages that carry one: by what its pieces bear on; a wall by what lies under its foot."""
    found = set()
    for m in stage.members:
        for s in m.carrier.supports:
            if isinstance(s.on, MemberName):
                found.add(of.get(s.on, stage.key))
            elif s.on is not None:
                found.add((str(s.on), ""))
    carries = under.get(stage.members[0].host, set())
    keys = set(of.values())
    found |= {k for k in keys if k[0] in carries}
    return {k for k in found if k in keys and k != stage.key}


def _under_walls(checked: Checked) -> dict[HostName, set[str]]:
    """The decks and foundations on which each wall stands, by its name."""
    project = checked.built
    found: dict[HostName, set[str]] = {}
    for w in project.walls:
        on = {str(HostName("floor", f.id)) for f in project.floors if f.level == w.base}
        on |= {str(HostName("run", r.id)) for r in project.runs if w.id in walls_on(r)}
        found[HostName("wall", w.id)] = on
    return found


def setting_list(checked: Checked) -> Listing:
    """The steps as a list."""
    rows = [
        Row(
            (
                float(n),
                step.stage.words,
                step.stage.level,
                float(len(step.stage.members)),
                step.stage.weight,
                step.stage.lift,
                ", ".join(step.on),
                ", ".join(step.propped),
            ),
            tuple(m.id for m in step.stage.members),
        )
        for n, step in enumerate(steps_of(checked), 1)
    ]
    columns = (
        Column("step", "step", "count"),
        Column("what", "what is set"),
        Column("level", "storey"),
        Column("count", "pieces", "count", sums=True),
        Column("weight", "weight", "weight", sums=True),
        Column("lift", "heaviest lift", "weight"),
        Column("on", "sits on"),
        Column("propped", "propped until"),
    )
    return Listing("setting", "Order of setting", columns, tuple(rows))
