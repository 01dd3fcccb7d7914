"""How a member shares what lies on it between its supports."""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Final, NamedTuple

import numpy as np

from balken.analysis.beams import UnstableError
from balken.analysis.one_beam import Beam, LineLoad, Rest, Row, work
from balken.framing import kinds
from balken.framing.member import Member, apart
from balken.geometry.plane import EXACT, TOUCH, distance
from balken.loads.parcels import Laid, Parcel, laid_on, rows_of, station
from balken.model.cases import CASE_COUNT, NOTHING, Cases, total
from balken.model.names import family_of

FEW: Final = 12
"""So few loads are shared faster one by one than side by side."""


class Shared(NamedTuple):
    """What each support of a member takes, N per case: of even load, and what comes besides when
    live load stands on those spans only that add to it (ASCE 7-16 4.3.3)."""

    even: tuple[Cases, ...]
    more: tuple[Cases, ...]


def shared(member: Member, area: Cases, parcels: tuple[Parcel, ...]) -> Shared:
    """What each support takes, of even load and of load on some spans only.

    Args:
        member: a piece with two supports or more.
        area: N/mm² per case on the plan it carries.
        parcels: what else lies on it.
    """
    even = shares(member, area, parcels)
    if leans(member) or member.kind is kinds.LEDGER:
        carried = total([p.more for p in parcels])
        return Shared(even, (carried, *(NOTHING,) * (len(member.carrier.supports) - 1)))
    passed = _passed_on(member, parcels)
    if len(member.carrier.supports) > 2 or member.carrier.hinges:
        own = _patterns(member, area, parcels) or (NOTHING,) * len(member.carrier.supports)
    else:
        own = lever_more(member, area, parcels)
    return Shared(even, tuple(a + b for a, b in zip(own, passed)))


def lever_more(member: Member, area: Cases, parcels: Sequence[Parcel]) -> tuple[Cases, Cases]:
    """By how much variable load on the overhangs of a piece on two supports eases the
    support at its other end: where that load is not there, the support takes so much more."""
    first, last = member.carrier.supports[0], member.carrier.supports[-1]
    between = last.at - first.at
    if between < TOUCH:
        return NOTHING, NOTHING
    low, high = member.carrier.carries
    before, after = max(0.0, first.at - low), max(0.0, high - last.at)
    wide = member.carrier.area / (high - low) if high > low else 0.0
    ends = (max(0.0, first.at), max(0.0, member.carrier.reach - last.at))
    eased_first = [
        q * wide * after**2 / 2 + w * ends[1] ** 2 / 2 for q, w in zip(area, member.carrier.line)
    ]
    eased_last = [
        q * wide * before**2 / 2 + w * ends[0] ** 2 / 2 for q, w in zip(area, member.carrier.line)
    ]
    for p in parcels:
        at = station(member, p.x, p.y)
        for i, f in enumerate(p.forces):
            eased_first[i] += max(0.0, f) * max(0.0, at - last.at)
            eased_last[i] += max(0.0, f) * max(0.0, first.at - at)
    return _variable(eased_first, between), _variable(eased_last, between)


def _variable(moments: Sequence[float], between: float) -> Cases:
    """Forces of a couple between two supports, the dead load left out: it is always there."""
    return Cases(*(max(0.0, m) / between for m in moments)).variable


def _passed_on(member: Member, parcels: Sequence[Parcel]) -> tuple[Cases, ...]:
    """Share what may come besides between the supports beside it."""
    rests = member.carrier.supports
    found = [NOTHING] * len(rests)
    for p in parcels:
        if not p.more:
            continue
        at = station(member, p.x, p.y)
        right = next((i for i, s in enumerate(rests) if s.at >= at), len(rests) - 1)
        left = max(0, right - 1) if rests[right].at >= at else right
        gap = rests[right].at - rests[left].at
        t = 1.0 if gap < TOUCH else min(1.0, max(0.0, (at - rests[left].at) / gap))
        found[left] = found[left] + p.more * (1 - t)
        found[right] = found[right] + p.more * t
    return tuple(found)


