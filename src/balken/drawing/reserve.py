"""How far everything is used, on the plan: along each piece a bar as long as its utilisation, and the
number."""

import math
from collections.abc import Iterable, Iterator
from typing import Final

from balken.drawing.marks import Drawing, Label, Mark, Patch, rectangle
from balken.drawing.tiers import Tier
from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.plane import Point, Ring, add, box, distance, left, sub, unit
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
    return [mark for m in _used(checked, tier) for mark in _bar(m, checked.used[m.id][0])]


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


def reserve_notes(checked: Checked, tier: Tier) -> Drawing:
    """The numbers: of all where they are few, else of the most used of each kind and of what is
    nearly used up."""
    used = _used(checked, tier)
    named = used if len(used) <= FEW else [*_worst_of_each(checked, used)]
    return tuple(
        Label(
            ratio_words(checked.used[m.id][0]),
            ((m.start[0] + m.end[0]) / 2, (m.start[1] + m.end[1]) / 2),
            2.2,
            bold=is_over(checked.used[m.id][0]),
            boxed=True,
            key=m.id,
        )
        for m in named
    )


def _worst_of_each(checked: Checked, members: Iterable[Member]) -> Iterator[Member]:
    worst: dict[tuple[str, str], Member] = {}
    for m in members:
        kind = (str(m.host), m.role)
        if kind not in worst or checked.used[m.id][0] > checked.used[worst[kind].id][0] + 1e-9:
            worst[kind] = m
    first = {m.id for m in worst.values()}
    for m in members:
        if m.id in first or is_over(checked.used[m.id][0]):
            yield m


def ratio_words(ratio: float) -> str:
    """A utilisation in two places; what has no number is told as over."""
    return f"{ratio:.2f}" if math.isfinite(ratio) else "over"
