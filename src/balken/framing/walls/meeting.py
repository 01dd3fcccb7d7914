"""How the frames of walls meet: at a corner one runs through and the other stops at it, at a tee one ends
at the side of the other; cap plates lap over where studs stop."""

from collections.abc import Sequence
from typing import NamedTuple

from balken.framing.walls.layout import Meets
from balken.geometry.plane import Point, add, dot, left, meet, parallel, sub
from balken.model.walls import Wall, direction_of
from balken.site.bodies import corner_partner, tee_partner


class Band(NamedTuple):
    """The stud layer of a wall: its wall, and how far its two faces lie to the left of the wall's
    line, mm."""

    wall: Wall
    near: float
    far: float

    @property
    def width(self) -> float:
        """mm."""
        return self.far - self.near

    @property
    def middle(self) -> float:
        """To the left of the wall's line, mm."""
        return (self.near + self.far) / 2


class Ends(NamedTuple):
    """Where a wall's frame begins and ends along its line, and how it meets others."""

    low: float
    high: float
    start: Meets
    end: Meets
    tees: tuple[tuple[float, float], ...]


def ends_of(band: Band, others: Sequence[Band]) -> Ends:
    """The stretch of a wall that its frame fills.

    Args:
        band: the wall's stud layer.
        others: those of the walls near it, in the order of the project: of two that meet at a corner
            the first runs through.
    """
    wall = band.wall
    way = direction_of(wall)
    by_id = {b.wall.id: b for b in (*others, band)}
    order = {b.wall.id: i for i, b in enumerate(sorted(by_id.values(), key=lambda b: b.wall.id))}
    low, start = _end(band, wall.start, way, by_id, order)
    high, end = _end(band, wall.end, (-way[0], -way[1]), by_id, order)
    length = dot(sub(wall.end, wall.start), way)
    tees = tuple(sorted(_tees(band, by_id)))
    return Ends(low, length - high, start, end, tees)


def _end(
    band: Band, place: Point, away: Point, by_id: dict[str, Band], order: dict[str, int]
) -> tuple[float, Meets]:
    """How far inside the end of its line a frame ends (less than nothing beyond it), and how it meets
    what stands there. ``away`` looks from the end into the wall."""
    walls = tuple(b.wall for b in by_id.values())
    corner = corner_partner(band.wall, place, away, walls)
    if corner is not None:
        other = by_id[corner[0].id]
        faces = sorted(_faces(band, place, away, other))
        if not faces:
            return 0.0, Meets()
        if order[band.wall.id] < order[other.wall.id]:
            # It runs through to the far face; the other's cap laps over it.
            return faces[0], Meets(cap=-other.width, backed=other.width)
        return faces[-1], Meets(cap=other.width)
    tee = tee_partner(band.wall, place, away, walls)
    if tee is not None:
        faces = sorted(_faces(band, place, away, by_id[tee.id]))
        if faces:
            return faces[-1], Meets(cap=by_id[tee.id].width)
    return 0.0, Meets()


def _faces(band: Band, place: Point, away: Point, other: Band) -> list[float]:
    """How far from an end, along ``away``, both faces of another stud layer cross this one: for a
    square cut the place nearest into the wall of both its edges."""
    way, found = direction_of(band.wall), []
    across = direction_of(other.wall)
    for face in (other.near, other.far):
        through = add(other.wall.start, left(across), face)
        hits = []
        for edge in (band.near, band.far):
            line = add(place, left(way), edge)
            hit = meet(line, away, through, across)
            if hit is not None:
                hits.append(dot(sub(hit, line), away))
        if hits:
            found.append(max(hits))
    return found


def _tees(band: Band, by_id: dict[str, Band]) -> list[tuple[float, float]]:
    """Where walls end at the side of this one, along its line, and how wide they are."""
    wall = band.wall
    way, found = direction_of(wall), []
    walls = tuple(b.wall for b in by_id.values())
    for other in by_id.values():
        if other.wall.id == wall.id or parallel(direction_of(other.wall), way):
            continue
        theirs = direction_of(other.wall)
        for place, away in ((other.wall.start, theirs), (other.wall.end, (-theirs[0], -theirs[1]))):
            if corner_partner(other.wall, place, away, walls) is not None:
                continue
            met = tee_partner(other.wall, place, away, walls)
            if met is not None and met.id == wall.id:
                middle = add(place, left(theirs), other.middle)
                found.append((dot(sub(middle, wall.start), way), other.width))
    return found
