"""The foundation plan: slabs, footings hidden with their steps, walls cut, sills with their bolts;
heights and steps as notes."""

from collections.abc import Sequence
from math import atan2, cos, degrees, radians, sin
from typing import Final

from balken.drawing.cut import from_above
from balken.drawing.marks import Disc, Fill, Label, Mark, Patch, Pen, Stroke
from balken.drawing.outlines import outlines
from balken.framing import kinds
from balken.framing.hosts.runs import Step
from balken.framing.kinds import MemberKind
from balken.framing.member import Member
from balken.geometry.plane import Point, Ring, add, box, direction_or, distance, dot, left, sub
from balken.model.names import Name
from balken.units import System, format_length, format_run
from balken.works.building import Checked

BOLT: Final = 0.45
"""Radius of an anchor bolt on a plan, mm of paper."""
TEXT: Final = 2.5


def ground_marks(checked: Checked, members: Sequence[Member]) -> list[Mark]:
    """The lines of the foundation plan: what lies deeper hidden, walls cut."""
    there: dict[MemberKind, list[Member]] = {}
    for m in members:
        there.setdefault(m.kind, []).append(m)
    hidden = [m for kind in kinds.those(lambda k: k.strip) for m in there.get(kind, [])]
    stems, sills = there.get(kinds.STEM, []), there.get(kinds.SILL, [])
    return [
        *map(from_above, there.get(kinds.SLAB, [])),
        *_as_one(hidden, "none", "hidden"),
        *_as_one(stems, "concrete", "cut"),
        *map(from_above, there.get(kinds.CORBEL, [])),
        *(Stroke(_closed(v.plan()), "seen") for m in stems for v in m.voids),
        *map(from_above, sills),
        *(Disc(p, BOLT, "seen", m.id) for m in sills for p in bolt_places(checked, m)),
        *(mark for s in checked.structure.steps for mark in _step(s)),
    ]


def _step(s: Step) -> tuple[Mark, Mark]:
    line = Stroke(s.across, "cut" if s.held else "seen", s.key)
    return Patch(_round_line(s.across), "none", "none", s.key), line


def _as_one(members: Sequence[Member], fill: Fill, pen: Pen) -> list[Mark]:
    """Concrete that is cast together, with one line round it."""
    rings = [m.solid.plan() for m in members]
    bodies = [Patch(ring, fill, "none", m.id) for m, ring in zip(members, rings)]
    return [*bodies, *(Stroke(ring, pen) for ring in outlines(rings))]


def _closed(ring: Ring) -> tuple[Point, ...]:
    return (*ring, ring[0])


GRIP: Final = 80.0
"""A step can be picked this far beside its line, mm."""


def _round_line(line: tuple[Point, Point]) -> Ring:
    a, b = line
    side = left(direction_or(sub(b, a), (0.0, 1.0)))
    return (add(a, side, GRIP), add(b, side, GRIP), add(b, side, -GRIP), add(a, side, -GRIP))


def bolt_places(checked: Checked, sill: Member) -> list[Point]:
    """Where the anchor bolts of a sill stand in the plan."""
    bolts = checked.structure.bolts.get(sill.id)
    if bolts is None:
        return []
    start = (sill.start[0], sill.start[1])
    way = direction_or(sub((sill.end[0], sill.end[1]), start), (1.0, 0.0))
    return [add(start, way, at) for at in bolts.at]


class _Room:
    """Where words stand already, so that no word covers another."""

    def __init__(self, paper: float) -> None:
        self.paper = paper
        self.boxes: list[tuple[float, float, float, float]] = []

    def put(
        self,
        text: str,
        places: Sequence[Point],
        angle: float,
        size: float,
        key: Name,
        *,
        bold: bool = False,
        must: bool = False,
    ) -> list[Mark]:
        """The words at the first of some places where there is room; nothing where there is none, or
        the first place where they ``must`` stand: there the placer of words moves them."""
        wide, high = len(text) * size * 0.56 * self.paper, size * 1.5 * self.paper
        if abs(abs(angle) - 90.0) < 45.0:
            wide, high = high, wide
        boxes = [(x - wide / 2, y - high / 2, x + wide / 2, y + high / 2) for x, y in places]
        free = next((n for n, b in enumerate(boxes) if self._is_free(b)), 0 if must else None)
        if free is None:
            return []
        self.boxes.append(boxes[free])
        x, y = places[free]
        drop = size * 0.36 * self.paper  # words stand on their foot line
        turn = radians(angle)
        at = (x + drop * sin(turn), y - drop * cos(turn))
        return [Label(text, at, size, angle=angle, boxed=True, key=key, bold=bold, quiet=not bold)]

    def _is_free(self, box_: tuple[float, float, float, float]) -> bool:
        return all(
            box_[2] < b[0] or box_[0] > b[2] or box_[3] < b[1] or box_[1] > b[3] for b in self.boxes
        )


