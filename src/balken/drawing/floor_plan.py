"""Floors and roofs in plan: joists, headers and blocks, beams over or under them, openings, and
what is said of them."""

from collections.abc import Sequence
from math import atan2, cos, degrees, inf, radians, sin
from typing import Final

from balken.drawing.cut import from_above
from balken.drawing.kinds import DRAWN
from balken.drawing.marks import Disc, Fill, Label, Mark, Patch, Pen, Stroke, readable
from balken.drawing.tiers import Tier
from balken.drawing.words import pretty
from balken.framing import kinds
from balken.framing.hosts.floor_bearing import holes_of
from balken.framing.member import Member
from balken.framing.pieces import ring_of
from balken.framing.rolled import is_rolled
from balken.geometry.plane import Point, add, box, distance, left, middle_of, sub, unit
from balken.model.catalogue import sections_of
from balken.model.floors import FloorArea
from balken.model.names import HostName, Name, ThingName
from balken.units import format_length, format_run
from balken.works.building import Checked

OPENING_WORDS: Final = {
    "stair": "stair up",
    "shaft": "shaft",
    "chimney": "chimney",
    "atrium": "open below",
}
SYMBOL: Final = 16.0
"""The span symbol is at least so long, mm of paper."""
MOST_MARKS: Final = 120
"""More beams than this are not named on a plan."""


def floor_marks(checked: Checked, members: list[Member]) -> list[Mark]:
    """The members of a floor or roof with what lies under them: dropped beams dashed through
    what lies on them."""
    beams = [m for m in members if m.kind is kinds.BEAM]
    foot = _underside(members)
    under = [m for m in beams if m.solid.top() <= foot]
    over = [m for m in beams if m.solid.top() > foot]
    return [
        *_slabs(members),
        *_beams(checked, under, "none"),
        *_laid(members),
        *_beams(checked, over, "cut"),
        *(mark for m in under for mark in _dashed(m)),
        *_by_hand(members),
        *_holes(checked, members),
    ]


def _beams(checked: Checked, beams: list[Member], pen: Pen) -> list[Mark]:
    sections = sections_of(checked.project.system, checked.project.products)

    def fill(m: Member) -> Fill:
        return "steel" if is_rolled(sections.get(m.section)) else "timber"

    return [Patch(ring_of(m), fill(m), pen, m.id) for m in beams]


def _by_hand(members: list[Member]) -> list[Mark]:
    """A dot on each piece that was changed by hand."""
    return [Disc(_middle(m), 0.9, "cut", m.id) for m in members if m.touched]


def _slabs(members: list[Member]) -> list[Mark]:
    """Slabs with their openings."""
    found: list[Mark] = []
    for m in (m for m in members if m.kind is kinds.FLOOR_SLAB):
        found += [from_above(m), *(Patch(v.plan(), "paper", "seen", m.id) for v in m.voids)]
    return found


def _laid(members: list[Member]) -> list[Mark]:
    """What lies on beams and walls, each kind with its line."""
    found: list[Mark] = []
    for m in members:
        drawn = DRAWN[m.kind]
        if not drawn.covers and m.kind not in (kinds.FLOOR_SLAB, kinds.BEAM):
            found.append(Patch(_outline(m), drawn.fill, drawn.pen, m.id))
    return found


def _dashed(beam: Member) -> list[Mark]:
    a, b, c, d = ring_of(beam)
    return [Stroke((a, b), "hidden", beam.id), Stroke((d, c), "hidden", beam.id)]


def _holes(checked: Checked, members: list[Member]) -> list[Mark]:
    """The openings of the floors of some members, crossed out."""
    found: list[Mark] = []
    for floor in _floors_of(checked, members):
        for hole in holes_of(checked.built, floor):
            key = ThingName("hole", floor.id, hole.key)
            found += [Patch(hole.ring, "none", "none", key), *crossed(hole.ring, key)]
    return found


def _middle(m: Member) -> Point:
    return (m.start[0] + m.end[0]) / 2, (m.start[1] + m.end[1]) / 2


def _outline(m: Member) -> tuple[Point, ...]:
    return m.solid.plan() if m.carrier.slope else ring_of(m)


def _underside(members: list[Member]) -> float:
    """What beams that lie under joists and slabs do not reach over, mm; none does where there are none."""
    lowest = min(
        (
            o.solid.origin[2] if o.kind is kinds.FLOOR_SLAB else min(z for _, z in o.solid.outline)
            for o in members
            if o.kind in (kinds.JOIST, kinds.FLOOR_SLAB)
        ),
        default=None,
    )
    return lowest + 10.0 if lowest is not None else -inf


def _floors_of(checked: Checked, members: list[Member]) -> list[FloorArea]:
    hosts = {m.host for m in members}
    return [f for f in checked.project.floors if HostName("floor", f.id) in hosts]


def crossed(ring: tuple[Point, ...], key: Name) -> list[Mark]:
    """An opening's outline with its two diagonals, as openings are drawn."""
    closed = Stroke((*ring, ring[0]), "seen", key)
    if len(ring) == 4:
        return [
            closed,
            Stroke((ring[0], ring[2]), "beyond", key),
            Stroke((ring[1], ring[3]), "beyond", key),
        ]
    return [closed]


