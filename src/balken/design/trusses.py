"""Roofs of trusses: choosing chords and webs, and what came out for every truss that stands."""

import math
from collections.abc import Sequence
from itertools import product
from typing import Final

import msgspec

from balken.analysis.beams import UnstableError
from balken.design.codes.timber import TimberCode
from balken.design.lines import Check
from balken.design.service import service_class
from balken.design.sizing import TOLERANCE, Choice, Sized
from balken.design.truss_checks import (
    Lumber,
    TrussCheck,
    TrussLoads,
    TrussTask,
    check_trusses,
    explain_truss,
    lumber_of,
)
from balken.design.under import Under
from balken.framing import kinds
from balken.framing.hosts.roof_shapes import shape_or_fault
from balken.framing.layout import LayoutError
from balken.framing.member import Bearings, Member, Size
from balken.framing.roofs.shape import RoofShape
from balken.framing.trusses.lines import shaped
from balken.framing.trusses.placing import LEAST_BEARING, PlacedTruss, cut_of, place_trusses
from balken.geometry.plane import distance
from balken.model.catalogue import price_per_mm, sections_of
from balken.model.names import HostName, MemberName
from balken.model.roofs import RoofArea
from balken.model.sections import Section
from balken.recall import remembered
from balken.units import System

USUAL: Final[dict[System, tuple[str, ...]]] = {
    "us": ("2x4", "2x6", "2x8"),
    "metric": ("38x89", "38x140", "38x184"),
}
"""What chords and webs may be cut from where nothing is typed."""


class TrussRoof(msgspec.Struct, frozen=True):
    """All trusses of one roof with what came out for each."""

    placed: tuple[PlacedTruss, ...]
    checks: tuple[TrussCheck, ...]
    lumber: Lumber
    task: TrussTask
    used: dict[MemberName, tuple[float, str]]
    """Utilisation and governing check of every piece, by the names of the members."""

    def at(self, row: str) -> int:
        """The place of a truss in the lists, by its row."""
        return next(i for i, t in enumerate(self.placed) if t.row == row)


def loads_on(roof: RoofArea) -> TrussLoads:
    """What lies on the trusses of a roof."""
    rule = roof.trusses
    return TrussLoads(
        roof.dead,
        roof.live,
        roof.snow,
        rule.bottom_dead,
        rule.bottom_live,
        rule.uplift,
        roof.pressed or 0.0,
    )


MANY: Final = 3
"""So many trusses side by side are as any more."""


def task_of(
    timber: TimberCode, roof: RoofArea, bearings: Bearings, under: Under, spacing: float, count: int
) -> TrussTask:
    """What the trusses of a roof are checked with."""
    return TrussTask(
        timber,
        service_class(roof),
        loads_on(roof),
        (roof.live_limit, roof.total_limit),
        bearings.width or LEAST_BEARING,
        roof.trusses.camber,
        under,
        spacing,
        min(count, MANY),
    )


@remembered
def size_trusses(
    roof: RoofArea, bearings: Bearings, under: Under, timber: TimberCode, system: System
) -> Sized:
    """The cheapest chords, webs and spacing that pass, with the others beside it; where none
    passes, the strongest."""
    sections = sections_of(system, ())
    rule = roof.trusses
    tops = (roof.section,) if roof.section else rule.chords or USUAL[system]
    webs = rule.webs or USUAL[system][:2]
    spacings = (roof.spacing,) if roof.spacing else roof.spacings[-1:]
    found: list[tuple[Choice, Size]] = []
    for top, gap in product(tops, spacings):
        made = _grown(roof, bearings, under, sections, timber, system, top, gap, webs)
        if made is not None:
            found.append(made)
    if not found:  # what frames them says why they cannot stand
        return Sized(HostName("roof", roof.id), Size(tops[0], spacings[0]), (), 0.0, math.inf)
    found.sort(key=lambda f: (f[0].cost, f[0].depth, -f[0].spacing))
    passing = [f for f in found if f[0].passes]
    best = passing[0] if passing else min(found, key=lambda f: f[0].worst)
    span = max(t.profile.span for t in _placed(roof, bearings, best[1], sections) or ())
    return Sized(HostName("roof", roof.id), best[1], tuple(c for c, _ in found), span, math.inf)