def _patterns(member: Member, area: Cases, parcels: tuple[Parcel, ...]) -> tuple[Cases, ...] | None:
    """How much more than of even load each support of a beam takes, live load being on some
    spans only."""
    beam, cases = beam_of(member, area, parcels, by_span=True)
    try:
        (worked,) = work([beam], cases)
    except UnstableError:
        return None
    spans = cases // CASE_COUNT
    nodes = worked.batch.nodes[0]
    found = []
    for s in member.carrier.supports:
        i = int(abs(nodes - s.at).argmin())
        if abs(nodes[i] - s.at) > TOUCH or worked.batch.holds[i] == "free":
            found.append(NOTHING)
            continue
        parts = worked.solved.reaction[:, 0, i].reshape(CASE_COUNT, spans)
        found.append(Cases(*np.maximum(-parts, 0.0).sum(axis=1).tolist()).variable)
    return tuple(found)


def shares(member: Member, area: Cases, parcels: tuple[Parcel, ...]) -> tuple[Cases, ...]:
    """What each support takes, N per case.

    Args:
        member: a piece with two supports or more.
        area: N/mm² per case on the plan it carries.
        parcels: what else lies on it.
    """
    own = total([area * member.carrier.area, member.carrier.line * member.carrier.reach])
    rests = member.carrier.supports
    if not parcels and not own:
        return (NOTHING,) * len(rests)
    if leans(member):
        return _leaning(member, own, area, parcels)
    if member.kind is kinds.LEDGER:
        return _to_nearest(member, own, parcels)
    found = None
    if len(rests) > 2 or member.carrier.hinges:
        found = _continuous(member, area, parcels)
    if found is not None:
        return found
    if len(parcels) > FEW:
        return _lever_of_many(member, area, laid_on(member, parcels))
    return _lever(member, area, parcels)


def _leaning(
    member: Member, own: Cases, area: Cases, parcels: tuple[Parcel, ...]
) -> tuple[Cases, ...]:
    """A ridge board carries nothing: what meets there leans together and its feet take all (IRC 2021
    R802.3), but for what purlins between take."""
    rests = member.carrier.supports
    held = _continuous(member, area, parcels) if len(rests) > 2 else None
    if held is not None:
        return (total([held[0], held[-1]]), *held[1:-1], NOTHING)
    return (total([own, *(p.forces for p in parcels)]), *((NOTHING,) * (len(rests) - 1)))


def leans(member: Member) -> bool:
    """Whether a rafter leans on others across a ridge board, or a hip or valley on what it
    meets at its top.

    Where no beam holds a place of the roof up, what comes down from it takes its load as thrust
    along itself.
    """
    on = family_of(member.carrier.supports[-1].on) if member.carrier.supports else ""
    if member.kind in (kinds.HIP, kinds.VALLEY):
        return on in ("ridge", "hip", "valley", "purlin")
    return member.kind in (kinds.RAFTER, kinds.TRIMMER) and on == "ridge"


def _lever(member: Member, area: Cases, parcels: Sequence[Parcel]) -> tuple[Cases, ...]:
    """Share between the first and the last support by the lever."""
    first, last = member.carrier.supports[0], member.carrier.supports[-1]
    between = last.at - first.at
    pieces: list[tuple[float, Cases]] = []
    if member.carrier.area:
        pieces.append((sum(member.carrier.carries) / 2, area * member.carrier.area))
    if member.carrier.line:
        pieces.append((member.carrier.reach / 2, member.carrier.line * member.carrier.reach))
    pieces += [(station(member, p.x, p.y), p.forces) for p in parcels]
    far = [0.5 if between < TOUCH else (at - first.at) / between for at, _ in pieces]
    near_sum = total([forces * (1 - t) for t, (_, forces) in zip(far, pieces)])
    far_sum = total([forces * t for t, (_, forces) in zip(far, pieces)])
    return (near_sum, *((NOTHING,) * (len(member.carrier.supports) - 2)), far_sum)


def _lever_of_many(member: Member, area: Cases, laid: Laid) -> tuple[Cases, ...]:
    """Share many loads, side by side."""
    first, last = member.carrier.supports[0], member.carrier.supports[-1]
    between = last.at - first.at
    at = np.concatenate([[sum(member.carrier.carries) / 2, member.carrier.reach / 2], laid.at])
    own = rows_of([area * member.carrier.area, member.carrier.line * member.carrier.reach])
    forces = np.concatenate([own, laid.forces.T])
    far = (at - first.at) / between if between >= TOUCH else np.full(len(at), 0.5)
    near_sum, far_sum = (Cases(*(t @ forces).tolist()) for t in (1 - far, far))
    return (near_sum, *((NOTHING,) * (len(member.carrier.supports) - 2)), far_sum)