def floor_notes(checked: Checked, tier: Tier, paper: float) -> list[Mark]:
    """What is said on the plan of a floor: the span of each area, its openings, the marks of
    its beams."""
    found: list[Mark] = []
    for host in tier.hosts:
        if host.kind in ("floor", "roof"):
            found += _span_note(checked, host, paper)
    if tier.kind == "floor":
        found += _hole_notes(checked, tier.hosts)
    found += _clear_of(found, _beam_notes(checked, tier.hosts, paper), paper)
    return found


def _clear_of(before: list[Mark], labels: list[Label], paper: float) -> list[Label]:
    """Labels that lie on no other, the first of each pair kept."""
    taken = [room(m, paper) for m in before if isinstance(m, Label)]
    kept = []
    for label in labels:
        x0, y0, x1, y1 = room(label, paper)
        if all(x1 < a or x0 > c or y1 < b or y0 > d for a, b, c, d in taken):
            taken.append((x0, y0, x1, y1))
            kept.append(label)
    return kept


def room(label: Label, paper: float) -> tuple[float, float, float, float]:
    """The box a label takes up on the plan, mm of building, turned ones by their hull."""
    long, tall = len(label.text) * label.size * 0.55 * paper, label.size * 1.4 * paper
    shift = long / 2 if label.anchor == "start" else -long / 2 if label.anchor == "end" else 0.0
    turn = radians(label.angle)
    wide = abs(cos(turn)) * long + abs(sin(turn)) * tall
    high = abs(sin(turn)) * long + abs(cos(turn)) * tall
    x, y = label.at[0] + shift, label.at[1] + tall / 3
    return x - wide / 2, y - high / 2, x + wide / 2, y + high / 2


def _hole_notes(checked: Checked, hosts: Sequence[HostName]) -> list[Mark]:
    found: list[Mark] = []
    for floor in checked.project.floors:
        if HostName("floor", floor.id) in hosts:
            for hole in holes_of(checked.built, floor):
                x0, y0, x1, y1 = box(hole.ring)
                key = ThingName("hole", floor.id, hole.key)
                at = ((x0 + x1) / 2, (y0 + y1) / 2)
                found.append(
                    Label(OPENING_WORDS[hole.use], at, 2.5, boxed=True, quiet=True, key=key)
                )
    return found


def _beam_notes(checked: Checked, hosts: Sequence[HostName], paper: float) -> list[Label]:
    """Each beam's mark with its section, along it; of a bay only on its middle beam."""
    beams = [m for m in checked.structure.members if m.kind is kinds.BEAM and m.host in hosts]
    bays: dict[HostName, list[Member]] = {}
    for m in beams:
        if m.host.kind == "bay":
            bays.setdefault(m.host, []).append(m)
    named = [(m, m.mark, "  ") for m in beams if m.host.kind == "beam"]
    named += [(ms[len(ms) // 2], f"{h.key}  {len(ms)}", " × ") for h, ms in bays.items()]
    return [
        _beam_note(m, mark, f"{mark}{between}{pretty(m.section)}", paper)
        for m, mark, between in named[:MOST_MARKS]
    ]


def _beam_note(m: Member, short: str, text: str, paper: float) -> Label:
    """What is written along a beam; only its mark where it is too short for more."""
    a, b = m.start[:2], m.end[:2]
    way = readable(unit(sub(b, a)))
    words = text if len(text) * 1.25 * paper <= distance(a, b) else short
    at = add(middle_of(a, b), left(way), m.solid.depth / 2 + 1.8 * paper)
    return Label(words, at, 2.5, angle=degrees(atan2(way[1], way[0])), boxed=True, key=m.id)


def _span_note(checked: Checked, host: HostName, paper: float) -> list[Mark]:
    """Draw the span symbol with size and spacing, in the largest clear field of the members."""
    sized = checked.sizes.get(host)
    pieces = [m for m in checked.structure.members if m.host == host and m.carrier.area > 0]
    if sized is None or not pieces:
        return []
    _, middle = max(
        enumerate(pieces), key=lambda p: (round(p[1].carrier.run), -abs(p[0] - len(pieces) / 3))
    )
    a: Point = (middle.carrier.start[0], middle.carrier.start[1])
    b: Point = (middle.carrier.end[0], middle.carrier.end[1])
    way = unit(sub(b, a))
    side = left(way)
    # Over a short span the symbol reaches past it, so that it can be seen and taken hold of.
    half = max(0.36 * distance(a, b), SYMBOL * paper / 2)
    centre = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    p, q = add(centre, way, -half), add(centre, way, half)
    system = checked.project.system
    head = 2.2 * paper
    key = ThingName("span", host.key, host.kind)
    marks: list[Mark] = [
        Stroke((p, q), "cut", key),
        Stroke((add(add(p, way, head), side, head * 0.45), p), "cut", key),
        Stroke((add(add(q, way, -head), side, -head * 0.45), q), "cut", key),
    ]
    centre = ((p[0] + q[0]) / 2, (p[1] + q[1]) / 2)
    right = (1.0, 0.0) if abs(way[1]) > abs(way[0]) else (0.0, 1.0)
    at = add(centre, right, 2.5 * paper)
    section = (
        f"{host.key}  {pretty(sized.size.section)} at {format_run(sized.size.spacing, system)}"
    )
    marks.append(
        Label(section, add(at, (0, 1), 0.4 * paper), 2.8, "start", bold=True, boxed=True, key=host)
    )
    words = f"span {format_length(sized.span, system)}" if sized.span else "no span"
    marks.append(
        Label(words, add(at, (0, 1), -3.2 * paper), 2.5, "start", quiet=True, boxed=True, key=host)
    )
    return marks
