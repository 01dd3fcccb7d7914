"""The framing of one wall as it is built: studs, plates, headers and what goes round openings, with marks,
and strings for studs, rough openings, heights and the whole. Lengths along the wall and heights, mm.

Everything reads in one colour: pieces are outlines, headers and plates cut to length are crossed at
nothing, rough openings carry their diagonals.
"""

import math
from collections import Counter
from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import Final, Literal

from balken.drawing.marks import Drawing, Fill, Label, Mark, Patch, Stroke
from balken.framing import kinds
from balken.framing.hosts.walls import foot_floors, rule_of
from balken.framing.kinds import MemberKind
from balken.framing.member import Member
from balken.geometry.plane import Point, Ring, box, dot, sub
from balken.model.catalogue import BOX
from balken.model.names import HostName, ThingName
from balken.model.project import Project, wall, wall_base, wall_top
from balken.model.walls import Opening, Wall, called, direction_of, outside_of, wall_length
from balken.takeoff.lifts import panels_of
from balken.units import System, format_force, format_length, format_run
from balken.works.building import Checked, is_over
from balken.works.let_in import let_in_of
from balken.works.overturning import held_ends

Seen = Literal["outside", "inside"]
TEXT: Final = 2.5
ARC: Final = 24
"""A round head is drawn in so many pieces."""
FIRST: Final = 9.0
"""The string nearest to the wall stands this far from it, and the next as far from it, mm of paper."""
APART: Final = 3.5
"""Words along two studs can be read where they stand this far from one another, mm of paper."""
TICK: Final = 1.1
NARROW: Final = 4.5
"""Pieces narrower than this on paper have their mark beside them, turned, mm."""
SMALL: Final = 3.4
"""Words in a figure on a slip."""
LET_IN: Final[dict[str, str]] = {"board": "board let in, 1x4", "strap": "strap let in"}
FLANGE: Final = 38.1
"""Thickness of the plates of a box header, mm."""
UPRIGHT: Final = (kinds.WALL_STUD, kinds.KING, kinds.JACK, kinds.CRIPPLE)
FILLS: Final[dict[MemberKind, str]] = {
    kinds.WALL_HEADER: "timber",
    kinds.TOP_PLATE: "timber",
    kinds.BOTTOM_PLATE: "timber",
    kinds.ROUGH_SILL: "timber",
    kinds.GABLE_PLATE: "timber",
    kinds.RAKE_PLATE: "timber",
}


def framed_walls(checked: Checked) -> list[HostName]:
    """The walls that have a frame, in the order of the project."""
    there = {m.host for m in checked.structure.of(kinds.WALL_STUD)}
    return [h for w in checked.project.walls if (h := HostName("wall", w.id)) in there]


def pieces_of(checked: Checked, host: HostName) -> list[Member]:
    """The pieces of a wall's frame; a lintel is none."""
    every = kinds.those(lambda k: k.of_wall and not k.concrete)
    return checked.structure.in_host(host, *every)


def wall_elevation(
    checked: Checked, host: HostName, paper: float, seen: Seen = "outside", *, titled: bool = True
) -> Drawing:
    """The frame of a wall, seen from one of its sides.

    Args:
        checked: the building.
        host: the wall.
        paper: mm of building for one of paper.
        seen: from which side: lengths run to the right as one stands before it.
        titled: with its name under it, which on a sheet stands there anyway.
    """
    project = checked.project
    item = wall(project, host.key)
    pieces = pieces_of(checked, host)
    turned = _is_turned(item, seen)
    marks: list[Mark] = []
    for m in sorted(pieces, key=_order):
        marks += _piece(m, item, paper, turned=turned)
    marks += _marks_of(pieces, item, paper, turned=turned)
    marks += _openings(project, item, turned=turned)
    marks += _let_in(project, item, turned=turned)
    marks += _hold_downs(checked, item, paper, turned=turned)
    marks += _panels(checked, item, paper, turned=turned)
    marks += strings_of(checked, host, paper, seen)
    lowest = wall_base(project, item) + min(up for _, _, up in foot_floors(project, item))
    low = lowest - 6.0 * FIRST * paper
    words = f"{called(item)}, seen from {seen}"
    low_end, high_end = _along_of(item, turned=turned)
    if titled:
        marks.append(Label(words, ((low_end + high_end) / 2, low), 3.2, bold=True))
    return tuple(marks)


