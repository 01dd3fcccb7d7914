"""Rows of joists, a band of them at a time: from where they stand and what they meet to their
pieces.

A floor may have thousands of joists, and an edit beside it changes what a few of them meet. A band
holds the rows of a few feet; where what it meets did not change it is the same object as before the
edit, and so is all that follows from it.
"""

from collections.abc import Iterator, Sequence
from itertools import groupby
from typing import Final, NamedTuple

import msgspec
from msgspec.structs import replace

from balken.framing import kinds
from balken.framing.floors.joist_rows import Met, beneath, body_of, stretches, supports_of
from balken.framing.kinds import MemberKind
from balken.framing.layout import Layout, Row, carried, rows, to_plan
from balken.framing.member import Member, Part
from balken.framing.pieces import Cut, Over, level_piece
from balken.geometry.plane import TOUCH, Ring, crossings
from balken.model.names import HostName, MemberName, Rest, piece_letters
from balken.model.sections import Section
from balken.recall import remembered, remembered_piece

ROWS: Final = 20
"""A band has about so many rows: few enough that an edit re-makes few, enough that asking for a
band costs little."""


class Band(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """Neighbouring rows with their pieces, and the row of each piece."""

    part: Part
    rows: tuple[Row, ...]

    def pieces(self) -> Iterator[tuple[Row, Member]]:
        """The pieces with their rows."""
        return zip(self.rows, self.part.members)

    def first(self) -> tuple[Member, ...]:
        """The pieces of its first row."""
        return tuple([m for row, m in self.pieces() if row.x == self.rows[0].x])


class Doubled(NamedTuple):
    """Where a row has more plies than one: from, to along the joists, how many, and to which side
    they stand out."""

    low: float
    high: float
    plies: int
    side: float
    section: Section
    """What so many plies are together."""


class Cutter(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """What every row of a floor is cut by: it is the same for all of them, and for the same floor
    after an edit elsewhere."""

    floor: str
    level: str
    section: Section
    material: str
    angle: float
    bearing: float
    ceiling: bool
    lap: float
    rings: tuple[Ring, ...]
    """The local outline and the openings, in which rows carry their share of the plan."""


class BandSite(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """The rows of a band with what they meet, and what was done to them."""

    rows: tuple[Row, ...]
    across: Met
    along: Met
    doubled: tuple[tuple[str, Doubled], ...]
    """By the name of a row."""
    changed: tuple[tuple[str, tuple[tuple[MemberName, Section | None], ...]], ...]
    """Pieces changed by hand by the name of their row, with another section where they have one."""
    telling: bool = False
    """Leave out rows that are just like the one before, but the last of all: what a choice of size
    needs."""
    last: bool = False


@remembered
def in_bands(
    rings: tuple[Ring, ...],
    layout: Layout,
    shifts: tuple[tuple[str, float], ...],
    removed: frozenset[str],
) -> tuple[tuple[Row, ...], ...]:
    """Set rows out and put neighbours into bands; rows that stand at one place are in one band.

    Raises:
        LayoutError: more rows than any building has, or a spacing of nothing.
    """
    found: list[tuple[Row, ...]] = []
    band: list[Row] = []
    for _, here in groupby(rows(rings, layout, dict(shifts), removed), key=lambda r: r.x):
        band += here
        if len(band) >= ROWS:
            found.append(tuple(band))
            band = []
    return (*found, tuple(band)) if band else tuple(found)


def frame_bands(
    cutter: Cutter,
    bands: Sequence[tuple[Row, ...]],
    met: Sequence[tuple[Met, Met]],
    doubled: dict[str, Doubled],
    changed: dict[str, tuple[tuple[MemberName, Section | None], ...]],
    *,
    telling: bool,
) -> list[Band]:
    """Frame bands of rows, each from memory where the same was framed before."""
    whose = (
        {row.name: i for i, band in enumerate(bands) for row in band} if doubled or changed else {}
    )
    thick: dict[int, list[tuple[str, Doubled]]] = {}
    for name, more in doubled.items():
        thick.setdefault(whose.get(name, -1), []).append((name, more))
    touched: dict[int, list[tuple[str, tuple[tuple[MemberName, Section | None], ...]]]] = {}
    for name, pieces in changed.items():
        touched.setdefault(whose.get(name, -1), []).append((name, pieces))
    found = []
    for i, (band, (across, along)) in enumerate(zip(bands, met)):
        site = BandSite(
            band,
            across,
            along,
            tuple(thick.get(i, ())),
            tuple(touched.get(i, ())),
            telling,
            telling and i == len(bands) - 1,
        )
        found.append(frame_band(cutter, site))
    return found


class RowSite(NamedTuple):
    """A row with what it meets: where it breaks, what it rests on, which of its ends hang, what
    each stretch carries."""

    row: Row
    spans: list[tuple[float, float]]
    on_row: list[Over]
    hangs: tuple[bool, bool]
    unders: list[Rest | None]
    first: int
    """How many pieces rows of its name have before it."""
    more: Doubled | None
    changed: tuple[tuple[MemberName, Section | None], ...]


Broken = tuple[list[tuple[float, float]], list[Over], list[Rest | None]]
"""The stretches of a row, the bearings on it, and what lies along under each stretch."""


@remembered_piece
def frame_band(cutter: Cutter, site: BandSite) -> Band:
    """A band with the pieces of its rows. Their names do not change when other rows do."""
    doubled, changed = dict(site.doubled), dict(site.changed)
    letters: dict[str, int] = {}
    found: list[Member] = []
    whose: list[Row] = []
    for row, hangs, (spans, on_row, unders) in _broken_rows(cutter, site):
        one = RowSite(
            row,
            spans,
            on_row,
            hangs,
            unders,
            letters.get(row.name, 0),
            doubled.get(row.name),
            changed.get(row.name, ()),
        )
        made = row_pieces(cutter, one)
        letters[row.name] = one.first + len(made)
        found += made
        whose += [row] * len(made)
    return Band(Part(tuple(found)), tuple(whose))


def _broken_rows(cutter: Cutter, site: BandSite) -> Iterator[tuple[Row, tuple[bool, bool], Broken]]:
    """The rows of a band that are cut, which of their ends hang, and where they break."""
    square = all(b.square for b in site.across.bearings)
    known: dict[object, Broken] = {}
    like: object = None
    for i, row in enumerate(site.rows):
        hangs = _hanging_ends(cutter, row)
        # Rows that meet the same square bearings between the same ends break alike, wherever they
        # stand.
        key = (site.across.mask(i), site.along.mask(i), row.low, row.high, hangs)
        if key not in known or not square:
            along = site.along.of(i)
            spans, on_row = stretches(row, site.across.of(i), along, hangs)
            known[key] = spans, on_row, [beneath(row.x, a, b, along) for a, b in spans]
        if site.telling and not (site.last and i == len(site.rows) - 1):
            this = _told(known[key])
            if this == like:
                continue
            like = this
        yield row, hangs, known[key]


def _hanging_ends(cutter: Cutter, row: Row) -> tuple[bool, bool]:
    """Which ends of a row do not reach the outline: they hang on a header."""
    ends = crossings(cutter.rings[0], row.x)
    return (
        all(abs(y - row.low) >= TOUCH for y in ends),
        all(abs(y - row.high) >= TOUCH for y in ends),
    )


def _told(broken: Broken) -> object:
    """What of a row makes it like another, to a choice of size."""
    spans, on_row, unders = broken
    lies = [(round(a, 6), round(b, 6), under) for (a, b), under in zip(spans, unders)]
    return [(on, round(a, 6), round(b, 6)) for on, a, b, _ in on_row], lies


def row_pieces(cutter: Cutter, site: RowSite) -> list[Member]:
    """The pieces of one row."""
    rims = [0.0 if cutter.ceiling or hangs else cutter.section.breadth for hangs in site.hangs]
    lap = _lap(cutter, site.row)
    changed = dict(site.changed)
    found: list[Member] = []
    spare = 0.0
    areas = carried(cutter.rings, site.row, site.spans)
    for k, (span, area) in enumerate(zip(site.spans, areas)):
        body = body_of(span, site.row, site.on_row, (rims[0], rims[1]), lap)
        if body[1] - body[0] < TOUCH:
            spare += area  # what lies over the bearing itself goes to the piece beside it
            continue
        stretch = Stretch(k, span, body, area + spare)
        found.append(_piece(cutter, site, stretch, site.first + len(found), changed))
        spare = 0.0
    if spare and found:
        last = found[-1]
        more_area = replace(last.carrier, area=last.carrier.area + spare)
        found[-1] = replace(last, carrier=more_area)
    return found


class Stretch(NamedTuple):
    """A stretch of a row between breaks: its number, from and to, how far its piece reaches, and
    the plan it carries, mm²."""

    number: int
    span: tuple[float, float]
    body: tuple[float, float]
    area: float


def _lap(cutter: Cutter, row: Row) -> float:
    """Edge joists, trimmers and doubles keep their line and butt; the others pass each other over
    a bearing."""
    return cutter.lap if row.name.isdigit() else 0.0


def _piece(
    cutter: Cutter,
    site: RowSite,
    stretch: Stretch,
    number: int,
    changed: dict[MemberName, Section | None],
) -> Member:
    """The piece of one stretch of a row."""
    row, span, body = site.row, stretch.span, stretch.body
    doubled = _doubled_here(site.more, span)
    letter = piece_letters(number)
    name = MemberName(HostName("floor", cutter.floor), "joist", row.name, letter)
    piece = changed.get(name) or (doubled.section if doubled else cutter.section)
    x = row.x + _aside(cutter, site, stretch.number, doubled)
    under = site.unders[stretch.number]
    return level_piece(
        name,
        f"{cutter.floor}-J{row.name}{letter}",
        _kind(cutter, row, doubled=doubled is not None),
        name.host,
        cutter.level,
        Cut(piece.name, piece.product.id if piece.product else cutter.material, piece.breadth),
        to_plan((x, body[0]), cutter.angle),
        to_plan((x, body[1]), cutter.angle),
        cutter.bearing,
        cutter.bearing + piece.depth,
        supports_of(site.on_row, body, row.x, cutter.angle, under),
        stretch.area,
        (span[0] - body[0], span[1] - body[0]),
        touched=name in changed,
    )


def _doubled_here(more: Doubled | None, span: tuple[float, float]) -> Doubled | None:
    """Only the stretch beside an opening, or under a wall, is doubled; the row goes on single."""
    if more is None or min(span[1], more.high) - max(span[0], more.low) <= TOUCH:
        return None
    return more


def _aside(cutter: Cutter, site: RowSite, number: int, doubled: Doubled | None) -> float:
    """How far to the side of its row a piece lies, mm: past the one before it where they lap, and
    to the side that a doubled stretch stands out."""
    breadth = cutter.section.breadth
    passing = (number % 2) * breadth if _lap(cutter, site.row) and len(site.spans) > 1 else 0.0
    return passing + (doubled.side * (doubled.section.breadth - breadth) / 2 if doubled else 0.0)


def _kind(cutter: Cutter, row: Row, *, doubled: bool) -> MemberKind:
    if cutter.ceiling:
        return kinds.CEILING_JOIST
    return kinds.TRIMMER if row.name[0] == "T" and doubled else kinds.JOIST
