"""The front of a roof: its outline at a height, moving inward as the height grows.

Each side is a line with so much run for so much rise. Where a side shrinks to nothing, or a corner
that points inward meets another side, the front changes; in between every corner moves straight. A
vertical side - a gable, the high end of a shed - does not move; a side whose plate lies higher
waits for its height; one that breaks (gambrel, mansard) goes on at another pitch. Every event at
one height is taken together: the front is advanced, then mended until it is simple again, so that
it does not matter in which order things that happen at once are found.
"""

from collections.abc import Iterable, Sequence
from typing import Final

import msgspec
import numpy as np
from numpy.typing import NDArray

from balken.errors import BalkenError
from balken.geometry.plane import Point, Ring, add, cross, dot, left, signed_area, sub, unit

NEAR: Final = 1e-3
"""Corners of a front nearer than this are one, mm."""
LITTLE: Final = 1.0
"""A front that encloses less than this has closed, mm²."""
STEADY: Final = 1e-12
"""A rate smaller than this is none, mm per mm of height."""
ALIKE: Final = 1e-7
"""Directions that differ by less than this are one, radians."""


class RoofError(BalkenError):
    """Planes that do not close over an outline; the text says where and why."""


class Side(msgspec.Struct, frozen=True, gc=False):
    """How the roof rises from one side of the outline."""

    pitch: float | None
    """Rise over run; none where the side goes straight up: a gable, the high end of a shed."""
    height: float = 0.0
    """Where it begins to rise, mm."""
    breaks: tuple[tuple[float, float], ...] = ()
    """From which height on it has which pitch, mm: a gambrel, a mansard."""

    def part_at(self, z: float) -> int:
        """Which of its parts rises just above a height, 0 the first; -1 below where it
        begins, and where it goes straight up."""
        if self.pitch is None or z < self.height - NEAR:
            return -1
        return sum(z >= at - NEAR for at, _ in self.breaks)

    def parts(self) -> list[tuple[float, float]]:
        """From which height on it has which pitch."""
        return [] if self.pitch is None else [(self.height, self.pitch), *self.breaks]


class Line(msgspec.Struct):
    """A side of the front: where it is now, and what it has swept."""

    ring: int
    side: int
    rule: Side
    normal: Point
    """Inward."""
    first: float
    """``normal · p`` of its points to begin with."""
    offset: float
    """The same where it is now."""
    part: int = -1
    """Which part of its rule rises now."""
    speed: float = 0.0
    """Run per rise."""


Entry = tuple[int, Point]
"""A line of the front by its number, and where its stretch begins; it ends where the next
begins."""
Loop = list[Entry]


def front_of(
    rings: Sequence[Ring], sides: Sequence[Sequence[Side]]
) -> tuple[list[Line], list[Loop]]:
    from shapely import Polygon

    shape = Polygon(rings[0], rings[1:])
    if not shape.is_valid or shape.area < LITTLE:
        raise RoofError("the outline crosses itself, or encloses nothing")
    lines: list[Line] = []
    loops: list[Loop] = []
    for r, (ring, rules) in enumerate(zip(rings, sides)):
        if (signed_area(ring) > 0) != (r == 0):
            raise RoofError("the outline must run counter-clockwise, and courtyards clockwise")
        loop: Loop = []
        for s, (a, b) in enumerate(zip(ring, [*ring[1:], ring[0]])):
            normal = left(unit(sub(b, a)))
            loop.append((len(lines), a))
            lines.append(Line(r, s, rules[s], normal, dot(normal, a), dot(normal, a)))
        loops.append(loop)
        for (i, _), (k, at) in zip(loop, [*loop[1:], loop[0]]):
            if (
                abs(cross(lines[i].normal, lines[k].normal)) < ALIKE
                and lines[i].rule != lines[k].rule
            ):
                raise RoofError(
                    f"sides {lines[i].side + 1} and {lines[k].side + 1} run in one line and rise"
                    " differently, at"
                    f" {at[0]:.0f}, {at[1]:.0f}: turn one of them a little, or let both rise alike"
                )
    return lines, loops


def _velocity(lines: list[Line], i: int, k: int) -> Point:
    """How the corner between two lines moves per mm of height."""
    a, b = lines[i], lines[k]
    turn = cross(a.normal, b.normal)
    if abs(turn) < ALIKE:
        return a.normal[0] * a.speed, a.normal[1] * a.speed
    return (
        (a.speed * b.normal[1] - b.speed * a.normal[1]) / turn,
        (b.speed * a.normal[0] - a.speed * b.normal[0]) / turn,
    )