def strings_of(checked: Checked, host: HostName, paper: float, seen: Seen) -> Iterator[Mark]:
    """The strings under a wall's elevation and beside it."""
    project = checked.project
    item = wall(project, host.key)
    turned = _is_turned(item, seen)
    lowest = wall_base(project, item) + min(up for _, _, up in foot_floors(project, item))
    yield from _strings(project, item, pieces_of(checked, host), paper, lowest, turned=turned)
    yield from _heights(project, item, paper, turned=turned)


def frame_figure(checked: Checked, host: HostName) -> Drawing:
    """The frame of a wall seen from outside in a small figure, no wider than 92 and no higher than
    42: what is used too far stands out."""
    item = wall(checked.project, host.key)
    turned = _is_turned(item, "outside")
    rings = {m.id: _ring_of(m, item, turned=turned) for m in pieces_of(checked, host)}
    x0, z0, x1, z1 = box([p for ring in rings.values() for p in ring])
    scale = min(92.0 / (x1 - x0), 42.0 / (z1 - z0))
    left = 50.0 - (x1 - x0) * scale / 2
    marks: list[Mark] = []
    for key, ring in rings.items():
        over = is_over(checked.used[key][0]) if key in checked.used else False
        there = tuple((left + (x - x0) * scale, (z - z0) * scale) for x, z in ring)
        marks.append(Patch(there, "mark" if over else "timber", "hair", key))
    system = checked.project.system
    marks.append(Label(format_length(wall_length(item), system), (50.0, -6.0), SMALL, bold=True))
    height = format_length(z1 - z0, system)
    marks.append(Label(height, (left - 1.5, (z1 - z0) * scale / 2), SMALL, angle=90.0))
    return tuple(marks)


def way_seen(item: Wall, seen: Seen) -> Point:
    """Which way in plan lengths run to the right in the elevation of a wall."""
    x, y = direction_of(item)
    return (-x, -y) if _is_turned(item, seen) else (x, y)


def along_at(item: Wall, seen: Seen, x: float) -> float:
    """How far along a wall a place in its elevation lies, mm from its start."""
    return -x if _is_turned(item, seen) else x


def _is_turned(item: Wall, seen: Seen) -> bool:
    """Whether lengths along the wall run to the left: seen from the right of its line they run to the
    right."""
    from_right = (outside_of(item) == "right") == (seen == "outside")
    return not from_right


def _order(m: Member) -> tuple[int, str]:
    return (0 if m.kind in FILLS else 1, str(m.id))


def _along_of(item: Wall, *, turned: bool) -> tuple[float, float]:
    length = wall_length(item)
    return (-length, 0.0) if turned else (0.0, length)


def _box_of(m: Member, item: Wall, *, turned: bool) -> tuple[float, float, float, float]:
    """A piece in the elevation: from, to along it, and its two heights."""
    way = direction_of(item)
    ring = m.solid.outline
    origin = (m.solid.origin[0], m.solid.origin[1])
    base = dot(sub(origin, item.start), way)
    xs, zs = [base + x for x, _ in ring], [z for _, z in ring]
    low, high = min(xs), max(xs)
    if turned:
        low, high = -high, -low
    return low, min(zs), high, max(zs)


def _ring_of(m: Member, item: Wall, *, turned: bool) -> Ring:
    """The outline of a piece in the elevation."""
    base = dot(sub((m.solid.origin[0], m.solid.origin[1]), item.start), direction_of(item))
    sign = -1.0 if turned else 1.0
    ring = tuple((sign * (base + x), z) for x, z in m.solid.outline)
    return ring[::-1] if turned else ring


