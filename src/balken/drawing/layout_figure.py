"""A sloped piece as it lies on the trestles to be marked: flat, with its lengths along the top
edge, its birdsmouth large, and the framing square as it is held for the plumb cut.

The frame is that of :mod:`balken.drawing.figure`: 100 mm wide; the board's top edge is level, its
tail to the left.
"""

import math
from itertools import pairwise
from typing import Final, NamedTuple

from balken.drawing.marks import Drawing, Label, Mark, Patch, Stroke
from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.framing_square import CORNER, STEP
from balken.geometry.plane import Point, Ring, add, distance, dot, rotate, signed_area, sub
from balken.geometry.solid import Extrusion
from balken.units import System, format_length, format_run

TEXT: Final = 3.4
LEFT: Final = 4.0
RIGHT: Final = 96.0
LAID_OUT: Final = (kinds.RAFTER, kinds.TRIMMER, kinds.BARGE_RAFTER, kinds.HIP, kinds.VALLEY)
DETAIL: Final = -24.0
"""Height of the top edge in the details."""
WIDE: Final = 42.0
"""Of a detail."""
STRIDE: Final = 20.0
"""How far along the top edge the marks of the square lie apart in its detail."""
ARM: Final = 3.0
"""Width of the arms of the square."""
PAST: Final = 6.0
"""How far they go on past their marks."""


class Notch(NamedTuple):
    """A birdsmouth of the lying board: its inner corner, and the ends of its plumb and of its level
    cut, mm."""

    inner: Point
    heel: Point
    toe: Point


class Lying(NamedTuple):
    """A board turned so that its top edge lies at height 0 from 0 to its head: its outline and its
    notches, mm."""

    ring: Ring
    head: float
    notches: tuple[Notch, ...]
    slope: float

    @property
    def depth(self) -> float:
        """Square to the edge, mm."""
        return -min(y for _, y in self.ring)

    def over(self, p: Point) -> Point:
        """Where a plumb line through a place crosses the top edge."""
        return (p[0] - p[1] * self.slope, 0.0)


def lying(m: Member) -> Lying | None:
    """A sloped piece turned to lie flat, cut along its middle; None for what is no board on
    the slope."""
    stands_up = abs(m.solid.v[2] - 1.0) <= 1e-6
    if m.kind not in LAID_OUT or m.slope < 1e-6 or not stands_up:
        return None
    ring = _rising(m)
    turned = [rotate(p, -math.atan(m.slope)) for p in ring]
    top = max(y for _, y in turned)
    edge = [x for x, y in turned if top - y < 1.0]
    flat = tuple((x - min(edge), y - top) for x, y in turned)
    return Lying(flat, max(edge) - min(edge), tuple(_notches(ring, flat)), m.slope)


def _rising(m: Member) -> Ring:
    """The outline of a piece along its middle, rising to the right, counter-clockwise."""
    ring = _middle(m.solid)
    if dot(m.solid.u[:2], sub(m.end[:2], m.start[:2])) < 0:
        ring = tuple((-x, z) for x, z in ring)
    return ring[::-1] if signed_area(ring) < 0 else ring


def _middle(solid: Extrusion) -> Ring:
    """The outline of a body half way across it; of one whose ends are bevelled, between
    those of its faces."""
    half = solid.depth / 2
    rings = [(0.0, solid.outline), *solid.across]
    for (y0, one), (y1, other) in pairwise(rings):
        if y0 <= half <= y1:
            t = (half - y0) / (y1 - y0)
            return tuple(
                (a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])) for a, b in zip(one, other)
            )
    return solid.outline


def _notches(ring: Ring, flat: Ring) -> list[Notch]:
    """The inner corners of an outline that lie between a plumb and a level side, from the
    tail up."""
    found = []
    for i, p in enumerate(ring):
        before, after = ring[i - 1], ring[(i + 1) % len(ring)]
        turn = (p[0] - before[0]) * (after[1] - p[1]) - (p[1] - before[1]) * (after[0] - p[0])
        if turn < -1e-6 and abs(before[0] - p[0]) < 0.1 and abs(after[1] - p[1]) < 0.1:
            found.append(Notch(flat[i], flat[i - 1], flat[(i + 1) % len(ring)]))
    return sorted(found)


def layout_figure(m: Member, system: System) -> Drawing:
    """How a rafter, hip or valley is laid out; empty for other pieces."""
    board = lying(m)
    if board is None:
        return ()
    marks = _whole(board, m, system)
    if board.notches:
        marks += _birdsmouth(board, board.notches[0], system)
    return (*marks, *_held(board, m, system))