def _corner(lines: list[Line], i: int, k: int, near: Point) -> Point:
    """Where two lines meet; ``near`` where they run alike."""
    a, b = lines[i], lines[k]
    turn = cross(a.normal, b.normal)
    if abs(turn) < ALIKE:
        return near
    return (
        (a.offset * b.normal[1] - b.offset * a.normal[1]) / turn,
        (b.offset * a.normal[0] - a.offset * b.normal[0]) / turn,
    )


class _State(msgspec.Struct):
    """All stretches of a front side by side: where each begins and ends, how both ends move, its
    line."""

    start: NDArray[np.float64]
    end: NDArray[np.float64]
    start_rate: NDArray[np.float64]
    end_rate: NDArray[np.float64]
    way: NDArray[np.float64]
    normal: NDArray[np.float64]
    offset: NDArray[np.float64]
    speed: NDArray[np.float64]
    before: NDArray[np.int64]
    """The number of the stretch before each in its loop."""


def _state(lines: list[Line], loops: list[Loop]) -> _State:
    start: list[Point] = []
    end: list[Point] = []
    rates: list[Point] = []
    last: list[Point] = []
    own: list[int] = []
    before: list[int] = []
    for loop in loops:
        first = len(own)
        count = len(loop)
        moves = [_velocity(lines, loop[n - 1][0], loop[n][0]) for n in range(count)]
        start += [p for _, p in loop]
        end += [loop[(n + 1) % count][1] for n in range(count)]
        rates += moves
        last += [moves[(n + 1) % count] for n in range(count)]
        own += [i for i, _ in loop]
        before += [first + (n - 1) % count for n in range(count)]
    normal = np.array([lines[i].normal for i in own])
    return _State(
        np.array(start),
        np.array(end),
        np.array(rates),
        np.array(last),
        np.stack([normal[:, 1], -normal[:, 0]], axis=1),
        normal,
        np.array([lines[i].offset for i in own]),
        np.array([lines[i].speed for i in own]),
        np.array(before),
    )


def next_step(lines: list[Line], loops: list[Loop], z: float, top: float | None) -> float:
    """How far the front rises until it changes, mm."""
    s = _state(lines, loops)
    length = ((s.end - s.start) * s.way).sum(axis=1)
    rate = ((s.end_rate - s.start_rate) * s.way).sum(axis=1)
    with np.errstate(divide="ignore", invalid="ignore"):
        shrinks = np.where(rate < -STEADY, np.maximum(length, 0.0) / -rate, np.inf)
        # A corner that points inward, against every side but its own two.
        turn = s.way[s.before, 0] * s.way[:, 1] - s.way[s.before, 1] * s.way[:, 0]
        reflex = np.flatnonzero(turn < -ALIKE)
        away = s.start[reflex] @ s.normal.T - s.offset
        nears = s.start_rate[reflex] @ s.normal.T - s.speed
        meets = np.where((nears < -STEADY) & (away > -NEAR), np.maximum(away, 0.0) / -nears, np.inf)
        meets[np.arange(len(reflex)), reflex] = np.inf
        meets[np.arange(len(reflex)), s.before[reflex]] = np.inf
        finite = np.where(np.isfinite(meets), meets, 0.0)
        at = s.start[reflex][:, None] + s.start_rate[reflex][:, None] * finite[..., None]
        low = s.start[None] + s.start_rate[None] * finite[..., None]
        along = ((at - low) * s.way[None]).sum(axis=2)
        meets[(along < -NEAR) | (along > length + rate * finite + NEAR)] = np.inf
    best = min(float(shrinks.min()), float(meets.min()) if meets.size else np.inf)
    for line in lines:
        best = min([best, *(mark - z for mark, _ in line.rule.parts() if mark > z + NEAR)])
    if top is not None:
        best = min(best, top - z)
    if not np.isfinite(best):
        k = int(length.argmax())
        (x0, y0), (x1, y1) = s.start[k], s.end[k]
        raise RoofError(
            f"the planes never meet: over the side from {x0:.0f}, {y0:.0f} to {x1:.0f}, {y1:.0f}"
            " nothing closes the roof."
            " Let at least one more side rise"
        )
    return best


_Pair = tuple[Point, Point]
"""Both ends of a stretch."""