def _piece(m: Member, item: Wall, paper: float, *, turned: bool) -> Iterator[Mark]:
    x0, z0, x1, z1 = _box_of(m, item, turned=turned)
    fill: Fill = "timber" if m.kind in FILLS else "paper"
    yield Patch(_ring_of(m, item, turned=turned), fill, "seen", m.id)
    middle = ((x0 + x1) / 2, (z0 + z1) / 2)
    if m.kind is kinds.WALL_HEADER:
        yield from _inside_header(m, (x0, z0, x1, z1))
        fits = (x1 - x0) / paper >= len(m.section) * TEXT * 0.62
        at = (middle[0], middle[1] - TEXT / 2 * paper) if fits else (middle[0], z1 + 1.2 * paper)
        yield Label(m.section, at, TEXT, boxed=fits, key=m.id)
    elif m.kind is kinds.JACK and z1 - z0 > 200:
        yield Stroke(((x0, z1), (x1, z1 - (x1 - x0))), "hair", m.id)


def _inside_header(m: Member, box_: tuple[float, float, float, float]) -> Iterator[Mark]:
    """A built-up header is told apart from a plate by its diagonal, a box by its flanges."""
    x0, z0, x1, z1 = box_
    if m.section.startswith(BOX):
        for z in (z0 + FLANGE, z1 - FLANGE):
            yield Stroke(((x0, z), (x1, z)), "seen", m.id)
    else:
        yield Stroke(((x0, z0), (x1, z1)), "hair", m.id)


def _marks_of(
    pieces: Sequence[Member], item: Wall, paper: float, *, turned: bool
) -> Iterator[Mark]:
    """Marks of upright pieces beside them, where there is room before the next."""
    prefix = f"{item.id}-"
    upright = sorted(
        ((_box_of(m, item, turned=turned), m) for m in pieces if m.kind in UPRIGHT),
        key=lambda p: (p[0], p[1].mark),
    )
    for (box_, m), after in zip(upright, [b for b, _ in upright[1:]] + [None]):
        free = (after[0] if after is not None else box_[2] + 1e4) - box_[2]
        words = m.mark.removeprefix(prefix)
        long = len(words) * TEXT * 0.6 * paper
        if free < 1.7 * TEXT * paper or box_[3] - box_[1] < 1.4 * long:
            continue
        at = (box_[2] + 1.25 * TEXT * paper, box_[1] + 0.62 * (box_[3] - box_[1]))
        yield Label(words, at, TEXT, angle=90.0, quiet=True, key=m.id)


def _openings(project: Project, item: Wall, *, turned: bool) -> Iterator[Mark]:
    """Rough openings by their diagonals."""
    foot = wall_base(project, item)
    for hole in item.openings:
        low, high = hole.at, hole.at + hole.width
        if turned:
            low, high = -high, -low
        z0, z1 = foot + max(0.0, hole.sill), foot + hole.sill + hole.height
        name = ThingName("opening", item.id, hole.id)
        yield Patch(((low, z0), (high, z0), (high, z1), (low, z1)), "none", "none", name)
        yield Stroke(((low, z0), (high, z1)), "hidden")
        yield Stroke(((low, z1), (high, z0)), "hidden")
        if hole.rise:
            yield Stroke(tuple(_round_head(low, high, z1, hole.rise)), "seen", name)


def _round_head(low: float, high: float, crown: float, rise: float) -> Iterator[Point]:
    """Half an ellipse from where a round head springs over its crown."""
    for k in range(ARC + 1):
        turn = math.pi * k / ARC
        across = (low + high) / 2 - (high - low) / 2 * math.cos(turn)
        yield across, crown - rise + rise * math.sin(turn)


def _let_in(project: Project, item: Wall, *, turned: bool) -> Iterator[Mark]:
    """Boards let in or straps, by their middle."""
    foot, top = wall_base(project, item), wall_top(project, item)
    sign = -1.0 if turned else 1.0
    for brace in let_in_of(project, item).braces:
        ends = (brace.low, brace.high) if brace.rises else (brace.high, brace.low)
        yield Stroke(((sign * ends[0], foot), (sign * ends[1], top)), "centre")


