"""Openings in a joist floor: trimmers beside them, headers across their ends, tail joists that hang
on the headers.

Common rules: a header over more than 4 ft is double, and so are its trimmers (IRC 2021 R502.10).
"""

from typing import Final, NamedTuple

from balken.framing.layout import Stand, to_local
from balken.framing.member import Hole
from balken.geometry.plane import TOUCH, Ring, box, crossings
from balken.units import FOOT

SINGLE_HEADER: Final = 4 * FOOT
"""A header over more than this is double (IRC 2021 R502.10), mm."""
AT_EDGE: Final = 250.0
"""An opening nearer than this to the end of its joists needs no header there: the wall is its edge,
mm."""


class Framed(NamedTuple):
    """An opening in the local plan: its box, how many plies its headers and trimmers have, and
    which sides have them."""

    key: str
    box: tuple[float, float, float, float]
    plies: int
    near: bool
    far: bool
    left: int
    right: int
    """How many plies the trimmers beside it have; none where a wall or edge joist is there."""

    def header_lines(self, breadth: float) -> list[tuple[str, float]]:
        """The headers' names and where their middles lie along the joists; each is so many
        plies thick."""
        half = self.plies * breadth / 2
        found = [("n", self.box[1] - half)] if self.near else []
        return found + ([("f", self.box[3] + half)] if self.far else [])

    def cleared(self, breadth: float) -> Ring:
        """The outline where no joist can be: the opening with its headers."""
        x0, y0, x1, y1 = self.box
        thick = self.plies * breadth
        y0, y1 = y0 - thick * self.near, y1 + thick * self.far
        return ((x0, y0), (x0, y1), (x1, y1), (x1, y0))  # clockwise, as a hole


def framed(
    holes: tuple[Hole, ...], outline: Ring, angle: float, breadth: float, wanted: dict[str, int]
) -> list[Framed]:
    """The openings as they are framed, square to the joists; those outside the outline are
    left out.

    ``wanted`` are plies by calculation, by the names of trimmer rows and of headers.
    """
    x_low, _, x_high, _ = box(outline)
    found = []
    for hole in holes:
        x0, y0, x1, y1 = box([to_local(p, angle) for p in hole.ring])
        run = _run_of_floor(outline, (x0 + x1) / 2, (y0 + y1) / 2)
        if run is None:
            continue
        plies, left, right = _plies(hole.key, x1 - x0, wanted)
        near, far = y0 - run[0] > AT_EDGE, run[1] - y1 > AT_EDGE
        found.append(
            Framed(
                hole.key,
                (x0, y0 if near else run[0], x1, y1 if far else run[1]),
                plies,
                near,
                far,
                left if x0 - x_low > 2 * breadth else 0,
                right if x_high - x1 > 2 * breadth else 0,
            )
        )
    return found


def _run_of_floor(outline: Ring, x: float, y: float) -> tuple[float, float] | None:
    """From where to where the floor goes on past a place along the joists."""
    ends = crossings(outline, x)
    return next(((lo, hi) for lo, hi in zip(ends[::2], ends[1::2]) if lo < y < hi), None)


def _plies(key: str, wide: float, wanted: dict[str, int]) -> tuple[int, int, int]:
    """The plies of an opening's headers, and of its left and its right trimmer: two where it is
    wider than a single header may be, and what the calculation wants."""
    least = 2 if wide > SINGLE_HEADER + TOUCH else 1
    headers = max(least, wanted.get(f"{key}n", 1), wanted.get(f"{key}f", 1))
    left, right = (max(least, wanted.get(f"T{key}{side}", 1)) for side in "LR")
    return headers, left, right


def trimmer_stands(
    openings: list[Framed], outline: Ring, breadth: float
) -> list[tuple[Stand, float]]:
    """The rows beside openings, full length from wall to wall, with how wide they are kept
    clear.

    A row stands where its inner ply does, along the opening's edge; its other plies stand outside
    that one.
    """
    found: list[tuple[Stand, float]] = []
    for item in openings:
        middle = (item.box[1] + item.box[3]) / 2
        for side, plies in (("L", item.left), ("R", item.right)):
            if not plies:
                continue
            wide = (2 * plies - 1) * breadth
            x = item.box[0] - breadth / 2 if side == "L" else item.box[2] + breadth / 2
            ends = crossings(outline, x)
            run = next(
                ((lo, hi) for lo, hi in zip(ends[::2], ends[1::2]) if lo < middle < hi), None
            )
            if run and all(abs(x - s[1]) > (wide + w) / 2 - TOUCH for s, w in found):
                found.append(((f"T{item.key}{side}", x, *run), wide))
    return found