def ground_notes(checked: Checked, members: Sequence[Member], paper: float) -> list[Mark]:
    """Heights of bottoms, rises of steps, slabs and pads in words, at a scale; words that
    find no room are left out."""
    system = checked.project.system
    room = _Room(paper)
    slabs = [m for m in members if m.kind is kinds.SLAB]
    feet = [m for m in members if m.kind in (kinds.FOOTING, kinds.EDGE, kinds.GRADE_BEAM)]
    centre = _centre(feet or slabs)
    marks: list[Mark] = []
    for m in slabs:
        marks += _slab_note(room, m, system)
    for pad in checked.structure.of(kinds.PAD):
        marks += _pad_note(room, pad, system)
    for step in checked.structure.steps:
        marks += _step_note(room, step, centre, system)
    for m in feet:
        bottom = format_length(m.solid.bounds()[0][2], system)
        marks += _along(room, m, f"{m.host.key}  bottom {bottom}", centre)
    return marks


def _slab_note(room: "_Room", m: Member, system: System) -> list[Mark]:
    x0, y0, x1, y1 = box(m.solid.plan())
    x = (x0 + x1) / 2
    places = [(x, y0 + (y1 - y0) * share) for share in (0.5, 0.3, 0.7)]
    under = [(x, y - 3.6 * room.paper) for _, y in places]
    return [
        *room.put(f"slab {m.section}", places, 0.0, 2.5, m.id, bold=True),
        *room.put(f"top {format_length(m.solid.top(), system)}", under, 0.0, TEXT, m.id),
    ]


def _pad_note(room: "_Room", pad: Member, system: System) -> list[Mark]:
    x0, y0, x1, y1 = box(pad.solid.plan())
    x, bottom = (x0 + x1) / 2, format_length(pad.solid.bounds()[0][2], system)
    heads = [(x, y1 + 5.4 * room.paper), (x, y0 - 2.4 * room.paper)]
    under = [(p[0], p[1] - 3.0 * room.paper) for p in heads]
    return [
        *room.put(f"{pad.mark}  {pad.section}", heads, 0.0, TEXT, pad.id, bold=True, must=True),
        *room.put(f"bottom {bottom}", under, 0.0, TEXT, pad.id),
    ]


def _step_note(room: "_Room", step: Step, centre: Point, system: System) -> list[Mark]:
    a, b = step.across
    if distance(a, centre) > distance(b, centre):
        a, b = b, a
    way = direction_or(sub(b, a), (0.0, 1.0))
    text = f"step {format_run(abs(step.drop), system)}{', held' if step.held else ''}"
    reach = len(text) * TEXT * 0.28 * room.paper + 1.2 * room.paper
    beside = [add(a, way, -reach), add(b, way, reach)]
    return list(room.put(text, beside, _upright(way), TEXT, step.key))


def _centre(members: Sequence[Member]) -> Point:
    points = [p for m in members for p in m.solid.plan()]
    if not points:
        return (0.0, 0.0)
    x0, y0, x1, y1 = box(points)
    return ((x0 + x1) / 2, (y0 + y1) / 2)


def _upright(way: Point) -> float:
    """The angle words along a direction are read at, from below or from the right."""
    return (degrees(atan2(way[1], way[0])) + 89.9) % 180 - 89.9


def _along(room: _Room, m: Member, text: str, centre: Point) -> list[Mark]:
    """Words along a footing, outside its outer edge or else inside; none where it is too
    short for them."""
    a, b = (m.start[0], m.start[1]), (m.end[0], m.end[1])
    if len(text) * TEXT * 0.56 * room.paper > distance(a, b):
        return []
    way = direction_or(sub(b, a), (1.0, 0.0))
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    normal = left(way)
    if dot(sub(middle, centre), normal) < 0:
        normal = (-normal[0], -normal[1])
    out = max(dot(sub(p, middle), normal) for p in m.solid.plan()) + 2.0 * room.paper
    shifts = (0.0, 0.18 * distance(a, b), -0.18 * distance(a, b))
    places = [add(add(middle, normal, sign * out), way, s) for sign in (1.0, -1.0) for s in shifts]
    return room.put(text, places, _upright(way), TEXT, m.id)
