"""One roof as it is framed: with trusses, or with rafters on its planes, pieces along its lines and
what closes its edges."""

from collections.abc import Iterable, Iterator
from functools import partial
from itertools import chain
from typing import Final

from balken.framing import kinds
from balken.framing.layout import Layout
from balken.framing.member import Bearings, Framed, Member, Part, Size
from balken.framing.pieces import strip_under
from balken.framing.roofs.edges import barge_rafters, deck_joists, headers
from balken.framing.roofs.fascia import fascias
from balken.framing.roofs.pair_ties import pair_ties
from balken.framing.roofs.parts import is_there
from balken.framing.roofs.rafter_cuts import Cutting
from balken.framing.roofs.rafters import (
    FLAT,
    KINDS,
    Family,
    Lines,
    families,
    frame_face,
    longest_rows,
    part_name,
    run_of,
)
from balken.framing.roofs.shape import Placed, RoofShape, lines_of_shape, placed_opening
from balken.framing.roofs.sticks import SectionFor, Setting, cut_sticks, sticks_of
from balken.framing.roofs.under_purlins import STRUT, props, purlin_members, purlins_of
from balken.geometry.roof_planes import Face
from balken.model.names import HostName, MemberName, piece_letters
from balken.model.project import Change
from balken.model.roofs import RoofArea
from balken.model.sections import Section
from balken.units import System


def frame_rafters(
    roof: RoofArea,
    shape: RoofShape,
    bearings: Bearings,
    size: Size,
    sections: dict[str, Section],
    system: System,
    changes: tuple[Change, ...],
    over: Lines,
) -> Framed:
    """Frame one roof with rafters.

    Args:
        roof: the roof.
        shape: its shape, for rafters of this depth.
        bearings: what it lies on.
        size: section and spacing of the rafters, and what hips and valleys are cut from.
        sections: the catalogue.
        system: for the words of the cuts.
        changes: changes by hand on members of this roof.
        over: lines in plan of the joists or trusses that the rafters are to stand over.
    """
    cut = _cutting(roof, shape, bearings, size, sections, system, changes)
    strut = sections[dict(size.cut).get(("strut", ""), STRUT[system])]
    on_planes, names = _on_planes(cut, size, over)
    rafters = [m for part in on_planes for m in part.members if m.kind is kinds.RAFTER]
    parts = [
        *on_planes,
        _part(_along_lines(cut, bearings, strut)),
        _part(
            barge_rafters(roof, shape, cut.lines, cut.sticks, cut.section, sections),
            pair_ties(roof, shape, rafters, cut.section, sections),
            fascias(roof, shape, sections),
        ),
        _part(purlin_members(roof, shape, bearings, cut.purlins, sections, strut)),
        _part(deck_joists(roof, shape, cut.sticks, cut.section, size.spacing)),
        _part(_headers(cut, size)),
    ]
    left = [Part(tuple(m for m in p.members if is_there(roof, m))) for p in parts]
    return Framed(tuple(p for p in left if p.members), _lost(parts, changes, names, roof))


def _part(*members: Iterable[Member]) -> Part:
    return Part(tuple(chain(*members)))


def _cutting(
    roof: RoofArea,
    shape: RoofShape,
    bearings: Bearings,
    size: Size,
    sections: dict[str, Section],
    system: System,
    changes: tuple[Change, ...],
) -> Cutting:
    """What all rafters of a roof are cut with."""
    section = sections[size.section]
    by_name = {c.member: c for c in changes}
    lines = lines_of_shape(shape)
    steepest = max((f.pitch for f in shape.roof.faces), default=0.0)
    choose = SectionFor(section, steepest, dict(size.cut), sections, dict(roof.rafters.sections))
    placed = [placed_opening(shape, o) for o in roof.openings]
    return Cutting(
        roof,
        shape,
        lines,
        sticks_of(roof, shape, lines, choose, by_name, sections),
        bearings.strips,
        bearings.width,
        sections,
        section,
        by_name,
        system,
        tuple(o for o in placed if isinstance(o, Placed)),
        purlins_of(roof, shape, bearings, section, choose),
    )


