"""Which joist stands next to another, for what is set between them."""

import math
from itertools import pairwise

from balken.framing.floors.bands import Band
from balken.framing.layout import Row, to_local
from balken.framing.member import Member
from balken.geometry.plane import TOUCH


class Neighbours:
    """The joists of a band and the first row beyond it, in the floor's own directions."""

    def __init__(self, band: Band, beyond: tuple[Member, ...], angle: float) -> None:
        self._rows: dict[float, list[tuple[float, float, Member]]] = {}
        placed = [(row.x, m) for row, m in band.pieces()] + [(math.inf, m) for m in beyond]
        for at, m in placed:
            x, low = to_local(m.start[:2], angle)
            self._rows.setdefault(at, []).append((x, low, m))
        self._after = dict(pairwise(self._rows))

    def next_row(self, row: Row) -> list[tuple[float, float, Member]]:
        """The joists of the row after one: their middle across, where they begin along, and they
        themselves."""
        return self._rows.get(self._after.get(row.x, row.x), [])

    def face(self, row: Row, x: float, y: float) -> float | None:
        """Where the near face of the joist beside a row stands, across, mm; None where none
        stands beside that place.

        Args:
            row: the row whose neighbour is asked for.
            x: its middle, across.
            y: the place along the joists.
        """
        faces = [
            (other, other - m.solid.depth / 2)
            for other, low, m in self.next_row(row)
            if low - TOUCH < y < low + m.length + TOUCH and other > x
        ]
        return min(faces)[1] if faces else None