def _to_nearest(member: Member, own: Cases, parcels: Sequence[Parcel]) -> tuple[Cases, ...]:
    """Share between fasteners all along: each takes what lies nearest to it."""
    count = len(member.carrier.supports)
    taken: list[list[Cases]] = [[own / count] for _ in member.carrier.supports]
    for p in parcels:
        nearest = min(
            range(count), key=lambda i: distance(member.carrier.supports[i].point, (p.x, p.y))
        )
        taken[nearest].append(p.forces)
    return tuple(total(t) for t in taken)


def beam_of(
    member: Member,
    area: Cases,
    parcels: tuple[Parcel, ...],
    ei: float = 1.0,
    *,
    by_span: bool = False,
) -> tuple[Beam, int]:
    """A member as a beam to be analysed, and how many load cases it has.

    With ``by_span`` every load but the dead is split by the span it stands in, so that patterns can
    be put together: case ``c`` on span ``s`` of ``n`` has the number ``c n + s``; dead load is
    whole in case 0.
    """
    marks = span_marks(member)
    marks[0], marks[-1] = 0.0, member.carrier.reach
    split = marks if by_span else [0.0, member.carrier.reach]
    spans = len(split) - 1
    lines = [line for load in _lines_on(member, area) for line in _by_span(load, split)]
    laid = laid_on(member, parcels)
    forces = np.zeros((CASE_COUNT * spans, len(laid.at)))
    stands_in = np.clip(np.searchsorted(split, laid.at + TOUCH, side="right") - 1, 0, spans - 1)
    for case in range(CASE_COUNT):
        places = case * spans + (stands_in if case else 0)
        forces[places, np.arange(len(laid.at))] = laid.forces[case]
    rests = tuple(Rest(s.at) for s in apart(member.carrier.supports))
    found = Beam(
        member.carrier.reach,
        ei,
        rests,
        tuple(lines),
        hinges=member.carrier.hinges,
        row=Row(laid.at, forces),
    )
    return found, CASE_COUNT * spans


Spread = tuple[int, float, float, float]
"""An even line load: its case, from, to along a member, mm, and how much, N/mm."""


def _lines_on(member: Member, area: Cases) -> Iterator[Spread]:
    """The line loads of each case on a member: of the plan it carries, and along it."""
    carrier = member.carrier
    low, high = max(0.0, carrier.carries[0]), min(carrier.reach, carrier.carries[1])
    for case, (on_area, along) in enumerate(zip(area, carrier.line)):
        if on_area and carrier.area and high > low:
            yield case, low, high, on_area * carrier.area / (high - low)
        if along:
            yield case, 0.0, carrier.reach, along


def _by_span(load: Spread, marks: Sequence[float]) -> Iterator[LineLoad]:
    """A line load as loads of the cases by span; dead load stays whole."""
    case, low, high, q = load
    spans = len(marks) - 1
    whole = spans == 1 or case == 0
    for s, (start, end) in enumerate([(low, high)] if whole else pairwise(marks)):
        a, b = max(low, start), min(high, end)
        if b - a > EXACT:
            yield LineLoad(case * spans + s, a, b, q, q)


OVERHANG: Final = 150.0
"""A piece that reaches no further past the middle of its bearing, or no further than the bearing
itself, has no cantilever there, mm."""


def span_marks(member: Member) -> list[float]:
    """Where the spans of a member begin and end, mm: at its supports, its overhangs being
    spans of their own.

    What reaches just past a bearing belongs to the span beside it.
    """
    rests = apart(member.carrier.supports)
    marks = [s.at for s in rests]
    if marks[0] > max(OVERHANG, rests[0].length / 2 + TOUCH):
        marks.insert(0, 0.0)
    if member.carrier.reach - marks[-1] > max(OVERHANG, rests[-1].length / 2 + TOUCH):
        marks.append(member.carrier.reach)
    return marks


def _continuous(
    member: Member, area: Cases, parcels: tuple[Parcel, ...]
) -> tuple[Cases, ...] | None:
    """Share by the stiffness of a beam on many supports; None where it cannot stand."""
    beam, cases = beam_of(member, area, parcels)
    try:
        (worked,) = work([beam], cases)
    except UnstableError:
        return None
    nodes = worked.batch.nodes[0]
    found = []
    for s in member.carrier.supports:
        i = int(abs(nodes - s.at).argmin())
        near = abs(nodes[i] - s.at) <= TOUCH and worked.batch.holds[i] != "free"
        found.append(Cases(*worked.solved.reaction[:, 0, i].tolist()) if near else NOTHING)
    return tuple(found)
