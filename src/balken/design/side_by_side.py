"""Joists, ceiling joists and rafters side by side, each under the loads of its strip of the
plan."""

import math
from collections.abc import Mapping, Sequence

import msgspec
import numpy as np

from balken.design.codes.timber import TimberCode
from balken.design.leaning import thrust_share
from balken.design.notches import neck_of
from balken.design.sizing import end_share, member_span
from balken.design.spanning import Batch, Results, Tails, Walked
from balken.design.under import Under
from balken.design.worth import Worth
from balken.framing import kinds
from balken.framing.member import Member
from balken.loads.cases import drifted
from balken.loads.parcels import rows_of
from balken.loads.statics import leans
from balken.model.cases import DEAD, Cases
from balken.model.catalogue import sections_of
from balken.model.names import MemberName
from balken.model.record import ServiceClass
from balken.model.sections import Product, Section
from balken.model.uses import Category
from balken.recall import remembered_each
from balken.units import System


class HostCheck(msgspec.Struct, frozen=True):
    """Members of one host side by side, and what came out."""

    ids: tuple[MemberName, ...]
    batch: Batch
    results: Results


class Strip(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """The strip of plan that each member of one host carries, and what they are checked with."""

    loads: Cases
    """N/mm² per case."""
    live_limit: float
    total_limit: float
    species: str
    grade: str
    spacing: float
    many: int
    """How many there are; three and thirty are alike."""
    timber: TimberCode
    service: ServiceClass
    on_floors: Category
    system: System
    products: tuple[Product, ...]
    walked: tuple[float, float, float] | None = None
    """Of a floor that people walk on: limit of sag under 1 kN, width, mm, and EI of the deck, N mm²
    a mm."""
    tie_up: float = 0.0
    """Of rafters: how high over the plate their ties lie, mm."""
    leeward: float = 1.0
    """How much heavier snow may lie on one side of their ridge."""


class PartCheck(msgspec.Struct, frozen=True):
    """What came out for members of one part: among which they were checked, and utilisation and
    governing check of each."""

    among: HostCheck | None
    used: dict[MemberName, tuple[float, str]]


@remembered_each
def check_parts(
    asked: Sequence[tuple[Strip, tuple[Member, ...], tuple[Under, ...]]],
) -> list[PartCheck]:
    """Check parts of one host in one batch."""
    strip = asked[0][0]
    found = _check_members(
        [m for _, members, _ in asked for m in members],
        [u for *_, under in asked for u in under],
        strip,
    )
    if found is None:
        return [PartCheck(None, {}) for _ in asked]
    worst, governing = found.results.worst.tolist(), found.results.ratios.argmax(axis=0).tolist()
    words = strip.timber.spans.names
    used = {name: (ratio, words[k]) for name, ratio, k in zip(found.ids, worst, governing)}
    return [
        PartCheck(found, {m.id: used[m.id] for m in members if m.id in used})
        for _, members, _ in asked
    ]


def _check_members(
    members: Sequence[Member], under: Sequence[Under], strip: Strip
) -> HostCheck | None:
    kept = _with_values(members, under, strip)
    if not kept:
        return None
    sections, timber = sections_of(strip.system, strip.products), strip.timber
    pieces = [m for m, _ in kept]
    carriers = [m.carrier for m in pieces]
    widths = np.array([c.area / (c.carries[1] - c.carries[0]) for c in carriers])
    slopes = np.array([m.slope for m in pieces])
    line = rows_of([strip.loads]).T * widths[None, :]
    line[DEAD] *= np.hypot(1.0, slopes)  # dead load lies on the slope
    mine = tuple(sections[m.section] for m in pieces)
    leans = any(m.kind is kinds.RAFTER for m in pieces)
    batch = Batch(
        sections=mine,
        values=tuple(v for _, v in kept),
        repetitive=np.array([timber.shared(strip.many, s.breadth, strip.spacing) for s in mine]),
        span=np.array([member_span(m) for m in pieces]),
        line=line,
        reaction=line * np.array([end_share(m) for m in pieces]),
        bearing=np.array([_bearing_length(m) for m in pieces]),
        live_limit=np.full(len(kept), strip.live_limit),
        total_limit=np.full(len(kept), strip.total_limit),
        slope=slopes,
        combinations=drifted(timber.sums(strip.service, strip.on_floors), strip.leeward).under(
            strip.loads
        ),
        tails=_tails(pieces, sections, strip) if leans else None,
        walked=Walked(*(np.full(len(kept), v) for v in strip.walked)) if strip.walked else None,
        spacing=np.full(len(kept), strip.spacing),
    )
    return HostCheck(tuple(m.id for m in pieces), batch, timber.spans.check(batch))


def _with_values(
    members: Sequence[Member], under: Sequence[Under], strip: Strip
) -> list[tuple[Member, Worth]]:
    """The members that the tables hold design values for, each on what lies under it."""
    sections = sections_of(strip.system, strip.products)
    timber = strip.timber
    known: dict[tuple[str, Under], Worth | None] = {}
    kept: list[tuple[Member, Worth]] = []
    for m, below in zip(members, under):
        key = (m.section, below)
        if key not in known:
            worth = timber.worth(strip.species, strip.grade, sections[m.section])
            known[key] = None if worth is None else timber.on(worth, below)
        value = known[key]
        if value is not None:
            kept.append((m, value))
    return kept


def _bearing_length(m: Member) -> float:
    """The shortest bearing of a joist; of a rafter that at its foot: its head leans, mm."""
    lengths = [s.length for s in m.carrier.supports]
    return lengths[0] if m.kind is kinds.RAFTER else min(lengths)


def _tails(pieces: Sequence[Member], sections: Mapping[str, Section], strip: Strip) -> Tails:
    """What of rafters reaches past their plates, what their birdsmouths leave, and what pushes
    along them."""
    rows = [tail_and_push(m, sections[m.section], strip.tie_up) for m in pieces]
    return Tails(*(np.array(column) for column in zip(*rows)))


def tail_and_push(m: Member, section: Section, tie_up: float) -> tuple[float, float, float, float]:
    """Of one rafter: reach of its tail in plan, depth over the birdsmouth, thrust over its head's
    reaction, length along the slope between supports; mm."""
    neck = neck_of(m, section.depth)
    first, last = m.carrier.supports[0], m.carrier.supports[-1]
    rise = m.slope * (last.at - first.at)
    push = thrust_share(m.slope, rise, tie_up) if leans(m) and m.slope > 0 and rise > 0 else 0.0
    length = (last.at - first.at) * math.hypot(1.0, m.slope)
    return (neck.tail, neck.depth, push, length) if neck else (0.0, section.depth, push, length)