def _panels(checked: Checked, item: Wall, paper: float, *, turned: bool) -> Iterator[Mark]:
    """Where the wall is divided into panels, over each its mark and weight, and the middle of its weight."""
    foot, top = wall_base(checked.project, item), wall_top(checked.project, item)
    sign = -1.0 if turned else 1.0
    mine = [p for p in panels_of(checked) if p.wall == item.id]
    for p in mine:
        ends = sorted((sign * p.low, sign * p.high))
        for x in ends:
            yield Stroke(((x, foot - 3 * paper), (x, top + 7 * paper)), "centre")
        words = f"panel {p.mark}  {format_force(p.weight, checked.project.system)}"
        room = (ends[1] - ends[0]) / paper > len(words) * TEXT * 0.58
        text = words if room else p.mark
        yield Label(text, ((ends[0] + ends[1]) / 2, top + 4 * paper), TEXT, bold=True)
        x, z = sign * p.middle[0], foot + p.middle[1]
        cross = 1.5 * paper
        yield Stroke(((x - cross, z), (x + cross, z)), "cut")
        yield Stroke(((x, z - cross), (x, z + cross)), "cut")


def _hold_downs(checked: Checked, item: Wall, paper: float, *, turned: bool) -> Iterator[Mark]:
    """What pulls up at the ends of its panels: an arrow at the foot and its force along the stud, but
    where two stand so near that one could not be read, or the wall is drawn too small for words."""
    way, foot = direction_of(item), wall_base(checked.project, item)
    sign = -1.0 if turned else 1.0
    low, high = _along_of(item, turned=turned)
    tall = wall_top(checked.project, item) - foot
    written: list[float] = []
    mine = [h for h in held_ends(checked) if h.wall == item.id]
    for held in sorted(mine, key=lambda h: -h.pulls):
        x = sign * dot(sub(held.at, item.start), way)
        x = min(max(x, low + paper), high - paper)
        tip = foot + 4.0 * paper
        yield Stroke(((x, foot), (x, tip)), "cut")
        yield Stroke(
            ((x - paper, tip - 1.6 * paper), (x, tip), (x + paper, tip - 1.6 * paper)), "cut"
        )
        words = format_force(held.pulls, checked.project.system)
        room = len(words) * TEXT * 0.56 * paper < tall / 3
        if room and all(abs(x - other) > APART * paper for other in written):
            written.append(x)
            middle = tip + (1.0 + len(words) * TEXT * 0.28) * paper
            yield Label(words, (x, middle), TEXT, angle=90.0, boxed=True)


def _strings(
    project: Project,
    item: Wall,
    pieces: Sequence[Member],
    paper: float,
    foot: float,
    *,
    turned: bool,
) -> Iterator[Mark]:
    """Below: studs by running lengths, rough openings, the whole."""
    system = project.system
    studs = [m for m in pieces if m.kind is kinds.WALL_STUD]
    boxes = [_box_of(m, item, turned=turned) for m in pieces]
    if not boxes:
        return
    first, last = min(b[0] for b in boxes), max(b[2] for b in boxes)
    middles = sorted((b[0] + b[2]) / 2 for b in (_box_of(m, item, turned=turned) for m in studs))
    yield from _running(first, middles, foot - FIRST * paper, paper, system)
    sides = [first, last]
    for hole in item.openings:
        low, high = hole.at, hole.at + hole.width
        sides += [-high, -low] if turned else [low, high]
    for at, _, _ in foot_floors(project, item)[1:]:
        sides.append(-at if turned else at)
    places = sorted({round(x, 3) for x in sides if first - 1 <= x <= last + 1})
    down = FIRST + _deep([x - first for x in middles], system)
    if len(places) > 2:
        yield from _chain(places, foot - down * paper, paper, system)
        down += FIRST
    yield from _chain([first, last], foot - down * paper, paper, system)


def _deep(lengths: Sequence[float], system: System) -> float:
    """How far running lengths, written upright, and the words of the next string reach down, mm of
    paper."""
    longest = max((len(format_run(x, system)) for x in lengths), default=0)
    return max(1.9 * FIRST, longest * TEXT * 0.57 + TEXT + 5.0)


