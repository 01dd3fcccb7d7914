"""Fasteners to order: by the piece, and nails, screws and bolts by the bag or box they are sold in."""

import math
from collections.abc import Iterator
from typing import Final, NamedTuple

from balken.model.fasteners import IN_ROWS, DowelKind, Fastener, Use
from balken.model.names import MemberName
from balken.works.building import Checked
from balken.works.fasteners import demands_of

IN_BAG: Final[dict[DowelKind, int]] = {"nails": 500, "screws": 200, "bolts": 25}
"""How many a bag or box holds (common practice, no source)."""


class Ordered(NamedTuple):
    """One kind of fastener to order: how many, and of those sold so, how many bags."""

    words: str
    number: int
    bags: int


def fasteners_to_order(checked: Checked) -> Iterator[Ordered]:
    """What is wanted for each use: at each joint, and along each row."""
    chosen = {f.use: f for f in checked.project.fasteners}
    lengths = {m.id: m.length for m in checked.structure.members}
    places: dict[Use, list[MemberName]] = {}
    for d in demands_of(checked):
        places.setdefault(d.use, []).append(d.what)
    for use, names in sorted(places.items()):
        one = chosen.get(use)
        if use not in IN_ROWS:
            yield _at_joints(use, one, len(names))
        elif one is not None:
            # A row is asked for by several loads; it is nailed once.
            rows = dict.fromkeys(names)
            yield _in_rows(use, one, [lengths.get(n, 0.0) for n in rows])


def _at_joints(use: Use, one: Fastener | None, joints: int) -> Ordered:
    if one is None:
        return Ordered(f"{use}, not chosen", joints, 0)
    if one.dowels is None:
        return Ordered(f"{use}: {one.name}", joints, 0)
    return _bagged(use, one, joints * one.dowels.count)


def _in_rows(use: Use, one: Fastener, lengths: list[float]) -> Ordered:
    """As many as stand along each row, and side by side across it."""
    count = sum(math.floor(x / one.apart) + 1 for x in lengths)
    if one.dowels is None:
        return Ordered(f"{use}: {one.name}", count, 0)
    return _bagged(use, one, count * one.dowels.count)


def _bagged(use: Use, one: Fastener, count: int) -> Ordered:
    assert one.dowels is not None, "only dowels come in bags"
    kind = one.dowels.kind
    bags = math.ceil(count / IN_BAG[kind])
    return Ordered(f"{use}: {one.name}, {count} in bags of {IN_BAG[kind]}", count, bags)
