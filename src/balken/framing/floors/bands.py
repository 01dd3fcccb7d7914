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


@remembered_piece
def frame_band(cutter: Cutter, site: BandSite) -> Band:
    """A band with the pieces of its rows. Their names do not change when other rows do."""
    doubled, changed = dict(site.doubled), dict(site.changed)
    letters: dict[str, int] = {}
    square = all(b.square for b in site.across.bearings)
    known: dict[object, tuple[list[tuple[float, float]], list[Over], list[Rest | None]]] = {}
    like: object = None
    found: list[Member] = []
    whose: list[Row] = []
    for i, row in enumerate(site.rows):
        ends = crossings(cutter.rings[0], row.x)
        hangs = (
            all(abs(y - row.low) >= TOUCH for y in ends),
            all(abs(y - row.high) >= TOUCH for y in ends),
        )
        # Rows that meet the same square bearings between the same ends break alike, wherever they
        # stand.
        key = (site.across.mask(i), site.along.mask(i), row.low, row.high, hangs)
        if key not in known or not square:
            along = site.along.of(i)
            spans, on_row = stretches(row, site.across.of(i), along, hangs)
            known[key] = spans, on_row, [beneath(row.x, a, b, along) for a, b in spans]
        spans, on_row, unders = known[key]
        if site.telling and not (site.last and i == len(site.rows) - 1):
            lies = [(round(a, 6), round(b, 6), under) for (a, b), under in zip(spans, unders)]
            this = ([(on, round(a, 6), round(b, 6)) for on, a, b, _ in on_row], lies)
            if this == like:
                continue
            like = this
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


def row_pieces(cutter: Cutter, site: RowSite) -> list[Member]:
    """The pieces of one row."""
    row, breadth = site.row, cutter.section.breadth
    host = HostName("floor", cutter.floor)
    rim = (
        0.0 if cutter.ceiling or site.hangs[0] else breadth,
        0.0 if cutter.ceiling or site.hangs[1] else breadth,
    )
    # Edge joists, trimmers and doubles keep their line and butt; the others pass each other over a
    # bearing.
    lap = cutter.lap if row.name.isdigit() else 0.0
    by_name = dict(site.changed)
    more = site.more
    found: list[Member] = []
    spare = 0.0
    for k, (span, area, under) in enumerate(
        zip(site.spans, carried(cutter.rings, row, site.spans), site.unders)
    ):
        body = body_of(span, row, site.on_row, rim, lap)
        if body[1] - body[0] < TOUCH:
            spare += area  # what lies over the bearing itself goes to the piece beside it
            continue
        # Only the stretch beside an opening, or under a wall, is doubled; the row goes on single.
        here = more is not None and min(span[1], more.high) - max(span[0], more.low) > TOUCH
        section = more.section if more and here else cutter.section
        side = (k % 2) * breadth if lap and len(site.spans) > 1 else 0.0
        side += more.side * (section.breadth - breadth) / 2 if more else 0.0
        supports = supports_of(site.on_row, body, row.x, cutter.angle, under)
        kind = (
            kinds.CEILING_JOIST
            if cutter.ceiling
            else kinds.TRIMMER
            if row.name[0] == "T" and here
            else kinds.JOIST
        )
        letter = piece_letters(site.first + len(found))
        name = MemberName(host, "joist", row.name, letter)
        piece = by_name.get(name) or section
        material = piece.product.id if piece.product else cutter.material
        a, b = (
            to_plan((row.x + side, body[0]), cutter.angle),
            to_plan((row.x + side, body[1]), cutter.angle),
        )
        found.append(
            level_piece(
                name,
                f"{cutter.floor}-J{row.name}{letter}",
                kind,
                host,
                cutter.level,
                Cut(piece.name, material, piece.breadth),
                a,
                b,
                cutter.bearing,
                cutter.bearing + piece.depth,
                supports,
                area + spare,
                (span[0] - body[0], span[1] - body[0]),
                touched=name in by_name,
            )
        )
        spare = 0.0
    if spare and found:
        last = found[-1]
        more_area = replace(last.carrier, area=last.carrier.area + spare)
        found[-1] = replace(last, carrier=more_area)
    return found