def _running(
    first: float, places: Sequence[float], z: float, paper: float, system: System
) -> Iterator[Mark]:
    """Running lengths from one end to the middle of each stud, turned, where there is room for them."""
    if not places:
        return
    yield Stroke(((first, z), (places[-1], z)), "hair")
    told = -1e9
    for x in places:
        yield Stroke(((x, z - TICK * paper), (x, z + TICK * paper)), "seen")
        if x - told >= TEXT * 1.35 * paper:
            told = x
            text = format_run(x - first, system)
            yield Label(text, (x + 0.35 * TEXT * paper, z - 1.6 * paper), TEXT, "end", 90.0)


def _chain(places: Sequence[float], z: float, paper: float, system: System) -> Iterator[Mark]:
    """A string with a length between each two places; words that have no room stand lower."""
    yield Stroke(((places[0], z), (places[-1], z)), "hair", of_string=True)
    for x in places:
        slant = TICK * paper * 0.7
        yield Stroke(((x - slant, z - slant), (x + slant, z + slant)), "seen", of_string=True)
    lower = False
    for a, b in pairwise(places):
        text = format_length(b - a, system)
        room = (b - a) / paper
        fits = room >= len(text) * TEXT * 0.62
        lower = not fits and not lower
        down = -1.3 * TEXT - 0.6 if lower else 0.9
        measures = ((a, z), (b, z), (a, z))
        yield Label(text, ((a + b) / 2, z + down * paper), TEXT, measures=measures)


def _heights(project: Project, item: Wall, paper: float, *, turned: bool) -> Iterator[Mark]:
    """At the side: heads and sills of openings, and the whole height."""
    foot, top, system = wall_base(project, item), wall_top(project, item), project.system
    low, _ = _along_of(item, turned=turned)
    marks = {top - foot, *(round(up, 3) for _, _, up in foot_floors(project, item))}
    for hole in item.openings:
        marks |= {round(max(0.0, hole.sill), 3), round(hole.sill + hole.height, 3)}
    kept = sorted(z for z in marks if z <= top - foot + 1.0)
    x = low - FIRST * paper
    yield Stroke(((x, foot + kept[0]), (x, top)), "hair")
    yield Stroke(((x - 16 * paper, foot), (x - 15 * paper, foot)), "none")  # room for the words
    told = -1e9
    for z in kept:
        at: Point = (x, foot + z)
        yield Stroke(((x - TICK * paper, at[1]), (x + TICK * paper, at[1])), "seen")
        if z - told >= TEXT * 1.3 * paper:
            told = z
            words = format_length(z, system)
            yield Label(words, (x - 2 * paper, at[1] - TEXT / 2 * paper), TEXT, "end")
    for a, b, up in foot_floors(project, item):
        ends = ((-b, foot + up), (-a, foot + up)) if turned else ((a, foot + up), (b, foot + up))
        yield Stroke(ends, "cut")


def piece_list(checked: Checked, host: HostName) -> list[str]:
    """The pieces of a wall, alike ones together: how many, of what, how long; and what its arrows
    mean."""
    system = checked.project.system
    counts = Counter((m.role, m.section, round(m.length, 1)) for m in pieces_of(checked, host))
    rows = sorted(counts.items(), key=lambda c: (c[0][0], -c[0][2]))
    found = [
        f"{n} {role}, {section}, {format_length(length, system)}"
        for (role, section, length), n in rows
    ]
    item = wall(checked.project, host.key)
    found += [_round_words(o, system) for o in item.openings if o.rise]
    rule = rule_of(checked.project, item)
    for brace in let_in_of(checked.project, item).braces:
        assert rule is not None, "it has braces"
        found.append(f"1 {LET_IN[rule.let_in]}, {format_length(brace.length, system)}")
    found += [
        f"panel {p.mark}: {format_length(p.length, system)}, {format_force(p.weight, system)}"
        for p in panels_of(checked)
        if p.wall == item.id
    ]
    held = {h.combination: None for h in held_ends(checked) if h.wall == host.key}
    return [*found, *(f"arrows: hold-downs, {words}" for words in held)]


def _round_words(hole: Opening, system: System) -> str:
    """What fills the corners over a round head: two pieces of panel cut to it on both faces."""
    rise, half = format_run(hole.rise, system), format_run(hole.width / 2, system)
    return f"{hole.id}: round head, 4 corners of panel cut to {half} by {rise}"