class Swept(msgspec.Struct):
    """What the sides have swept so far."""

    done: dict[tuple[int, int], list[tuple[Point, ...]]]
    """By line and part, as trapezoids."""
    going: dict[tuple[object, ...], tuple[_Pair, _Pair]]
    """Stretches between the same neighbours at the same speeds as a step ago: where they began to
    be so, and where they are. Their corners move straight, so that it is one trapezoid until
    something changes."""

    def keep(self, key: tuple[object, ...], low: _Pair, high: _Pair) -> None:
        """Keep a trapezoid, if it encloses anything."""
        corners = (low[0], low[1], high[1], high[0])
        if abs(signed_area(corners)) > 1e-6:
            line, part = key[:2]
            assert isinstance(line, int)
            assert isinstance(part, int)
            self.done.setdefault((line, part), []).append(
                tuple((round(x, 4), round(y, 4)) for x, y in corners)
            )


def advanced(lines: list[Line], loops: list[Loop], step: float, swept: Swept) -> list[Loop]:
    """Move the front up by a step, and keep what each side sweeps."""
    rates = [
        [_velocity(lines, loop[n - 1][0], loop[n][0]) for n in range(len(loop))] for loop in loops
    ]
    for line in lines:
        line.offset += line.speed * step
    found = []
    going: dict[tuple[object, ...], tuple[_Pair, _Pair]] = {}
    for loop, moves in zip(loops, rates):
        count = len(loop)
        new = [
            (
                loop[n][0],
                _corner(lines, loop[n - 1][0], loop[n][0], add(loop[n][1], moves[n], step)),
            )
            for n in range(count)
        ]
        for n in range(count):
            after = (n + 1) % count
            three = (loop[n][0], loop[n - 1][0], loop[after][0])
            if lines[three[0]].part < 0:
                continue
            key = (three[0], lines[three[0]].part, *three[1:], *(lines[i].speed for i in three))
            now, then = (loop[n][1], loop[after][1]), (new[n][1], new[after][1])
            begun = swept.going.pop(key, None)
            if begun is not None and begun[1] != now:
                swept.keep(key, *begun)
                begun = None
            if key in going:
                swept.keep(key, now, then)
            else:
                going[key] = (begun[0] if begun else now, then)
        found.append(new)
    for ended, pairs in swept.going.items():
        swept.keep(ended, *pairs)
    swept.going = going
    return found


def mended(lines: list[Line], loops: list[Loop]) -> list[Loop]:
    """A front made simple again: nothing of no length, nothing that touches itself, nothing
    that has closed."""
    work = _with_courtyards([_without_spikes(lines, loop) for loop in loops])
    done: list[Loop] = []
    while work:
        loop = _without_spikes(lines, work.pop())
        if len(loop) < 3 or abs(_area(loop)) < LITTLE:
            continue
        parts = _split(loop)
        if parts:
            work += parts
        else:
            done.append(loop)
    return done


def absorbed(lines: list[Line], loop: Loop) -> Loop:
    """A loop in which, of neighbours that have come to lie in one line, the gentler goes on
    over both: so the roof has a break there, and no cheek stands up between them."""
    n = 0
    while n < len(loop) and len(loop) > 3:
        h, i = loop[n - 1][0], loop[n][0]
        a, b = lines[h], lines[i]
        one = abs(cross(a.normal, b.normal)) < ALIKE and dot(a.normal, b.normal) > 0
        if h != i and one and abs(a.speed - b.speed) > STEADY:
            faster = h if a.speed > b.speed else i
            loop = [*loop]
            loop[n - 1] = (faster, loop[n - 1][1])
            del loop[n]
            n = max(0, n - 1)
            continue
        n += 1
    return loop


def _area(loop: Loop) -> float:
    return signed_area([p for _, p in loop])


def _with_courtyards(loops: list[Loop]) -> list[Loop]:
    """Loops in which every courtyard that touches another loop is one with it. Two that both
    run round the outside only ever touch where they were one before."""
    work, done = [loop for loop in loops if loop], list[Loop]()
    while work:
        loop = work.pop()
        for k, other in enumerate(done):
            if min(_area(loop), _area(other)) < 0:
                made = _joined(loop, other)
                if made is not None:
                    work.append(made)
                    del done[k]
                    break
        else:
            done.append(loop)
    return done


