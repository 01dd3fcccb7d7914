"""How far everything is used, on the plan: along each piece a bar as long as its utilisation, and the
number."""

import math
from collections.abc import Iterable, Iterator
from typing import Final

from balken.drawing.marks import Drawing, Label, Mark, Patch, Stroke, rectangle
from balken.drawing.tiers import Tier
from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.plane import (
    Point,
    Ring,
    add,
    box,
    distance,
    left,
    middle_of,
    sub,
    unit,
)
from balken.loads.sideways import Line
from balken.model.names import HostName
from balken.model.walls import Wall, wall_length
from balken.units import format_force
from balken.works.bracing import braced_lines
from balken.works.building import Checked, is_over

SHARE: Final = 0.42
"""Of a piece's width that its bar is wide."""
THINNEST: Final = 90.0
"""A bar is no thinner than this, mm: it stands out past a joist."""
FEW: Final = 40
"""So many pieces on a plan have their numbers all; of more, the most used of each kind."""
NEARLY: Final = 0.9
"""And each that is used to this or more."""


def reserve_marks(checked: Checked, tier: Tier) -> list[Mark]:
    """The bars of a tier: black up to 1.00, in the colour of what is wrong beyond."""
    bars = [mark for m in _used(checked, tier) for mark in _bar(m, checked.used[m.id][0])]
    return bars + sideways_marks(checked, tier)


def _used(checked: Checked, tier: Tier) -> list[Member]:
    """The members of a tier that are checked; posts that stand in it too."""
    return [m for m in checked.structure.members if m.id in checked.used and _shown(m, tier)]


def _shown(m: Member, tier: Tier) -> bool:
    if m.host.kind != "support":
        return tier.holds(m.host)
    if m.kind is not kinds.POST:
        return tier.kind == "ground"
    return tier.low < (m.start[2] + m.end[2]) / 2 < tier.high


def _bar(m: Member, ratio: float) -> Iterator[Mark]:
    """A bar from the piece's start over the share of its length that is used."""
    share = min(1.0, ratio) if math.isfinite(ratio) else 1.0
    ring = _stretch(m, share)
    over = is_over(ratio)
    yield Patch(ring, "mark" if over else "ink", "mark" if over else "none", m.id)


def _stretch(m: Member, share: float) -> Ring:
    ring = m.solid.plan()
    a, b = m.start[:2], m.end[:2]
    length = distance(a, b)
    if length < 1.0 or m.kind.upright:
        x0, y0, x1, y1 = box(ring)
        half = max(THINNEST, (y1 - y0) * SHARE) / 2
        middle = (y0 + y1) / 2
        return rectangle(x0, middle - half, x0 + (x1 - x0) * share, middle + half)
    way = unit(sub(b, a))
    across = left(way)
    half = max(THINNEST, _wide(ring, across) * SHARE) / 2
    end = add(a, way, length * share)
    return (
        add(a, across, -half),
        add(end, across, -half),
        add(end, across, half),
        add(a, across, half),
    )


def _wide(ring: Ring, across: Point) -> float:
    places = [p[0] * across[0] + p[1] * across[1] for p in ring]
    return max(places) - min(places)


def sideways_marks(checked: Checked, tier: Tier) -> list[Mark]:
    """Along each wall of a storey that braces it a double arrow, with what wind and earthquake ask of
    its line."""
    found: list[Mark] = []
    for item in tier_walls(checked, tier):
        line = _line_of(checked, item)
        if line is None:
            continue
        a, b = item.start, item.end
        way = unit(sub(b, a))
        beside = left(way)
        p, q = (add(add(x, way, t * 600.0), beside, -ASIDE) for x, t in ((a, 1), (b, -1)))
        key = HostName("wall", item.id)
        found.append(Stroke((p, q), "mark", key))
        for tip, back in ((p, 1.0), (q, -1.0)):
            wings = (add(add(tip, way, back * 220.0), beside, side) for side in (-90.0, 90.0))
            low, high = wings
            found.append(Stroke((low, tip, high), "mark", key))
    return found


ASIDE: Final = 450.0
"""The arrows stand so far beside their walls, mm."""


def sideways_notes(checked: Checked, tier: Tier) -> Drawing:
    """What each line of walls is asked for, beside the longest wall of it."""
    system = checked.project.system
    found = []
    held = {b.line.walls: f"used to {b.used:.2f}" for b in braced_lines(checked) if b.stretches}
    for item in tier_walls(checked, tier):
        line = _line_of(checked, item)
        if line is None or item.id != _longest(checked, line):
            continue
        words = [f"wind {format_force(line.wind, system)}"] if line.wind else []
        words += [f"earthquake {format_force(line.quake, system)}"] if line.quake else []
        words += [held[line.walls]] if line.walls in held else []
        way = unit(sub(item.end, item.start))
        at = add(middle_of(item.start, item.end), left(way), -ASIDE)
        angle = (math.degrees(math.atan2(way[1], way[0])) + 89.9) % 180 - 89.9
        found.append(Label(", ".join(words), at, 2.5, angle=angle, boxed=True))
    return tuple(found)


def tier_walls(checked: Checked, tier: Tier) -> list[Wall]:
    """The walls of a tier, where it is one of walls."""
    if tier.kind != "walls":
        return []
    return [w for w in checked.project.walls if w.base == tier.walls_on and not w.bulge]


def _line_of(checked: Checked, item: Wall) -> Line | None:
    """The line a wall braces in; of a wall that passes two storeys, in the lower."""
    lines = [x for s in checked.sideways for x in s.lines if item.id in x.walls]
    return lines[-1] if lines else None


def _longest(checked: Checked, line: Line) -> str:
    lengths = {w.id: wall_length(w) for w in checked.project.walls}
    return max(line.walls, key=lambda k: (lengths.get(k, 0.0), k))


def reserve_notes(checked: Checked, tier: Tier) -> Drawing:
    """The numbers: of all where they are few, else of the most used of each kind and of what is
    nearly used up; on walls with them what wind and earthquake ask of their lines."""
    used = _used(checked, tier)
    if tier.kind == "walls":
        return sideways_notes(checked, tier) + _numbers(checked, _worst_of_each(checked, used))
    named = used if len(used) <= FEW else [*_worst_of_each(checked, used)]
    return _numbers(checked, named)


def _numbers(checked: Checked, members: Iterable[Member]) -> Drawing:
    return tuple(
        Label(
            ratio_words(checked.used[m.id][0]),
            ((m.start[0] + m.end[0]) / 2, (m.start[1] + m.end[1]) / 2),
            2.2,
            bold=is_over(checked.used[m.id][0]),
            boxed=True,
            key=m.id,
        )
        for m in members
    )


def _worst_of_each(checked: Checked, members: Iterable[Member]) -> Iterator[Member]:
    worst: dict[tuple[str, str], Member] = {}
    for m in members:
        kind = ("wall" if m.kind.of_wall else str(m.host), m.role)
        if kind not in worst or checked.used[m.id][0] > checked.used[worst[kind].id][0] + 1e-9:
            worst[kind] = m
    first = {m.id for m in worst.values()}
    for m in members:
        if m.id in first or is_over(checked.used[m.id][0]):
            yield m


def ratio_words(ratio: float) -> str:
    """A utilisation in two places; what has no number is told as over."""
    return f"{ratio:.2f}" if math.isfinite(ratio) else "over"
