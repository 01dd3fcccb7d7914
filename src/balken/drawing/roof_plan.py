"""Marks of a roof's plan: its framing, the lines of its planes, which way they fall, its
skylights."""

from collections.abc import Sequence
from itertools import pairwise
from math import atan2, degrees
from typing import Final

from balken.drawing.floor_plan import crossed, floor_marks, room
from balken.drawing.marks import Label, Mark, Patch, Stroke, readable
from balken.framing import kinds
from balken.framing.member import Member
from balken.framing.roofs.shape import Edge, Placed, placed_opening
from balken.geometry.plane import Point, Ring, add, box, distance, left, middle_of, sub, unit
from balken.geometry.roof_lines import roof_lines
from balken.geometry.roof_planes import Face, Roof
from balken.model.names import HostName, ThingName
from balken.recall import remembered_piece
from balken.units.pitch import format_pitch
from balken.works.building import Checked

SIDE_BAND: Final = 250.0
"""A side of a roof is picked so near to its eave, mm."""
LEAST_PLANE: Final = 2e6
"""A smaller plane gets no arrow, mm²."""


def roof_marks(checked: Checked, hosts: Sequence[HostName], members: list[Member]) -> list[Mark]:
    """The framing of roofs with the lines of their planes over it; eaves and skylights can
    be picked."""
    found: list[Mark] = []
    for host in hosts:
        shape = checked.structure.roofs.get(host)
        if shape is not None:
            found += [_band(host, edge) for edge in shape.edges]
    found += floor_marks(checked, members)
    for kind, start, end in lines_seen(
        tuple(f for h in hosts for f in checked.structure.seen.get(h, ()))
    ):
        line = Stroke((start, end), "hidden" if kind in ("valley", "hip") else "beyond")
        if kind in ("eave", "rake", "top", "valley"):
            found.append(line)
    for host, item in openings_of(checked, hosts):
        found += [
            Patch(item.ring, "none", "none", ThingName("skylight", host.key, item.key)),
            *crossed(item.ring, ThingName("skylight", host.key, item.key)),
        ]
    return found


@remembered_piece
def lines_seen(faces: tuple[Face, ...]) -> tuple[tuple[str, Point, Point], ...]:
    """The lines of planes that are seen together, in plan."""
    return tuple((x.kind, x.start[:2], x.end[:2]) for x in roof_lines(Roof(faces, 0.0)))


def openings_of(checked: Checked, hosts: Sequence[HostName]) -> list[tuple[HostName, Placed]]:
    """The skylights that lie on planes, with their roof's host."""
    found = []
    for roof in checked.project.roofs:
        host = HostName("roof", roof.id)
        if host in hosts and host in checked.structure.roofs:
            placed = (placed_opening(checked.structure.roofs[host], o) for o in roof.openings)
            found += [(host, p) for p in placed if isinstance(p, Placed)]
    return found


def _band(host: HostName, edge: Edge) -> Patch:
    """The strip along a side by which it is picked: from its eave to its wall."""
    n = left(unit(sub(edge.b, edge.a)))
    out = max(edge.out, SIDE_BAND)
    ring = (
        add(edge.a, n, -out),
        add(edge.b, n, -out),
        add(edge.b, n, SIDE_BAND / 2),
        add(edge.a, n, SIDE_BAND / 2),
    )
    return Patch(ring, "none", "none", ThingName("side", host.key, edge.name))


def roof_notes(
    checked: Checked, hosts: Sequence[HostName], paper: float, before: Sequence[Mark] = ()
) -> list[Mark]:
    """An arrow down every plane with its pitch, clear of the labels before it, and the word
    at each skylight."""
    found: list[Mark] = []
    taken = [room(m, paper) for m in before if isinstance(m, Label)]
    for face in (f for host in hosts for f in checked.structure.seen.get(host, ())):
        if face.pitch > 1e-9 and _area(face.outline) > LEAST_PLANE:
            found += _arrow(checked, face, paper, taken)
    return found + _skylight_words(checked, hosts)


