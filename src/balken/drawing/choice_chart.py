"""Choices of size as a chart: cost upward, depth to the right; what passes, what is chosen, and the
line of those that no other beats."""

from collections.abc import Callable, Iterable, Sequence
from typing import Final

from balken.design.sizing import Choice, frontier
from balken.drawing.marks import Drawing, Fill, Label, Mark, Patch, Stroke, rectangle
from balken.drawing.words import pretty
from balken.geometry.plane import Point
from balken.model.catalogue import PRICE_FACTOR
from balken.units import System, format_run

LEFT: Final = 13.0
RIGHT: Final = 98.0
HIGH: Final = 52.0
TEXT: Final = 3.2
DOT: Final = 1.1
"""Half the side of a dot, in units of a figure 100 wide."""


def choice_chart(
    found: Sequence[Choice], now: Choice | None, allowed: float, system: System
) -> Drawing:
    """The chart of some choices; nothing where there is nothing to compare.

    Args:
        found: the choices.
        now: the one that is built.
        allowed: depth, mm; infinite where nothing limits it.
        system: for the depths.
    """
    if len(found) < 2:
        return ()
    at = _placer(found)
    marks: list[Mark] = [
        Stroke(((LEFT, HIGH), (LEFT, 0.0), (RIGHT, 0.0)), "seen"),
        Label("cost", (LEFT - 1.0, HIGH + 2.0), TEXT, "end", quiet=True),
        Label("depth", (RIGHT, -8.5), TEXT, "end", quiet=True),
    ]
    for depth in sorted({c.depth for c in found}):
        x = at(depth, 0.0)[0]
        marks.append(Stroke(((x, 0.0), (x, -1.0)), "seen"))
        marks.append(Label(format_run(depth, system), (x, -4.6), TEXT - 0.4, quiet=True))
    low, high = min(c.cost for c in found), max(c.cost for c in found)
    for cost in (low, high):
        y = at(0.0, cost)[1]
        marks.append(Stroke(((LEFT - 1.0, y), (LEFT, y)), "seen"))
        marks.append(Label(f"{cost:,.0f}", (LEFT - 1.6, y - 1.0), TEXT - 0.4, "end", quiet=True))
    if min(c.depth for c in found) < allowed < max(c.depth for c in found):
        x = at(allowed, 0.0)[0]
        marks.append(Stroke(((x, 0.0), (x, HIGH - 4.0)), "hidden"))
        marks.append(Label("depth allowed", (x + 1.0, HIGH - 4.0), TEXT - 0.4, "start", quiet=True))
    best = frontier(found)
    if len(best) > 1:
        marks.append(Stroke(tuple(at(c.depth, c.cost) for c in best), "beyond"))
    for c in found:
        x, y = at(c.depth, c.cost)
        fill: Fill = "ink" if c.passes else "paper"
        marks.append(Patch(rectangle(x - DOT, y - DOT, x + DOT, y + DOT), fill, "hair"))
    if now is not None:
        x, y = at(now.depth, now.cost)
        reach = 2.2 * DOT
        ring = rectangle(x - reach, y - reach, x + reach, y + reach)
        marks.append(Stroke((*ring, ring[0]), "mark"))
        marks.append(Label(pretty(now.section), (x, y + 3.4), TEXT, bold=True, boxed=True))
    return tuple(marks)


def _placer(found: Sequence[Choice]) -> Callable[[float, float], Point]:
    """Where a depth and a cost lie in the chart."""
    depths, costs = [c.depth for c in found], [c.cost for c in found]
    d0, d1, c0, c1 = min(depths), max(depths), min(costs), max(costs)

    def at(depth: float, cost: float) -> Point:
        x = LEFT + 6 + (RIGHT - LEFT - 12) * (depth - d0) / max(d1 - d0, 1.0)
        y = 4 + (HIGH - 10) * (cost - c0) / max(c1 - c0, 1e-9)
        return x, y

    return at


def next_steps(found: Sequence[Choice], now: Choice) -> list[tuple[str, Choice]]:
    """What each next step buys: a grade better or plainer, the next spacings, the next depths; each
    the least that passes, with what it costs more or less."""
    passing = [c for c in found if c.passes and c != now]
    wanted: list[tuple[str, Choice | None]] = [
        ("shallower", _least(c for c in passing if c.depth < now.depth - 1.0)),
        ("deeper", _least(c for c in passing if c.depth > now.depth + 1.0)),
        ("farther apart", _least(c for c in passing if c.spacing > now.spacing + 1.0)),
        ("closer", _least(c for c in passing if c.spacing < now.spacing - 1.0)),
        ("better wood", _least(c for c in passing if _worth(c) > _worth(now))),
        ("plainer wood", _least(c for c in passing if _worth(c) < _worth(now))),
        ("fewer pieces", _least(c for c in passing if c.pieces < now.pieces)),
        ("less wood", _least(c for c in passing if c.volume < now.volume - 1.0)),
    ]
    steps: dict[Choice, list[str]] = {}
    for words, c in wanted:
        if c is not None:
            steps.setdefault(c, []).append(words)
    return [(", ".join(words), c) for c, words in steps.items()]


def _least(found: Iterable[Choice]) -> Choice | None:
    return min(found, key=lambda c: (c.cost, c.depth), default=None)


def _worth(c: Choice) -> float:
    return PRICE_FACTOR.get(c.wood[1], 1.0)