def _sloping(shape: RoofShape) -> list[tuple[int, Face]]:
    """The planes that rafters lie on, with their numbers."""
    return [(n, f) for n, f in enumerate(shape.roof.faces) if f.pitch > FLAT]


def _on_planes(cut: Cutting, size: Size, over: Lines) -> tuple[list[Part], set[tuple[str, str]]]:
    """The rafters and jacks of each plane, and the names of all rows there would be without those
    taken away by hand."""
    rule, sloping = cut.roof.rafters, _sloping(cut.shape)
    layout = Layout(
        cut.section.breadth,
        size.spacing,
        start=rule.begin,
        end_gap=rule.end_gap,
        least_clear=rule.least_clear,
    )
    faces = [f for _, f in sloping]
    rows = families(cut.shape, faces, layout, over, from_middle=rule.layout == "middle")
    parts: list[Part] = []
    names: set[tuple[str, str]] = set()
    for k, (n, face) in enumerate(sloping):
        made, there = frame_face(n, face, rows[run_of(face)], cut, piece_letters(k))
        names |= there
        parts.append(Part(tuple(made)))
    return parts, names


def _along_lines(cut: Cutting, bearings: Bearings, strut: Section) -> Iterator[Member]:
    """Ridges, hips and valleys, and the props under those that carry."""
    under = partial(strip_under, strips=bearings.strips)
    kept = [s for s in cut.sticks if s.kind.part not in cut.roof.rafters.left_out]
    along = cut_sticks(kept, Setting(cut.roof, cut.shape, bearings.width, under, cut.system))
    yield from along
    carrying = [m for m in along if m.kind in (kinds.RIDGE_BEAM, kinds.PURLIN)]
    yield from props(cut.roof, bearings, carrying, cut.sections, strut)


def _headers(cut: Cutting, size: Size) -> Iterable[Member]:
    shape = cut.shape
    planes = {n: part_name(shape.edges[f.side], f, shape) for n, f in _sloping(shape)}
    plies = dict(size.plies)
    return headers(cut.roof, shape, cut.openings, cut.section, cut.sections, plies, planes)


DECK_TRIAL: Final = 600.0
"""Spacing at which the joists of a flat top are asked for their span, mm."""


def longest_rafters(
    roof: RoofArea,
    shape: RoofShape,
    bearings: Bearings,
    section: Section,
    sections: dict[str, Section],
    system: System,
) -> list[Member]:
    """One rafter on each plane where it is longest: what a choice of size asks for."""
    lines = lines_of_shape(shape)
    steepest = max((f.pitch for f in shape.roof.faces), default=0.0)
    choose = SectionFor(section, steepest, {}, sections, dict(roof.rafters.sections))
    sticks = sticks_of(roof, shape, lines, choose, {}, sections)
    purlins = purlins_of(roof, shape, bearings, section, choose)
    cutting = Cutting(
        roof,
        shape,
        lines,
        sticks,
        bearings.strips,
        bearings.width,
        sections,
        section,
        {},
        system,
        (),
        purlins,
    )
    found: list[Member] = []
    for n, face in enumerate(shape.roof.faces):
        if face.pitch > 1e-9:
            made, _ = frame_face(
                n, face, Family(run_of(face), longest_rows(face, shape)), cutting, ""
            )
            found += made
    return [*found, *deck_joists(roof, shape, sticks, section, DECK_TRIAL)]


def _lost(
    parts: list[Part], changes: tuple[Change, ...], names: set[tuple[str, str]], roof: RoofArea
) -> tuple[MemberName, ...]:
    """The changes by hand that found no member to act on; a row taken away was found."""
    present = {m.id for part in parts for m in part.members}
    host = HostName("roof", roof.id)
    away = {MemberName(host, kind, part, row) for kind in KINDS for part, row in names}
    return tuple(
        sorted(
            c.member
            for c in changes
            if c.member not in present
            and not (c.removed and (c.member in away or "+" in c.member.row))
        )
    )