def _whole(board: Lying, m: Member, system: System) -> list[Mark]:
    """The whole board to scale, with what is measured along its top edge to the plumb line of each
    birdsmouth, and in all."""
    x_low, x_high = min(x for x, _ in board.ring), max(x for x, _ in board.ring)
    scale = (RIGHT - LEFT) / (x_high - x_low)

    def at(p: Point) -> Point:
        return (LEFT + (p[0] - x_low) * scale, p[1] * scale)

    plumbs = [board.over(n.inner) for n in board.notches]
    marks: list[Mark] = [Patch(tuple(at(p) for p in board.ring), "timber", "seen")]
    marks += [Stroke((at(p), at(n.inner)), "hair") for p, n in zip(plumbs, board.notches)]
    strings = [([0.0, *(x for x, _ in plumbs), board.head], 4.0)]
    if plumbs:
        strings.append(([0.0, board.head], 11.0))
    tail = ""
    for places, y in strings:
        ends = [at((x, 0.0))[0] for x in places]
        marks += _string(ends, y)
        for (a, b), (x0, x1) in zip(pairwise(places), pairwise(ends)):
            words = format_length(b - a, system)
            if x1 - x0 > len(words) * 0.55 * TEXT:
                marks.append(Label(words, ((x0 + x1) / 2, y + 1.4), TEXT))
            elif a == 0.0:  # no room on the line
                tail = f", tail {words}"
    y = -board.depth * scale - 5.0
    foot, head = (cut.partition(",")[0] for cut in m.cuts[:2])
    marks.append(Label(foot + tail, (LEFT, y), TEXT, "start", quiet=True))
    marks.append(Label(head, (RIGHT, y), TEXT, "end", quiet=True))
    return marks


def _string(ends: list[float], y: float) -> list[Mark]:
    """A dimension line over the board, with a tick and a line down at each place."""
    marks: list[Mark] = [Stroke(((ends[0], y), (ends[-1], y)), "hair")]
    for x in ends:
        marks += [
            Stroke(((x - 0.8, y - 0.8), (x + 0.8, y + 0.8)), "seen"),
            Stroke(((x, 0.8), (x, y + 1.0)), "hair"),
        ]
    return marks


class _Detail(NamedTuple):
    """A window on the board: where it begins along the board and in the figure, and its scale."""

    x0: float
    left: float
    scale: float

    def at(self, p: Point) -> Point:
        return (self.left + (p[0] - self.x0) * self.scale, DETAIL + p[1] * self.scale)

    def cut_out(self, board: Lying) -> Patch:
        from shapely import Polygon, box

        x1 = self.x0 + WIDE / self.scale
        part = (
            Polygon(board.ring)
            .buffer(0)
            .intersection(box(self.x0, -2 * board.depth, x1, board.depth))
        )
        part = max(getattr(part, "geoms", [part]), key=lambda g: g.area)
        return Patch(tuple(self.at(p) for p in part.exterior.coords[:-1]), "timber", "beyond")


def _birdsmouth(board: Lying, notch: Notch, system: System) -> list[Mark]:
    """The birdsmouth large: the seat, how deep it cuts, and what is left over it, plumb."""
    seat = distance(notch.inner, notch.toe)
    scale = min(WIDE / max(2.2 * board.depth, 2.0 * seat), 26.0 / board.depth)
    over = board.over(notch.inner)
    middle = (notch.heel[0] + max(over[0], notch.toe[0])) / 2
    d = _Detail(middle - WIDE / scale / 2, LEFT, scale)
    deep = board.depth + notch.inner[1]
    words = f"seat {format_run(seat, system)}, {format_run(deep, system)} deep"
    spot = d.at(over)
    return [
        d.cut_out(board),
        Stroke((d.at(notch.heel), d.at(notch.inner), d.at(notch.toe)), "cut"),
        Stroke((d.at(over), d.at(notch.inner)), "centre"),
        Label(
            format_run(distance(over, notch.inner), system),
            (spot[0] + 1.5, spot[1] - 5.5),
            TEXT,
            "start",
        ),
        Label(words, (LEFT + WIDE / 2, DETAIL - board.depth * scale - 5.5), TEXT),
    ]


def _held(board: Lying, m: Member, system: System) -> list[Mark]:
    """The square on the head: the run on its blade and the rise on its tongue at the top edge, the
    plumb cut along the tongue.

    It counts on 12, for hips and valleys on 17 (12 times the diagonal); on a metre where lengths
    are metric. Drawn to no scale but its own.
    """
    angle = math.atan(m.slope)
    level, plumb = (math.cos(angle), -math.sin(angle)), (math.sin(angle), math.cos(angle))
    scale = 17.0 / board.depth
    d = _Detail(board.head - (WIDE - PAST) / scale, RIGHT - WIDE, scale)
    b = d.at((board.head, 0.0))
    a = (b[0] - STRIDE, b[1])
    c = add(b, plumb, -STRIDE * math.sin(angle))
    far, high = add(a, level, -PAST), add(b, plumb, PAST)
    inner = add(add(c, plumb, ARM), level, -ARM)
    arms = (far, c, high, add(high, level, -ARM), inner, add(far, plumb, ARM))
    run = STEP * CORNER if m.kind in (kinds.HIP, kinds.VALLEY) else STEP
    figures = (
        (f"{run:.3g}", f"{m.slope * run:.3g}")
        if system == "us"
        else ("1000", f"{m.slope * 1000:.0f}")
    )
    return [
        d.cut_out(board),
        Patch(arms, "paper", "seen"),
        Stroke((a, b), "hair"),
        Label(figures[0], (a[0] - 1.5, a[1] - 4.6), TEXT, "end", bold=True),
        Label(figures[1], (b[0] + 1.2, b[1] - 3.6), TEXT, "start", bold=True),
        Label("plumb cut", (RIGHT - WIDE / 2, DETAIL - 22.5), TEXT),
    ]
