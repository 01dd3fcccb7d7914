"""Strings of framing plans: beams and posts from the grid lines or from the faces of the walls, and where
the joists, rafters and trusses of each floor and roof lie, from the first piece on. Below and at the
left of the plan."""

from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Final, NamedTuple

from balken.drawing.dimensions import Frame, chain
from balken.drawing.foundation_strings import lines_of_grid
from balken.drawing.marks import Mark
from balken.drawing.tiers import Tier
from balken.drawing.wall_notes import NEAREST, NEXT
from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.plane import box, dot, sub, unit
from balken.model.names import HostName, MemberName
from balken.units import System, format_length, format_run
from balken.works.building import Checked

LAID: Final = (kinds.JOIST, kinds.CEILING_JOIST, kinds.RAFTER, kinds.BOTTOM_CHORD)
"""What lies in rows."""
BEARING: Final = (kinds.BEAM, kinds.RIDGE_BEAM, kinds.PURLIN)
FEWEST: Final = 3
"""Fewer pieces make no row."""
MOST_STEPS: Final = 14
"""What changes its spacing more often has no layout that one string tells."""
SAME: Final = 1.0
"""Places and spacings this near are one, mm."""
ALONG: Final = 0.02
"""Pieces run along the building or across it within this, as a sine."""


class LayoutString(NamedTuple):
    """A string at a side of a plan, 0 below and 1 at the left: its places along the frame, mm, and the
    words between them."""

    side: int
    places: tuple[float, ...]
    words: tuple[str, ...]


class Layouts(NamedTuple):
    """All strings of a framing plan, and how far eaves and other pieces reach past its frame, below and at
    its left, mm."""

    strings: tuple[LayoutString, ...] = ()
    past: tuple[float, float] = (0.0, 0.0)

    def room(self, paper: float) -> tuple[float, float]:
        """How far they reach below a plan and to its left, mm of building."""
        sides = [s.side for s in self.strings]
        below, beside = (
            self.past[k] + (NEAREST + NEXT * sides.count(k)) * paper if k in sides else 0.0
            for k in (0, 1)
        )
        return below, beside


def layouts_of(checked: Checked, tier: Tier, frame: Frame) -> Layouts:
    """The strings of a framing plan; none of other plans."""
    if tier.kind not in ("floor", "ceiling", "roof"):
        return Layouts()
    by_host: dict[HostName, list[Member]] = {h: [] for h in tier.hosts}
    for m in checked.structure.members:
        if m.host in by_host:
            by_host[m.host].append(m)
    mine = [m for members in by_host.values() for m in members]
    found = list(_beams(checked, mine, frame))
    for host, pieces in by_host.items():
        for side in (0, 1):
            layout = _layout(host, pieces, frame, side, checked.project.system)
            if layout is not None and layout not in found:
                found.append(layout)
    past = _past(mine, frame) if found and tier.kind == "roof" else (0.0, 0.0)
    return Layouts(tuple(found), past)


def layout_strings(layouts: Layouts, frame: Frame, paper: float, system: System) -> Iterator[Mark]:
    """The strings drawn, those of beams nearest to the plan."""
    x0, y0 = frame.local(frame.corners[0])
    rows = [0, 0]
    for s in layouts.strings:
        points = [frame.plan((x0, at) if s.side else (at, y0)) for at in s.places]
        right, up = frame.right, frame.up
        out = (-right[0], -right[1]) if s.side else (-up[0], -up[1])
        words = s.words[::-1] if s.side else s.words  # the left side is read from its top
        away = layouts.past[s.side] + (NEAREST + NEXT * rows[s.side]) * paper
        yield from chain(points, out, away, paper, system, texts=words)
        rows[s.side] += 1


def _past(pieces: Sequence[Member], frame: Frame) -> tuple[float, float]:
    """How far eaves and other pieces reach past a frame."""
    places = [frame.local(p) for m in pieces for p in m.solid.plan()]
    x, y = frame.local(frame.corners[0])
    below, beside = (min((p[k] for p in places), default=at) for k, at in ((1, y), (0, x)))
    return max(0.0, y - below), max(0.0, x - beside)


def _places(pieces: Sequence[Member], frame: Frame, side: int) -> list[float]:
    """Where pieces that run away from a side lie along it, each once."""
    way = (frame.right, frame.up)[side]
    across = [m for m in pieces if abs(dot(unit(sub(m.end[:2], m.start[:2])), way)) < ALONG]
    return _once([frame.local(m.start[:2])[side] for m in across if m.run > SAME])


def _once(places: Sequence[float]) -> list[float]:
    kept: list[float] = []
    for x in sorted(places):
        if not kept or x - kept[-1] > SAME:
            kept.append(x)
    return kept


def _layout(
    host: HostName, pieces: Sequence[Member], frame: Frame, side: int, system: System
) -> LayoutString | None:
    """Where the rows of a floor or roof lie: from its edge to the first piece, then its spacings."""
    places = _places([m for m in pieces if m.kind in LAID], frame, side)
    if len(places) < FEWEST:
        return None
    if host.kind == "floor":
        framed = [m for m in pieces if m.kind is not kinds.SUBFLOOR]
        corners = [frame.local(p) for m in framed for p in m.solid.plan()]
        x0, y0, x1, y1 = box(corners)
        places = _once([(x0, y0)[side], *places, (x1, y1)[side]])
    steps = list(_steps(places))
    if len(steps) > MOST_STEPS:
        return None
    ends = (places[0], *(end for end, _, _ in steps))
    return LayoutString(side, ends, tuple(_words(n, gap, system) for _, n, gap in steps))


def _steps(places: Sequence[float]) -> Iterator[tuple[float, int, float]]:
    """Runs of even spacing: where each ends, how many spacings it has, and how wide one is."""
    count, gap, end = 0, 0.0, places[0]
    for a, b in pairwise(places):
        if count and abs(b - a - gap) > SAME:
            yield end, count, gap
            count = 0
        count, gap, end = count + 1, b - a, b
    yield end, count, gap


def _words(count: int, gap: float, system: System) -> str:
    whole = format_length(count * gap, system)
    return whole if count == 1 else f"{count} × {format_run(gap, system)} = {whole}"


def _posts_under(checked: Checked, beams: Sequence[Member]) -> list[Member]:
    """The posts that beams bear on."""
    borne = {
        s.on
        for m in beams
        for s in m.carrier.supports
        if isinstance(s.on, MemberName) and s.on.host.kind == "support"
    }
    return [m for m in checked.structure.of(kinds.POST) if m.id in borne]


def _beams(checked: Checked, mine: Sequence[Member], frame: Frame) -> Iterator[LayoutString]:
    """Beams and the posts under them that stand on no grid line, from the lines next to them."""
    beams = [m for m in mine if m.kind in BEARING]
    under = [frame.local(m.start[:2]) for m in _posts_under(checked, beams)]
    lines = lines_of_grid(checked, frame)
    corners = [frame.local(p) for p in frame.corners]
    for side in (0, 1):
        held = lines[side] or [f(c[side] for c in corners) for f in (min, max)]
        places = _once([*_places(beams, frame, side), *(p[side] for p in under)])
        off = [x for x in places if all(abs(x - line) > SAME for line in held)]
        if off:
            at = _once([*held, *off])
            words = tuple(format_length(b - a, checked.project.system) for a, b in pairwise(at))
            yield LayoutString(side, tuple(at), words)
