"""The pieces of trusses that stand along a roof, cut and named, with what each truss is analysed as."""

import math
from collections.abc import Sequence
from functools import partial

from msgspec.structs import replace

from balken.framing import kinds
from balken.framing.member import Bearings, Carrier, Framed, Member, Part, Size, Support
from balken.framing.pieces import strip_under
from balken.framing.roofs.shape import RoofShape
from balken.framing.trusses.hip_ends import hip_end
from balken.framing.trusses.lines import Shaped, shaped, studs
from balken.framing.trusses.placing import LEAST_BEARING, PlacedTruss, place_trusses
from balken.geometry.plane import TOUCH, Point, add, distance, sub, unit
from balken.geometry.solid import side_profile
from balken.model.cases import Cases
from balken.model.names import HostName, MemberName, Rest
from balken.model.project import Change
from balken.model.roofs import RoofArea
from balken.model.sections import Section
from balken.units import System


def frame_trusses(
    roof: RoofArea,
    shape: RoofShape,
    bearings: Bearings,
    size: Size,
    sections: dict[str, Section],
    system: System,
    changes: tuple[Change, ...],
) -> Framed:
    """Frame one roof with trusses.

    Args:
        roof: the roof.
        shape: its shape, for top chords of this depth.
        bearings: what it lies on.
        size: section and spacing of the top chords, and what bottom chords, webs and hips are cut
            from.
        sections: the catalogue.
        system: for the words of the cuts.
        changes: changes by hand on members of this roof.

    Raises:
        LayoutError: they cannot be set out.
    """
    placed, zones, angle = place_trusses(roof, shape, bearings, size, sections, changes)
    under = partial(strip_under, strips=bearings.strips)
    touched = {c.member for c in changes}
    cut = {(t.truss, t.profile): shaped(t.truss, t.profile, t.cut) for t in placed}
    parts = [
        Part(tuple(_members(t, cut[t.truss, t.profile], roof, bearings, sections, under, touched)))
        for t in placed
    ]
    girders = {t.row: t for t in placed}
    for zone in zones:
        girder = girders.get(f"G{zone.side + 1}")
        if girder is not None:
            what = (zone, girder, roof, shape, bearings, size, sections, system, changes, angle)
            parts.append(Part(tuple(hip_end(*what))))
    return Framed(tuple(p for p in parts if p.members), _missed(changes, parts))


def _missed(changes: tuple[Change, ...], parts: list[Part]) -> tuple[MemberName, ...]:
    """The changes by hand that found no member; one taken away is not missed."""
    there = {m.id for part in parts for m in part.members}
    return tuple(sorted({c.member for c in changes if not c.removed} - there))


def _members(
    t: PlacedTruss,
    pieces: Sequence[Shaped],
    roof: RoofArea,
    bearings: Bearings,
    sections: dict[str, Section],
    under: partial[Rest | None],
    touched: set[MemberName],
) -> list[Member]:
    """The pieces of one truss: the bottom chord, which brings what the whole truss carries
    to its bearings, the others."""
    found: list[Member] = []
    host, counts = HostName("roof", roof.id), dict[str, int]()
    for piece in pieces:
        counts[piece.role] = counts.get(piece.role, 0) + 1
        first = piece.kind is kinds.BOTTOM_CHORD and counts[piece.role] == 1
        name = MemberName(host, piece.role, t.row, "" if first else str(counts[piece.role]))
        found.append(_piece(t, piece, name, counts[piece.role], roof, sections, name in touched))
        if first:
            found[-1] = _carrier(found[-1], t, roof, bearings, under)
    if t.use == "gable" and roof.trusses.studs:
        found += _studs(t, pieces, roof, sections, touched)
    return found


