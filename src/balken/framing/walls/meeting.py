"""How the frames of walls meet: at a corner one runs through and the other stops at it, at a tee one ends
at the side of the other; cap plates lap over where studs stop."""

from collections.abc import Sequence
from typing import Final, NamedTuple

from balken.framing.walls.face import Meets
from balken.geometry.plane import Point, add, dot, left, meet, parallel, sub
from balken.model.walls import Wall, direction_of
from balken.site.bodies import corner_partner, tee_partner


class Band(NamedTuple):
    """The stud layer of a wall: its wall, and how far its two faces lie to the left of the wall's
    line, mm."""

    wall: Wall
    near: float
    far: float
    foot: float = 0.0
    top: float = 0.0
    """Heights, mm."""

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
    tees: tuple[tuple[float, float, bool], ...]


def ends_of(band: Band, others: Sequence[Band]) -> Ends:
    """The stretch of a wall that its frame fills.

    Args:
        band: the wall's stud layer.
        others: those of the walls near it, in the order of the project: of two that meet at a corner
            the first runs through.
    """
    others = sorted(others, key=lambda b: abs(b.top - band.top) > LEVEL)
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
        back = corner_partner(other.wall, corner[1], corner[2], walls)
        if back is None or back[0].id != band.wall.id:
            return faces[-1], Meets()  # three walls meet: the other makes its corner with the third
        if order[band.wall.id] < order[other.wall.id]:
            # It runs through to the far face; the other's cap laps over it.
            return faces[0], Meets(cap=-other.width * _laps(band, other), backed=other.width)
        return faces[-1], Meets(cap=other.width * _laps(band, other))
    tee = tee_partner(band.wall, place, away, walls)
    if tee is not None:
        faces = sorted(_faces(band, place, away, by_id[tee.id]))
        if faces:
            other = by_id[tee.id]
            return faces[-1], Meets(cap=other.width * _laps(band, other))
    return 0.0, Meets()


LEVEL: Final = 1.0
"""Walls whose tops differ by less end at one height, mm."""


def _laps(a: Band, b: Band) -> bool:
    """Whether the cap plates of two walls lie at one height."""
    return abs(a.top - b.top) < LEVEL


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


def _tees(band: Band, by_id: dict[str, Band]) -> list[tuple[float, float, bool]]:
    """Where walls end at the side of this one, along its line, how wide they are, and whether their cap
    plates lap over."""
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
                at = dot(sub(middle, wall.start), way)
                found.append((at, other.width, _laps(band, other)))
    return found
