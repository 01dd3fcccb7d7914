"""What holds pieces to one another, where one kind is chosen for a use: what its maker says that it
holds, or nails, screws or bolts that are reckoned by the code."""

from typing import Annotated, Final, Literal

from msgspec import Meta

from balken.model.record import Name, Record

Use = Literal[
    "hanger", "strap", "heel", "ledger", "plies", "hold-down", "sole plate", "anchor", "plate lap"
]
USE_WORDS: Final[dict[Use, str]] = {
    "hanger": "hangers",
    "strap": "straps against wind",
    "heel": "heel joints and ties",
    "ledger": "ledgers on walls",
    "plies": "plies of beams",
    "hold-down": "hold-downs of walls",
    "sole plate": "sole plates of braced walls, on wood",
    "anchor": "anchors of braced walls, in concrete",
    "plate lap": "laps of top plates, edges of floors and roofs",
}
WOOD_TO_WOOD: Final[frozenset[Use]] = frozenset(
    ["heel", "ledger", "plies", "sole plate", "plate lap"]
)
"""Uses that nails, screws or bolts may be reckoned for: they join wood to wood."""
IN_ROWS: Final[frozenset[Use]] = frozenset(["ledger", "plies", "sole plate", "anchor", "plate lap"])
"""Uses whose fasteners stand one after the other along a piece."""
DowelKind = Literal["nails", "screws", "bolts"]


class Dowels(Record, frozen=True):
    """Nails, screws or bolts, mm, put in at right angles to the grain."""

    kind: DowelKind
    diameter: Annotated[float, Meta(ge=2, le=30)]
    """Of screws at the root of the thread."""
    length: Annotated[float, Meta(ge=20, le=600)]
    count: Annotated[int, Meta(ge=1, le=60)] = 1
    """At one joint; of those in rows side by side, across the row."""


class Fastener(Record, frozen=True):
    """One kind of fastener for a use."""

    use: Use
    name: Name
    holds: Annotated[float, Meta(gt=0, le=1e6)] | None = None
    """One of them, N: by the factors of the code, as its maker gives it."""
    dowels: Dowels | None = None
    """In place of that."""
    apart: Annotated[float, Meta(ge=25, le=3000)] = 400.0
    """Of those in rows, along the row, mm."""


def fault_of(fastener: Fastener) -> str:
    """What a choice contradicts, in words; empty where nothing."""
    if (fastener.holds is None) == (fastener.dowels is None):
        return "a fastener has what its maker says that it holds, or nails, screws or bolts: one of them"
    if fastener.dowels is not None and fastener.use not in WOOD_TO_WOOD:
        return f"{USE_WORDS[fastener.use]} hold what their maker says: nails alone are none"
    return ""