def _studs(
    t: PlacedTruss,
    pieces: Sequence[Shaped],
    roof: RoofArea,
    sections: dict[str, Section],
    touched: set[MemberName],
) -> list[Member]:
    """The studs of a gable truss, which carry its sheathing and none of the roof."""
    section = sections[t.sections[2]]
    found = []
    for n, ring in enumerate(studs(pieces, t.profile, roof.trusses.studs, section.breadth), 1):
        low, high = min(z for _, z in ring), max(z for _, z in ring)
        x = sum(s for s, _ in ring) / len(ring)
        piece = Shaped(kinds.STUD, ring, (x, low), (x, high), ())
        a = add(t.start, t.way, x)
        name = MemberName(HostName("roof", roof.id), "stud", t.row, str(n))
        outline = tuple((s, z + t.plate) for s, z in ring)
        found.append(
            Member(
                name,
                f"{roof.id}-T{t.row}S{n}",
                kinds.STUD,
                name.host,
                roof.plate,
                section.name,
                f"{roof.species} {roof.grade}",
                side_profile(t.start, t.way, outline, section.breadth),
                (*a, low + t.plate),
                (*a, high + t.plate),
                high - low,
                high - low,
                _cut_words(piece),
                touched=name in touched,
            )
        )
    return found


def _piece(
    t: PlacedTruss,
    piece: Shaped,
    name: MemberName,
    n: int,
    roof: RoofArea,
    sections: dict[str, Section],
    touched: bool,
) -> Member:
    section = sections[t.sections[kinds.OF_TRUSS.index(piece.kind)]]
    ring = tuple((s, z + t.plate) for s, z in piece.outline)
    a, b = (add(t.start, t.way, p[0]) for p in (piece.start, piece.end))
    xs = [p[0] for p in _along(piece)]
    mark = (
        f"{roof.id}-T{t.row}"
        if piece.kind is kinds.BOTTOM_CHORD and n == 1
        else f"{roof.id}-T{t.row}{piece.kind.letter}{n}"
    )
    plies = sections.get(f"{t.plies}-{section.name}", section) if t.plies > 1 else section
    return Member(
        name,
        mark,
        piece.kind,
        name.host,
        roof.plate,
        plies.name,
        f"{roof.species} {roof.grade}",
        side_profile(t.start, t.way, ring, section.breadth * t.plies),
        (*a, piece.start[1] + t.plate),
        (*b, piece.end[1] + t.plate),
        piece.length,
        max(xs) - min(xs),
        _cut_words(piece),
        touched=touched,
    )


def _along(piece: Shaped) -> list[Point]:
    way = unit(sub(piece.end, piece.start))
    return [
        (sub(p, piece.start)[0] * way[0] + sub(p, piece.start)[1] * way[1], 0.0)
        for p in piece.outline
    ]


def _cut_words(piece: Shaped) -> tuple[str, ...]:
    """Say at what angles a piece is cut, off square to it, at each end."""
    way = unit(sub(piece.end, piece.start))
    length = distance(piece.start, piece.end)
    words: list[list[str]] = [[], []]
    ring = piece.outline
    for p, q in zip(ring, [*ring[1:], ring[0]]):
        d = sub(q, p)
        size = math.hypot(*d)
        along = abs(d[0] * way[0] + d[1] * way[1]) / size if size > 1e-9 else 1.0
        if size > 5.0 and along < 0.995:
            middle = ((p[0] + q[0]) / 2 - piece.start[0]) * way[0] + (
                (p[1] + q[1]) / 2 - piece.start[1]
            ) * way[1]
            off = math.degrees(math.asin(min(1.0, along)))
            words[0 if middle < length / 2 else 1].append(
                f"{off:.1f}°" if off >= 0.05 else "square"
            )
    return tuple(" and ".join(w) or "square" for w in words)


def _carrier(
    m: Member, t: PlacedTruss, roof: RoofArea, bearings: Bearings, under: partial[Rest | None]
) -> Member:
    seat = bearings.width or LEAST_BEARING
    span = t.profile.span
    supports = []
    for at in t.bears:
        spot = add(t.start, t.way, at)
        on = under(spot)
        supports.append(Support(at, seat if on else 0.0, on, spot))
    ratio = t.true / t.area if t.area > TOUCH else 1.0
    rule = roof.trusses
    whole = Carrier(
        (*t.start, m.start[2]),
        (*add(t.start, t.way, span), m.end[2]),
        span,
        math.sqrt(max(0.0, ratio**2 - 1)),
        tuple(supports),
        t.area,
        (0.0, span),
        Cases(rule.bottom_dead, rule.bottom_live) * t.wide,
    )
    return replace(m, carrier=whole)
