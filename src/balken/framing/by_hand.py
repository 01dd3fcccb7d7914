"""What people change by hand on single pieces: moved, turned, made longer or shorter, taken away,
added.

A change is kept against a member's lasting name and is put to what regeneration makes, so it
survives. What a piece then bears on is looked up afresh, since every bearing must be real.
"""

import math

from msgspec.structs import replace

from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.member import Framed, Member, Part, Strip, Support
from balken.framing.pieces import Cut, bearings_on, end_supports, level_piece
from balken.geometry.plane import TOUCH, Point, add, distance, left, rotate, sub, unit
from balken.model.names import MemberName, added_row
from balken.model.project import AddedMember, Change
from balken.model.sections import Section


def moved(change: Change, kind: MemberKind) -> bool:
    """Whether a change moves a piece otherwise than its layout does."""
    sideways = change.shift if not kind.by_row else 0.0
    return bool(sideways or change.along or change.up or change.turn or any(change.longer))


def by_hand(
    framed: Framed,
    changes: tuple[Change, ...],
    added: tuple[AddedMember, ...],
    strips: tuple[Strip, ...],
    sections: dict[str, Section],
) -> Framed:
    """What a host gave with the changes by hand put to it.

    Args:
        framed: as regeneration made it, with the changes known to have found no member.
        changes: by hand, on this host's members.
        added: pieces added by hand that are no part of the layout.
        strips: what the pieces can bear on.
        sections: every section there is.
    """
    if not changes and not added:
        return framed
    by_name = {c.member: c for c in changes}
    parts = [_part_after(part, by_name, strips, sections) for part in framed.parts]
    there = {m.id for part in parts for m in part.members}
    members = framed.members
    wanted = [a for a in added if _name_of(a) not in there] if members else []
    parts.append(Part(tuple(free_piece(a, members, strips, sections) for a in wanted)))
    return Framed(tuple(parts), framed.gone)


def _part_after(
    part: Part,
    by_name: dict[MemberName, Change],
    strips: tuple[Strip, ...],
    sections: dict[str, Section],
) -> Part:
    """A part with the changes on its members put to it."""
    kept = [m for m in part.members if not _is_away(by_name.get(m.id))]
    return part.after([_after(m, by_name.get(m.id), strips, sections) for m in kept])


def _is_away(change: Change | None) -> bool:
    return change is not None and change.removed


def _name_of(added: AddedMember) -> MemberName:
    return MemberName(added.host, "joist", added_row(added.id), "a")


def _after(
    m: Member, change: Change | None, strips: tuple[Strip, ...], sections: dict[str, Section]
) -> Member:
    return changed(m, change, strips, sections) if change is not None and m.kind.movable else m


def changed(
    m: Member, change: Change, strips: tuple[Strip, ...], sections: dict[str, Section]
) -> Member:
    """One piece with a change put to it: another section, another place, another length."""
    section = sections.get(change.section) if change.section else None
    a, b = _ends(m, change)
    bottom, top = _heights(m)
    if section is not None:
        # A beam keeps its top, everything that lies on its bearings its underside.
        bottom, top = (
            (top - section.depth, top) if m.kind is kinds.BEAM else (bottom, bottom + section.depth)
        )
    breadth = section.breadth if section else m.solid.depth
    name = section.name if section else m.section
    supports = m.carrier.supports
    if moved(change, m.kind) and m.carrier.supports:
        supports = _borne(a, b, m, strips)
    shift = m.carrier.carries
    return level_piece(
        m.id,
        m.mark,
        m.kind,
        m.host,
        m.level,
        Cut(name, _material(m, section), breadth),
        a,
        b,
        bottom + change.up,
        top + change.up,
        supports,
        m.carrier.area,
        shift,
        touched=True,
        line=m.carrier.line,
        hinges=m.carrier.hinges,
    )


def _material(m: Member, section: Section | None) -> str:
    return section.product.id if section and section.product else m.material


def _ends(m: Member, change: Change) -> tuple[Point, Point]:
    a, b = (m.start[0], m.start[1]), (m.end[0], m.end[1])
    way = unit(sub(b, a))
    a, b = add(a, way, -change.longer[0]), add(b, way, change.longer[1])
    if distance(a, b) < TOUCH or (b[0] - a[0]) * way[0] + (b[1] - a[1]) * way[1] < TOUCH:
        a, b = (
            (m.start[0], m.start[1]),
            (m.end[0], m.end[1]),
        )  # made shorter than nothing: it keeps its length
    a, b = add(a, way, change.along), add(b, way, change.along)
    if change.turn:
        middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
        a, b = (add(middle, rotate(sub(p, middle), math.radians(change.turn))) for p in (a, b))
    if change.shift and not m.kind.by_row:
        n = left(way)
        a, b = add(a, n, change.shift), add(b, n, change.shift)
    return a, b


def _heights(m: Member) -> tuple[float, float]:
    zs = [z for _, z in m.solid.outline]
    return min(zs), max(zs)


def _borne(a: Point, b: Point, m: Member, strips: tuple[Strip, ...]) -> tuple[Support, ...]:
    """What a moved piece bears on; what it hung on still holds an end that has not left
    it."""
    way, length = unit(sub(b, a)), distance(a, b)
    over = bearings_on(a, b, strips)
    first, last = end_supports(over, 0.0, length, lambda at: add(a, way, at))
    ends = (
        _still_hung(m.carrier.supports[0], first, a),
        _still_hung(m.carrier.supports[-1], last, b),
    )
    known = {s.on for s in ends}
    inner = [
        Support((lo + hi) / 2, hi - lo, on, add(a, way, (lo + hi) / 2))
        for on, lo, hi, hung in over
        if m.kind is kinds.BEAM and not hung and on not in known
    ]
    return tuple(sorted((*ends, *inner), key=lambda s: s.at))


def _still_hung(old: Support, new: Support, end: Point) -> Support:
    """The support of a moved end: what it hung on, where it has not left that and finds nothing
    else."""
    if not new.on and old.hung and distance(old.point, end) < 2 * old.length:
        return replace(old, at=new.at, point=new.point)
    return new


def free_piece(
    item: AddedMember,
    members: tuple[Member, ...],
    strips: tuple[Strip, ...],
    sections: dict[str, Section],
) -> Member:
    """A piece added by hand that runs otherwise than the layout: it carries what is put on
    it, nothing of the area."""
    like = next(
        (m for m in members if m.kind in (kinds.JOIST, kinds.CEILING_JOIST, kinds.BEAM)), members[0]
    )
    section = sections[item.section or like.section]
    way, length = unit(sub(item.end, item.start)), distance(item.start, item.end)
    bottom, _ = _heights(like)
    rests = end_supports(
        bearings_on(item.start, item.end, strips), 0.0, length, lambda at: add(item.start, way, at)
    )
    return level_piece(
        MemberName(item.host, "joist", added_row(item.id)),
        f"{item.host.key}-J{added_row(item.id)}",
        like.kind,
        item.host,
        like.level,
        Cut(section.name, _material(like, section), section.breadth),
        item.start,
        item.end,
        bottom,
        bottom + section.depth,
        rests,
        0.0,
        (0.0, length),
        touched=True,
    )
