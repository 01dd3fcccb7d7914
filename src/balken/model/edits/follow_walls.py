"""What a foundation, a floor or a roof says about places along walls follows when walls are split,
joined or taken away."""

from collections.abc import Callable, Mapping, Sequence

import msgspec
from msgspec.structs import replace

from balken.geometry.plane import TOUCH
from balken.model.floors import FloorArea, FloorEdge
from balken.model.foundations import FoundationRun, HeldStep, Pocket, RunPart, RunSpan
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

    def places(wall: str, x: float) -> tuple[str, float, bool] | None:
        if wall in became:
            return next(
                (
                    (b.wall, b.place(x), b.turned)
                    for b in became[wall]
                    if b.start - TOUCH <= x <= b.end + TOUCH
                ),
                None,
            )
        return (wall, x, False) if change((wall,)) else None

    spans = _merged([made for s in run.spans for made in _span(s, change, became)])
    parts: dict[str, RunPart] = {}
    for p in run.parts:
        for key in change((p.wall,)):
            parts.setdefault(key, replace(p, wall=key))
    steps: list[HeldStep] = []
    for step in run.steps:
        there = places(step.wall, step.at)
        if there:
            steps.append(HeldStep(there[0], there[1], -step.drop if there[2] else step.drop))
    pockets: list[Pocket] = []
    for pocket in run.pockets:
        there = places(pocket.wall, pocket.at)
        if there:
            pockets.append(replace(pocket, wall=there[0], at=there[1]))
    shelves = tuple(
        replace(s, walls=change(s.walls)) for s in run.shelves if not s.walls or change(s.walls)
    )
    made = replace(
        run,
        walls=change(run.walls),
        spans=spans,
        parts=tuple(parts.values()),
        steps=tuple(steps),
        pockets=tuple(pockets),
        shelves=shelves,
    )
    return run if made == run else made


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
    holes = []
    for hole in floor.openings:
        made = hole
        if hole.wall in became:
            stretch = next(
                (b for b in became[hole.wall] if b.start - TOUCH <= hole.at[0] <= b.end + TOUCH),
                None,
            )
            if stretch:
                away = -hole.at[1] if stretch.turned else hole.at[1]
                made = replace(hole, wall=stretch.wall, at=(stretch.place(hole.at[0]), away))
        elif hole.wall and not change((hole.wall,)):
            continue  # with its wall the opening is gone: its place is known no more
        holes.append(made)
    made_floor = replace(
        floor, walls=change(floor.walls), edges=tuple(edges.values()), openings=tuple(holes)
    )
    return floor if made_floor == floor else made_floor


def follow_roof(roof: RoofArea, change: Keys) -> RoofArea:
    """A roof after its walls changed: what is said of a side stays with the wall along
    it."""
    sides: dict[str, RoofSide] = {}
    for item in roof.sides:
        for key in change((item.side,)) if item.side in roof.walls else (item.side,):
            sides.setdefault(key, replace(item, side=key))
    made = replace(roof, walls=change(roof.walls), sides=tuple(sides.values()))
    return roof if made == roof else made
