"""What a foundation, a floor or a roof says about places along walls follows when walls are split,
joined or taken away."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from functools import partial
from typing import NamedTuple

import msgspec
from msgspec.structs import replace

from balken.geometry.plane import TOUCH
from balken.model.floors import FloorArea, FloorEdge, FloorOpening
from balken.model.foundations import FoundationRun, HeldStep, RunPart, RunSpan, Shelf
from balken.model.roofs import RoofArea, RoofSide

Keys = Callable[[tuple[str, ...]], tuple[str, ...]]


class Became(msgspec.Struct, frozen=True):
    """A stretch of an old wall, ``start`` to ``end`` along it, that is now part of ``wall``, from
    ``at`` on; ``turned`` where the new wall runs the other way."""

    start: float
    end: float
    wall: str
    at: float = 0.0
    turned: bool = False

    def place(self, x: float) -> float:
        """Where a place along the old wall lies along the new one."""
        return self.at + ((self.end - x) if self.turned else (x - self.start))


class Place(NamedTuple):
    """A place along a wall after walls changed; ``turned`` where that wall now runs the other
    way."""

    wall: str
    at: float
    turned: bool


def follow(
    run: FoundationRun, change: Keys, became: Mapping[str, Sequence[Became]]
) -> FoundationRun:
    """A foundation after its walls changed.

    Args:
        run: the foundation.
        change: what its list of walls becomes.
        became: what each wall that was split or joined became; walls not named stay as ``change``
            says.
    """
    place = partial(_place, change=change, became=became)
    steps = [(s, place(s.wall, s.at)) for s in run.steps]
    pockets = [(p, place(p.wall, p.at)) for p in run.pockets]
    made = replace(
        run,
        walls=change(run.walls),
        spans=_merged([made for s in run.spans for made in _span(s, change, became)]),
        parts=_parts(run, change),
        steps=tuple(_step(s, to) for s, to in steps if to),
        pockets=tuple(replace(p, wall=to.wall, at=to.at) for p, to in pockets if to),
        shelves=tuple(_shelves(run, change)),
    )
    return run if made == run else made


def _parts(run: FoundationRun, change: Keys) -> tuple[RunPart, ...]:
    """What is other of the run under single walls; of two that became one the first counts."""
    found: dict[str, RunPart] = {}
    for p in run.parts:
        for key in change((p.wall,)):
            found.setdefault(key, replace(p, wall=key))
    return tuple(found.values())


def _step(step: HeldStep, to: Place) -> HeldStep:
    return HeldStep(to.wall, to.at, -step.drop if to.turned else step.drop)


def _place(
    wall: str, x: float, change: Keys, became: Mapping[str, Sequence[Became]]
) -> Place | None:
    """Where a place along a wall is after it changed; None where that is gone."""
    if wall not in became:
        return Place(wall, x, False) if change((wall,)) else None
    part = _stretch_at(became[wall], x)
    return Place(part.wall, part.place(x), part.turned) if part else None


def _stretch_at(parts: Sequence[Became], x: float) -> Became | None:
    return next((b for b in parts if b.start - TOUCH <= x <= b.end + TOUCH), None)


def _shelves(run: FoundationRun, change: Keys) -> Iterator[Shelf]:
    """Shelves with their walls; one of whose walls none is left is gone."""
    for shelf in run.shelves:
        walls = change(shelf.walls)
        if walls or not shelf.walls:
            yield replace(shelf, walls=walls)


def _merged(spans: list[RunSpan]) -> tuple[RunSpan, ...]:
    """Parts of walls with those that touch as one."""
    found: list[RunSpan] = []
    for s in sorted(spans, key=lambda s: (s.wall, s.start)):
        if found and found[-1].wall == s.wall and s.start - found[-1].end <= TOUCH:
            found[-1] = replace(found[-1], end=max(found[-1].end, s.end))
        else:
            found.append(s)
    return tuple(spans) if len(found) == len(spans) else tuple(found)


def _span(span: RunSpan, change: Keys, became: Mapping[str, Sequence[Became]]) -> Sequence[RunSpan]:
    if span.wall not in became:
        return (span,) if change((span.wall,)) else ()
    found = []
    for b in became[span.wall]:
        low, high = max(span.start, b.start), min(span.end, b.end)
        if high - low > TOUCH:
            start, end = sorted((b.place(low), b.place(high)))
            found.append(RunSpan(b.wall, max(0.0, start), end))
    return found


def follow_floor(
    floor: FloorArea, change: Keys, became: Mapping[str, Sequence[Became]]
) -> FloorArea:
    """A floor after its walls changed: edges and openings stay with the wall they were said
    of.

    With its wall an opening is gone, since its place is measured from it.
    """
    edges: dict[str, FloorEdge] = {}
    for edge in floor.edges:
        for key in change((edge.wall,)):
            edges.setdefault(key, replace(edge, wall=key))
    holes = [_opening(hole, became) for hole in floor.openings if _has_wall(hole, change, became)]
    made = replace(
        floor, walls=change(floor.walls), edges=tuple(edges.values()), openings=tuple(holes)
    )
    return floor if made == floor else made


def _has_wall(hole: FloorOpening, change: Keys, became: Mapping[str, Sequence[Became]]) -> bool:
    """Whether the wall an opening is measured from is still there, if it has one."""
    return not hole.wall or hole.wall in became or bool(change((hole.wall,)))


def _opening(hole: FloorOpening, became: Mapping[str, Sequence[Became]]) -> FloorOpening:
    """An opening measured from what its wall became."""
    part = _stretch_at(became.get(hole.wall, ()), hole.at[0])
    if part is None:
        return hole
    away = -hole.at[1] if part.turned else hole.at[1]
    return replace(hole, wall=part.wall, at=(part.place(hole.at[0]), away))


def follow_roof(roof: RoofArea, change: Keys) -> RoofArea:
    """A roof after its walls changed: what is said of a side stays with the wall along
    it."""
    sides: dict[str, RoofSide] = {}
    for item in roof.sides:
        for key in change((item.side,)) if item.side in roof.walls else (item.side,):
            sides.setdefault(key, replace(item, side=key))
    made = replace(roof, walls=change(roof.walls), sides=tuple(sides.values()))
    return roof if made == roof else made
