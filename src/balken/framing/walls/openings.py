"""What goes round openings of a wall: header, jacks, kings and sills of each alone, of those that share a
header, and of those that stand over one another; and why one cannot be framed."""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Final

from balken.framing import kinds
from balken.framing.walls.face import AT_FLOOR, SLIGHT, Face, Hole, Lack, Stick
from balken.units import FOOT


def kept(face: Face, lacks: list[Lack]) -> Iterator[Hole]:
    """The openings that lie in the wall, each with a header that has room; what is not possible is
    told."""
    for hole in sorted(face.holes, key=lambda h: (h.low, h.sill)):
        jacks = hole.jacks * face.thick
        out = max(face.low + jacks - hole.low, hole.high + jacks - face.high)
        if out > SLIGHT:
            lacks.append(Lack(hole.key, "lies too near to the end of the wall for its jack", out))
            continue
        stepped = _over_step(face, hole)
        if stepped > SLIGHT:
            lacks.append(
                Lack(hole.key, "begins lower than a step of the foundation under it", stepped)
            )
            continue
        over = hole.head - face.under
        if over > SLIGHT:
            lacks.append(Lack(hole.key, "is higher than the underside of the top plates", over))
            continue
        if hole.depth - (face.under - hole.head) > SLIGHT:
            short = hole.depth - (face.under - hole.head)
            lacks.append(Lack(hole.key, "has no room for its header under the top plates", short))
            hole = hole._replace(depth=max(0.0, face.under - hole.head))
        yield hole


def _over_step(face: Face, hole: Hole) -> float:
    """How far the higher foot under an opening rises over its sill, mm; nothing where it does not."""
    foot = face.foot(hole.low, hole.high) - face.thick
    return foot - hole.sill if foot > SLIGHT else 0.0


def settled(face: Face, holes: Sequence[Hole], lacks: list[Lack]) -> tuple[Hole, ...]:
    """The openings that can stand beside and over one another; of others the first is framed, and what
    stands in the way of the next is told."""
    found: list[Hole] = []
    for hole in holes:
        stands = (_in_the_way(face, hole, other, found) for other in found)
        lack = next((x for x in stands if x is not None), None)
        if lack is None:
            found.append(hole)
        else:
            lacks.append(lack)
    return tuple(found)


def _in_the_way(face: Face, hole: Hole, other: Hole, found: Sequence[Hole]) -> Lack | None:
    """Why an opening cannot be framed with another that is; None where it can."""
    if _apart(face, hole, other):
        return None
    if _one_column(hole, other):
        low, high = sorted((hole, other), key=lambda h: h.sill)
        short = low.head - (high.sill - high.sills * face.thick)
        words = f"stands over or under {other.key} with no room for a sill between"
        return Lack(hole.key, words, short) if short > SLIGHT else None
    if over(hole, other):
        wide = max(abs(hole.low - other.low), abs(hole.high - other.high))
        return Lack(hole.key, f"stands over or under {other.key} and is not as wide", wide)
    if abs(hole.head - other.head) > SLIGHT:
        words = f"stands too near to {other.key}, whose head is at another height"
        return Lack(hole.key, words, abs(hole.head - other.head))
    gap = max(hole.low - other.high, other.low - hole.high)
    if gap < face.thick - SLIGHT:
        words = f"has no room for a stud between it and {other.key}"
        return Lack(hole.key, words, face.thick - gap)
    if any(_one_column(x, other) for x in found if x is not other):
        words = f"stands too near to {other.key}, which stands over or under another"
        return Lack(hole.key, words, _needed(face, hole, other) - gap)
    return None


def _needed(face: Face, a: Hole, b: Hole) -> float:
    """The room between two openings for the jacks of both and a king."""
    return (a.jacks + b.jacks + 1) * face.thick


def _apart(face: Face, a: Hole, b: Hole) -> bool:
    """Whether two openings have the room between them that each is framed for itself."""
    gap = max(a.low - b.high, b.low - a.high)
    return gap >= _needed(face, a, b) - SLIGHT


def _one_column(a: Hole, b: Hole) -> bool:
    """Whether one opening stands right over another, as wide."""
    return abs(a.low - b.low) <= SLIGHT and abs(a.high - b.high) <= SLIGHT


def with_portals(face: Face, holes: Sequence[Hole], lacks: list[Lack]) -> tuple[Hole, ...]:
    """The openings with how far their headers run on: to the end of the wall, or to the king of the next
    opening. Where two would run on over one panel the first does."""
    found: list[Hole] = []
    for hole in holes:
        runs = tuple(
            _run(face, hole, side, [*found, *holes[len(found) + 1 :]], lacks)
            if hole.portal in (end, "both")
            else 0.0
            for side, end in enumerate(("start", "end"))
        )
        found.append(hole._replace(runs_on=(runs[0], runs[1])))
    return tuple(found)


def _run(face: Face, hole: Hole, side: int, others: Sequence[Hole], lacks: list[Lack]) -> float:
    """How far a header runs on at one side; nothing, and told, where no panel stands there."""
    before = max((h for h in others if h.high < hole.low), key=lambda h: h.high, default=None)
    after = min((h for h in others if h.low > hole.high), key=lambda h: h.low, default=None)
    if side == 0:
        ends = before.high + (before.jacks + before.kings) * face.thick if before else face.low
        run = hole.low - hole.jacks * face.thick - ends
    else:
        ends = after.low - (after.jacks + after.kings) * face.thick if after else face.high
        run = ends - hole.high - hole.jacks * face.thick
    least = (hole.kings + PORTAL_POST) * face.thick
    panel = run + hole.jacks * face.thick
    if panel > PORTAL_PANEL + SLIGHT:
        words = "has a panel beside it that braces without a portal frame, and no header runs on over it"
        lacks.append(Lack(hole.key, words, panel - PORTAL_PANEL, too_much=True))
        return 0.0
    if side == 0 and before is not None and before.runs_on[1]:
        words = f"has a panel beside it that the header of {before.key} runs on over"
        lacks.append(Lack(hole.key, words, least))
        return 0.0
    if run < least - SLIGHT:
        words = "has no panel beside it that its header could run on over"
        lacks.append(Lack(hole.key, words, least - run))
        return 0.0
    return run