MOST_TRUSSES: Final = 200
"""More are not marked on one plan."""


def truss_marks(checked: Checked, hosts: Sequence[HostName], paper: float) -> list[Mark]:
    """The mark of each truss beside it near its left or lower end, as on its own sheet; none where they lie
    too close on paper to be told apart."""
    chords: dict[tuple[HostName, str], Member] = {}
    for m in checked.structure.of(kinds.BOTTOM_CHORD):
        if m.host in hosts and m.host in checked.trusses:
            chords.setdefault((m.host, m.id.row), m)
    middles = [middle_of(m.start[:2], m.end[:2]) for m in chords.values()]
    gaps = sorted(distance(a, b) for a, b in pairwise(middles))
    if gaps and gaps[len(gaps) // 2] < APART * paper:
        return []
    found: list[Mark] = []
    for (_, row), m in list(chords.items())[:MOST_TRUSSES]:
        a, b = sorted((m.start[:2], m.end[:2]))
        way = readable(unit(sub(b, a)))
        at = add(add(a, unit(sub(b, a)), FROM_END * paper), left(way), 0.8 * paper)
        angle = degrees(atan2(way[1], way[0]))
        found.append(Label(row, at, 2.5, angle=angle, boxed=True, key=m.id))
    return found


APART: Final = 4.5
"""Trusses that lie closer are not marked, mm of paper."""
FROM_END: Final = 16.0
"""Marks of trusses stand so far from their ends, mm of paper."""


def _skylight_words(checked: Checked, hosts: Sequence[HostName]) -> list[Mark]:
    """What each skylight is, in its middle."""
    uses = {
        (HostName("roof", r.id), o.id): o.use for r in checked.project.roofs for o in r.openings
    }
    found: list[Mark] = []
    for host, item in openings_of(checked, hosts):
        x0, y0, x1, y1 = box(item.ring)
        key, middle = ThingName("skylight", host.key, item.key), ((x0 + x1) / 2, (y0 + y1) / 2)
        use = uses.get((host, item.key), "")
        found.append(Label(use, middle, 2.5, boxed=True, quiet=True, key=key))
    return found


def _area(ring: Ring) -> float:
    x0, y0, x1, y1 = box(ring)
    return (x1 - x0) * (y1 - y0)


ASIDE: Final = (0.0, -9.0, 9.0, -18.0, 18.0, -27.0, 27.0)
"""How far beside the middle of a plane its arrow may stand, mm of paper."""


def _arrow(
    checked: Checked, face: Face, paper: float, taken: list[tuple[float, float, float, float]]
) -> list[Mark]:
    from shapely import LineString, Polygon

    down = (-face.plane[0] / face.pitch, -face.plane[1] / face.pitch)
    side, shape = left(down), Polygon(face.outline, face.holes)
    spot = shape.centroid
    half, head = 5.0 * paper, 1.8 * paper
    text = format_pitch(face.pitch * 12, checked.project.system)
    for aside in ASIDE:
        centre = add((spot.x, spot.y), side, aside * paper)
        tail, tip = add(centre, down, -half), add(centre, down, half)
        label = Label(text, add(tail, down, -2.6 * paper), 2.5, boxed=True, quiet=True)
        x0, y0, x1, y1 = room(label, paper)
        x0, x1 = min(x0, tail[0], tip[0]), max(x1, tail[0], tip[0])
        y0, y1 = min(y0, tail[1], tip[1]), max(y1, tail[1], tip[1])
        free = all(x1 < a or x0 > c or y1 < b or y0 > d for a, b, c, d in taken)
        if free and shape.contains(LineString([tail, tip])):
            taken.append((x0, y0, x1, y1))
            wings = [add(add(tip, down, -head), side, s * head * 0.4) for s in (1, -1)]
            return [
                Stroke((tail, tip), "seen"),
                Patch((tip, wings[0], wings[1]), "ink", "none"),
                label,
            ]
    return []
