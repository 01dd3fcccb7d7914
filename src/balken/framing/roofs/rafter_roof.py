"""One roof as it is framed: with trusses, or with rafters on its planes, pieces along its lines and
what closes its edges."""

from functools import partial
from typing import Final

from balken.framing import kinds
from balken.framing.layout import Layout
from balken.framing.member import Bed, Framed, Member, Part, Size
from balken.framing.pieces import strip_under
from balken.framing.roofs.edges import barge_rafters, deck_joists, headers
from balken.framing.roofs.fascia import fascias
from balken.framing.roofs.pair_ties import pair_ties
from balken.framing.roofs.parts import is_there
from balken.framing.roofs.rafter_cuts import Cutting
from balken.framing.roofs.rafters import (
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
from balken.model.names import HostName, MemberName, piece_letters
from balken.model.project import Change
from balken.model.roofs import RoofArea
from balken.model.sections import Section
from balken.units import System


def frame_rafters(
    roof: RoofArea,
    shape: RoofShape,
    bed: Bed,
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
        bed: what it lies on.
        size: section and spacing of the rafters, and what hips and valleys are cut from.
        sections: the catalogue.
        system: for the words of the cuts.
        changes: changes by hand on members of this roof.
        over: lines in plan of the joists or trusses that the rafters are to stand over.
    """
    section = sections[size.section]
    by_name = {c.member: c for c in changes}
    lines = lines_of_shape(shape)
    steepest = max((f.pitch for f in shape.roof.faces), default=0.0)
    rule = roof.rafters
    choose = SectionFor(section, steepest, dict(size.cut), sections, dict(rule.sections))
    sticks = sticks_of(roof, shape, lines, choose, by_name, sections)
    placed = [placed_opening(shape, o) for o in roof.openings]
    openings = tuple(o for o in placed if isinstance(o, Placed))
    purlins = purlins_of(roof, shape, bed, section, choose)
    strut = dict(size.cut).get(("strut", ""), STRUT[system])
    cutting = Cutting(
        roof,
        shape,
        lines,
        sticks,
        bed.strips,
        bed.width,
        sections,
        section,
        by_name,
        system,
        openings,
        purlins,
    )
    layout = Layout(
        section.breadth,
        size.spacing,
        start=rule.begin,
        end_gap=rule.end_gap,
        least_clear=rule.least_clear,
    )
    sloping = [(n, f) for n, f in enumerate(shape.roof.faces) if f.pitch > 1e-9]
    rows = families(
        shape, [f for _, f in sloping], layout, over, from_middle=rule.layout == "middle"
    )
    parts: list[Part] = []
    names: set[tuple[str, str]] = set()
    for k, (n, face) in enumerate(sloping):
        made, there = frame_face(n, face, rows[run_of(face)], cutting, piece_letters(k))
        names |= there
        parts.append(Part(tuple(made)))
    kept = [s for s in sticks if s.kind.part not in rule.left_out]
    setting = Setting(roof, shape, bed.width, partial(strip_under, strips=bed.strips), system)
    along = cut_sticks(kept, setting)
    props_of = props(
        roof,
        bed,
        [m for m in along if m.kind in (kinds.RIDGE_BEAM, kinds.PURLIN)],
        sections,
        sections[strut],
    )
    parts.append(Part((*along, *props_of)))
    rafters = [m for part in parts for m in part.members if m.kind is kinds.RAFTER]
    edges = barge_rafters(roof, shape, lines, sticks, section, sections)
    parts.append(
        Part(
            (
                *edges,
                *pair_ties(roof, shape, rafters, section, sections),
                *fascias(roof, shape, sections),
            )
        )
    )
    parts.append(Part(tuple(purlin_members(roof, shape, bed, purlins, sections, sections[strut]))))
    parts.append(Part(tuple(deck_joists(roof, shape, sticks, section, size.spacing))))
    planes = {n: part_name(shape.edges[f.side], f, shape) for n, f in sloping}
    parts.append(
        Part(tuple(headers(roof, shape, openings, section, sections, dict(size.plies), planes)))
    )
    left = [Part(tuple(m for m in p.members if is_there(roof, m))) for p in parts]
    return Framed(tuple(p for p in left if p.members), _lost(parts, changes, names, roof))


DECK_TRIAL: Final = 600.0
"""Spacing at which the joists of a flat top are asked for their span, mm."""


def longest_rafters(
    roof: RoofArea,
    shape: RoofShape,
    bed: Bed,
    section: Section,
    sections: dict[str, Section],
    system: System,
) -> list[Member]:
    """One rafter on each plane where it is longest: what a choice of size asks for."""
    lines = lines_of_shape(shape)
    steepest = max((f.pitch for f in shape.roof.faces), default=0.0)
    choose = SectionFor(section, steepest, {}, sections, dict(roof.rafters.sections))
    sticks = sticks_of(roof, shape, lines, choose, {}, sections)
    purlins = purlins_of(roof, shape, bed, section, choose)
    cutting = Cutting(
        roof,
        shape,
        lines,
        sticks,
        bed.strips,
        bed.width,
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
