"""What holds pairs of rafters together: collar ties in the upper third, ties in the lower."""

from collections.abc import Sequence
from typing import Final, NamedTuple

from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.member import Member
from balken.framing.roofs.parts import cut_from
from balken.framing.roofs.shape import RoofShape
from balken.geometry.plane import TOUCH, Point, add, distance, dot, left, sub, unit
from balken.geometry.solid import side_profile
from balken.model.names import HostName, MemberName, family_of, wall_key
from balken.model.roofs import Pairs, RoofArea
from balken.model.sections import Section

UPPER: Final = 1 / 3
"""Collar ties lie in the upper third of the attic (IRC 2021 R802.4.6)."""
COLLAR_DEPTH: Final = 89.0
"""Of a collar tie that is cut from no section of its own, at most, mm; common practice, no
source."""


class Tie(NamedTuple):
    """One kind of tie: the letter of its marks, how high its underside lies, mm, and its section."""

    kind: MemberKind
    letter: str
    z: float
    section: Section
    depth: float


def pair_ties(
    roof: RoofArea,
    shape: RoofShape,
    rafters: Sequence[Member],
    rafter: Section,
    sections: dict[str, Section],
) -> list[Member]:
    """The collar ties and the ties of pairs of rafters that meet at a ridge."""
    rule = roof.rafters
    if rule.collar == rule.ties == "none":
        return []
    found: list[Member] = []
    for ridge in dict.fromkeys(m.carrier.supports[-1].on for m in rafters if _meets_ridge(m)):
        pairs = pairs_at([m for m in rafters if m.carrier.supports[-1].on == ridge], rule.stagger)
        for one, other in chosen(pairs, rule.collar, rule.tie_gap):
            tie = _collar(roof, shape, one, rafter, sections)
            found += _across(roof, one, other, tie, len(found) + 1)
        for one, other in chosen(pairs, rule.ties, rule.tie_gap):
            section = cut_from(roof, "ties", rafter, sections)
            z = min(e.plate for e in shape.edges) + rule.tie_up
            tie = Tie(kinds.TIE, "Y", z, section, section.depth)
            found += _across(roof, one, other, tie, len(found) + 1)
    return found


def _collar(
    roof: RoofArea,
    shape: RoofShape,
    one: Member,
    rafter: Section,
    sections: dict[str, Section],
) -> Tie:
    """The collar tie of a pair: in the upper part of its height, no deeper than is usual where
    nothing else is chosen."""
    section = cut_from(roof, "collar ties", rafter, sections)
    depth = section.depth if section is not rafter else min(section.depth, COLLAR_DEPTH)
    plate = min(shape.edges[0].plate, one.start[2])
    z = plate + (one.solid.top() - plate) * (1 - UPPER)
    return Tie(kinds.COLLAR_TIE, "K", z, section, depth)


def _meets_ridge(m: Member) -> bool:
    return family_of(m.carrier.supports[-1].on) in ("ridge", "ridge beam")


def chosen(
    pairs: Sequence[tuple[Member, Member]], which: Pairs, gap: float
) -> list[tuple[Member, Member]]:
    """The pairs along a ridge that are tied: by distance as few as stand no further
    apart."""
    if which == "none" or not pairs:
        return []
    way = left(unit(sub(pairs[0][0].end[:2], pairs[0][0].start[:2])))
    ordered = sorted(pairs, key=lambda p: dot(p[0].end[:2], way))
    if which == "each":
        return ordered
    if which == "every second":
        return ordered[::2]
    places = [dot(p[0].end[:2], way) for p in ordered]
    kept = [0]
    for i in range(1, len(ordered)):
        if i == len(ordered) - 1 or places[i + 1] - places[kept[-1]] > gap + TOUCH:
            kept.append(i)
    return [ordered[i] for i in kept]


def _across(roof: RoofArea, one: Member, other: Member, tie: Tie, n: int) -> list[Member]:
    """A tie beside a pair, cut at its ends along the rafters; none where the pair is too
    narrow there."""
    section, (low, high) = tie.section, (tie.z, tie.z + tie.depth)
    a, b = _at_height(one, low), _at_height(other, low)
    ends = _at_height(one, high), _at_height(other, high)
    if distance(a, b) < 4 * section.breadth or dot(sub(ends[1], ends[0]), sub(b, a)) <= 0:
        return []
    way = unit(sub(_straight(b, a, one), a))
    # No further out than the wall's face, where the rafters stand on it.
    foot = [_outer_face(m) if low < m.start[2] + tie.depth else None for m in (one, other)]
    length = distance(a, b)
    s0 = max(0.0, dot(sub(foot[0], a), way)) if foot[0] else 0.0
    s1 = min(length, dot(sub(foot[1], a), way)) if foot[1] else length
    t0, t1 = max(s0, dot(sub(ends[0], a), way)), min(s1, dot(sub(ends[1], a), way))
    start = add(a, left(way), section.breadth)  # nailed to the side of the pair
    ring = ((s0, low), (s1, low), (t1, high), (t0, high))
    z = (low + high) / 2
    host = HostName("roof", roof.id)
    name = MemberName(host, tie.kind.role, one.id.row, one.id.piece)
    words = "sloped to the roof"
    return [
        Member(
            name,
            f"{roof.id}-{tie.letter}{n:02d}",
            tie.kind,
            host,
            roof.plate,
            section.name,
            f"{roof.species} {roof.grade}",
            side_profile(start, way, ring, section.breadth),
            (*add(start, way, s0), z),
            (*add(start, way, s1), z),
            s1 - s0,
            s1 - s0,
            (words, words),
        )
    ]


def _straight(b: Point, a: Point, one: Member) -> Point:
    """A place across from ``a`` in the line of a rafter: rafters that stand side by side
    meet a tie one behind the other."""
    way = unit(sub(one.end[:2], one.start[:2]))
    return add(a, way, dot(sub(b, a), way))


def _outer_face(m: Member) -> Point | None:
    """Where a rafter passes the outer face of the wall it stands on."""
    foot = m.carrier.supports[0]
    if not wall_key(foot.on):
        return None
    way = unit(sub(m.end[:2], m.start[:2]))
    return add(foot.point, way, -foot.length / 2)


def pairs_at(rafters: Sequence[Member], stagger: bool) -> list[tuple[Member, Member]]:
    """The commons that stand in one line, or side by side where staggered, on both sides of
    a ridge."""
    heads = [(m, m.end) for m in rafters if m.id.family == "rafter"]
    found, used = [], set[MemberName]()
    for m, p in heads:
        if m.id in used:
            continue
        for o, q in heads:
            if o.id not in used and o is not m and _face_each_other(m, o, p[:2], q[:2], stagger):
                found.append((m, o))
                used |= {m.id, o.id}
                break
    return found


def _face_each_other(m: Member, o: Member, p: Point, q: Point, stagger: bool) -> bool:
    """Whether two rafters stand in one line, their heads beside one ridge."""
    way = unit(sub(m.end[:2], m.start[:2]))
    against = dot(way, unit(sub(o.end[:2], o.start[:2]))) < -0.999
    aside = m.solid.depth if stagger else 0.0
    return (
        against
        and distance(p, q) < 3 * m.solid.depth
        and abs(dot(sub(q, p), left(way))) < aside + TOUCH
    )


def _at_height(m: Member, z: float) -> Point:
    """Where the middle line of a rafter passes a height."""
    share = (z - m.start[2]) / (m.end[2] - m.start[2])
    return m.start[0] + share * (m.end[0] - m.start[0]), m.start[1] + share * (
        m.end[1] - m.start[1]
    )