def _placed(
    roof: RoofArea, bearings: Bearings, size: Size, sections: dict[str, Section]
) -> tuple[PlacedTruss, ...] | None:
    shape = shape_or_fault(roof, bearings, sections[size.section].depth, 0.0)
    if not isinstance(shape, RoofShape):
        return None
    try:
        return place_trusses(roof, shape, bearings, size, sections)[0]
    except LayoutError:
        return None


def _grown(
    roof: RoofArea,
    bearings: Bearings,
    under: Under,
    sections: dict[str, Section],
    timber: TimberCode,
    system: System,
    top: str,
    gap: float,
    webs: Sequence[str],
) -> tuple[Choice, Size] | None:
    """Trusses with a top chord and spacing whose bottom chord and webs grew until they pass,
    or could grow no more."""
    bottoms = roof.trusses.chords or USUAL[system]
    b = w = 0
    placed: tuple[PlacedTruss, ...] | None = ()
    lumber: Lumber | None = None
    for _ in range(len(bottoms) + len(webs)):
        size = Size(top, gap, cut=((("bottom chord", ""), bottoms[b]), (("web", ""), webs[w])))
        placed = _placed(roof, bearings, size, sections)
        if not placed:
            return None
        names = cut_of(size, sections)[1]
        lumber = lumber_of(timber, names, roof.species, roof.grade, sections)
        if lumber is None:
            return None
        try:
            checks = check_trusses(
                placed, lumber, task_of(timber, roof, bearings, under, gap, len(placed))
            )
        except UnstableError:
            return None
        worst = max(checks, key=lambda c: c.worst[0]).worst
        weak = [bool(max(c.worst_of(r)[0] for c in checks) > 1 + TOLERANCE) for r in kinds.OF_TRUSS]
        if weak[2] and w + 1 < len(webs):
            w += 1
        elif (
            (weak[1] or worst[1] == "Heel bearing")
            and worst[0] > 1
            and b + 1 < len(bottoms)
            and not weak[0]
        ):
            b += 1
        else:
            break
    assert placed, "something stands"
    assert lumber is not None, "and is cut from something"
    prices = {r: price_per_mm(s, roof.grade) for r, s in zip(kinds.OF_TRUSS, lumber.sections)}
    cost = sum(
        prices[p.kind] * distance(t.truss.joints[p.start], t.truss.joints[p.end]) * t.plies
        for t in placed
        for p in t.truss.pieces
    )
    return Choice(top, gap, worst[0], worst[1], cost, sections[top].depth, True), size


def row_of(member: Member) -> tuple[str, str, int] | None:
    """The role, row and number of a piece of a truss; None of any other member, and of the
    tie of a jack."""
    if not member.kind.of_truss:
        return None
    piece = member.id.piece
    return member.role, member.id.row, int(piece) if piece.isdigit() else 1


def used_in(
    host: HostName, placed: Sequence[PlacedTruss], checks: Sequence[TrussCheck]
) -> dict[MemberName, tuple[float, str]]:
    found: dict[MemberName, tuple[float, str]] = {}
    cut = {(t.truss, t.profile): shaped(t.truss, t.profile, t.cut) for t in placed}
    for t, check in zip(placed, checks):
        counts: dict[str, int] = {}
        for piece in cut[t.truss, t.profile]:
            counts[piece.role] = counts.get(piece.role, 0) + 1
            first = piece.kind is kinds.BOTTOM_CHORD and counts[piece.role] == 1
            name = MemberName(host, piece.role, t.row, "" if first else str(counts[piece.role]))
            ratio = max((float(check.ratios[:, i].max()) for i in piece.of), default=0.0)
            word = {"top chord": "Top chord", "bottom chord": "Bottom chord", "web": "Webs"}[
                piece.role
            ]
            found[name] = max((ratio, word), check.worst) if first else (ratio, word)
    return found


def truss_checks(roof: TrussRoof, row: str) -> tuple[Check, ...]:
    """The checks of one truss with their lines."""
    i = roof.at(row)
    return explain_truss(roof.placed[i], roof.checks[i], roof.lumber, roof.task)