PORTAL_POST: Final = 2
"""Studs at the outer edge of a portal frame's panel (IRC 2021 figures R602.10.6.2, R602.10.6.4)."""


PORTAL_PANEL: Final = 4 * FOOT
"""A longer panel braces by itself (IRC 2021 table R602.10.5)."""


def groups(face: Face, holes: Sequence[Hole]) -> Iterator[list[Hole]]:
    """Openings that are framed together: with one header over them, or over one another."""
    group: list[Hole] = []
    for hole in holes:
        if group and all(_apart(face, hole, h) for h in group):
            yield group
            group = []
        group.append(hole)
    if group:
        yield group


def round_them(face: Face, group: list[Hole]) -> Iterator[Stick]:
    """Header, jacks, kings and sills of openings that stand alone, share a header, or stand over one
    another."""
    tops = [h for h in group if not any(_one_column(h, x) and x.sill > h.sill for x in group)]
    yield from _header(face, tops)
    yield from _beside(face, tops)
    for hole in group:
        yield from _sills(face, hole)
        if hole not in tops:
            yield from _flat_head(face, hole, group)


def over(a: Hole, b: Hole) -> bool:
    """Whether two openings share a stretch of the wall."""
    return a.low < b.high - SLIGHT and b.low < a.high - SLIGHT


def _header(face: Face, tops: list[Hole]) -> Iterator[Stick]:
    first, last = tops[0], tops[-1]
    low = first.low - first.jacks * face.thick - first.runs_on[0]
    high = last.high + last.jacks * face.thick + last.runs_on[1]
    yield Stick(kinds.WALL_HEADER, first.key, "", low, high, first.head, first.head + first.depth)


def _beside(face: Face, tops: list[Hole]) -> Iterator[Stick]:
    """Jacks under the ends of a header and between openings that share it, kings beside it: under it too
    where it runs on."""
    t, first, last = face.thick, tops[0], tops[-1]
    for k in range(first.jacks):
        x = first.low - (k + 1) * t
        yield Stick(kinds.JACK, first.key, f"l{k + 1}", x, x + t, face.foot(x, x + t), first.head)
    for k in range(last.jacks):
        x = last.high + k * t
        yield Stick(kinds.JACK, first.key, f"r{k + 1}", x, x + t, face.foot(x, x + t), first.head)
    for a, b in pairwise(tops):
        count = int((b.low - a.high + SLIGHT) // t)
        between = (b.low - a.high - count * t) / 2
        for k in range(count):
            x = a.high + between + k * t
            foot = face.foot(x, x + t)
            yield Stick(kinds.JACK, b.key, f"m{k + 1}", x, x + t, foot, first.head)
    yield from _portal_posts(face, first, last)
    low, high = first.low - first.jacks * t, last.high + last.jacks * t
    top = first.head if first.runs_on[0] else face.under
    for k in range(first.kings):
        x = low - (k + 1) * t
        if x >= face.low - SLIGHT:
            yield Stick(kinds.KING, first.key, f"l{k + 1}", x, x + t, face.foot(x, x + t), top)
    top = last.head if last.runs_on[1] else face.under
    for k in range(last.kings):
        x = high + k * t
        if x + t <= face.high + SLIGHT:
            yield Stick(kinds.KING, first.key, f"r{k + 1}", x, x + t, face.foot(x, x + t), top)


def _portal_posts(face: Face, first: Hole, last: Hole) -> Iterator[Stick]:
    """The studs under the outer ends of a header that runs on over the panels beside it."""
    t = face.thick
    for k in range(PORTAL_POST):
        if first.runs_on[0]:
            x = first.low - first.jacks * t - first.runs_on[0] + k * t
            foot = face.foot(x, x + t)
            yield Stick(kinds.JACK, first.key, f"pl{k + 1}", x, x + t, foot, first.head)
        if last.runs_on[1]:
            x = last.high + last.jacks * t + last.runs_on[1] - (k + 1) * t
            foot = face.foot(x, x + t)
            yield Stick(kinds.JACK, first.key, f"pr{k + 1}", x, x + t, foot, first.head)


def _sills(face: Face, hole: Hole) -> Iterator[Stick]:
    foot = face.foot(hole.low, hole.high)
    if hole.sill < foot - face.thick + AT_FLOOR:
        return
    for k in range(hole.sills):
        top = hole.sill - k * face.thick
        if top - face.thick >= foot - SLIGHT:
            piece = "" if k == 0 else f"{k + 1}"
            yield Stick(
                kinds.ROUGH_SILL, hole.key, piece, hole.low, hole.high, top - face.thick, top
            )


def _flat_head(face: Face, hole: Hole, group: list[Hole]) -> Iterator[Stick]:
    """Over an opening that has another over it: a plate on its flat, the sill of the upper one where
    there is no more room."""
    over_it = [h for h in group if h is not hole and over(h, hole) and h.sill >= hole.head]
    above = min(over_it, key=lambda h: h.sill)
    room = above.sill - above.sills * face.thick - hole.head
    if room >= face.thick - SLIGHT:
        piece = "head"
        top = hole.head + face.thick
        yield Stick(kinds.ROUGH_SILL, hole.key, piece, hole.low, hole.high, hole.head, top)