def _without_spikes(lines: list[Line], loop: Loop) -> Loop:
    """A loop without stretches of no length, without parts that run out and back along one
    line, and with neighbours that are one line joined."""
    changed = True
    while changed and len(loop) > 2:
        changed = False
        for n in range(len(loop)):
            i, p = loop[n]
            k, q = loop[(n + 1) % len(loop)]
            h, _ = loop[n - 1]
            if abs(p[0] - q[0]) + abs(p[1] - q[1]) < NEAR:  # of no length: its neighbours meet here
                loop = _drop(lines, loop, n)
            elif i == h and len(loop) > 3:
                loop = loop[:n] + loop[n + 1 :]
            elif _runs_back(lines, i, k):
                r = loop[(n + 2) % len(loop)][1]
                if abs(lines[i].offset + lines[k].offset) > NEAR:
                    continue
                # Out along i to q and back along k to r: what both cover has closed.
                if dot(sub(q, p), _way(lines[i])) > dot(sub(q, r), _way(lines[i])):
                    loop = _without(loop, (n + 1) % len(loop), r)
                else:
                    loop = _without(loop, n, p)
            else:
                continue
            changed = True
            break
    return loop


def _way(line: Line) -> Point:
    return line.normal[1], -line.normal[0]


def _runs_back(lines: list[Line], i: int, k: int) -> bool:
    a, b = lines[i].normal, lines[k].normal
    return abs(cross(a, b)) < ALIKE and dot(a, b) < 0


def _drop(lines: list[Line], loop: Loop, n: int) -> Loop:
    """Take a stretch of no length out; the next one then begins where its neighbours meet."""
    after = (n + 1) % len(loop)
    i, k = loop[n - 1][0], loop[after][0]
    p = loop[n][1]
    at = _corner(lines, i, k, p)
    if abs(at[0] - p[0]) + abs(at[1] - p[1]) > 10 * NEAR:
        at = p
    return _without(loop, n, at)


def _without(loop: Loop, n: int, at: Point) -> Loop:
    """Take a stretch out, and let the next begin at a place."""
    found = [*loop]
    after = (n + 1) % len(loop)
    found[after] = (found[after][0], at)
    return found[:n] + found[n + 1 :]


_Touch = tuple[int, int, bool]
"""A corner of a loop by its number, the stretch it touches, and whether it touches the corner where
that begins."""


def _touches(loop: Loop, other: Loop, *, same: bool) -> Iterable[_Touch]:
    """Where corners of a loop touch stretches of another (or of itself)."""
    p = np.array([q for _, q in loop])
    a = np.array([q for _, q in other])
    side = np.roll(a, -1, axis=0) - a
    length = np.linalg.norm(side, axis=1)
    way = side / np.maximum(length, 1e-12)[:, None]
    reach = p[:, None] - a[None]
    along = (reach * way[None]).sum(axis=2)
    off = np.abs(reach[..., 0] * way[None, :, 1] - reach[..., 1] * way[None, :, 0])
    inside = (off < NEAR) & (along > NEAR) & (along < length[None] - NEAR)
    meet = np.abs(reach).sum(axis=2) < NEAR
    if same:
        rows = np.arange(len(loop))
        meet[rows, rows] = inside[rows, rows] = inside[rows, rows - 1] = False
    for hits, at_corner in ((meet, True), (inside, False)):
        for i, k in np.argwhere(hits).tolist():
            yield i, k, at_corner


def _split(loop: Loop) -> list[Loop] | None:
    """The two parts of a loop that touches itself; None where it does not.

    Inside the front no courtyard opens: of a loop round the outside both parts run round the
    outside. A courtyard that closes on itself cuts off what lies in its bay.
    """
    whole = _area(loop)
    for i, k, at_corner in _touches(loop, loop, same=True):
        turned = loop[i:] + loop[:i]
        k = (k - i) % len(loop)
        if at_corner:
            parts = [turned[:k], turned[k:]]
        else:
            parts = [turned[: k + 1], [(turned[k][0], turned[0][1]), *turned[k + 1 :]]]
        a, b = (_area(part) for part in parts)
        if (min(a, b) > -LITTLE) if whole > 0 else (max(a, b) > -LITTLE):
            return parts
    return None


def _joined(loop: Loop, other: Loop) -> Loop | None:
    """Two loops that touch as one; None where they do not."""
    for i, k, at_corner in _touches(loop, other, same=False):
        mine = loop[i:] + loop[:i]
        if at_corner:
            return [*mine, *other[k:], *other[:k]]
        return [*mine, (other[k][0], mine[0][1]), *other[k + 1 :], *other[: k + 1]]
    for _ in _touches(other, loop, same=False):
        return _joined(other, loop)
    return None
