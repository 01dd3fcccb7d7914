"""The one kind of body members are made of: a flat outline pushed along its normal.

A joist, a rafter with its birdsmouth, a mitred piece of footing: each is the outline of one face
and a thickness. Where the end is bevelled - a jack against its hip, a hip backed to both roof
planes - the corners shift on the way across. Corners, volume, the drawing, the 3D view and the IFC
body all come from it, so they cannot disagree.
"""

from itertools import pairwise
from typing import Final

import msgspec

from balken.geometry.plane import EXACT, Point, Ring, distance, signed_area

Vector = tuple[float, float, float]

UPRIGHT: Final = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0))
"""The axes of an outline that lies in plan."""


class Extrusion(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """A body: ``outline`` in the plane of ``u`` and ``v`` through ``origin``, pushed by ``depth``
    along ``u × v``.

    ``u`` and ``v`` are unit vectors square to each other; outline counter-clockwise; all lengths
    mm.
    """

    origin: Vector
    u: Vector
    v: Vector
    outline: Ring
    depth: float
    across: tuple[tuple[float, Ring], ...] = ()
    """Where corners shift: how far across, and the outline there with as many corners; the last at
    ``depth``."""

    @property
    def normal(self) -> Vector:
        """The direction of the thickness."""
        return cross3(self.u, self.v)

    @property
    def volume(self) -> float:
        """Volume in mm³: between two outlines the area goes with the square of the way, so
        Simpson's rule is exact."""
        if not self.across:
            return abs(signed_area(self.outline)) * self.depth
        total = 0.0
        for (s, near), (t, far) in pairwise(((0.0, self.outline), *self.across)):
            middle = [((a + c) / 2, (b + d) / 2) for (a, b), (c, d) in zip(near, far)]
            total += (
                (t - s)
                / 6
                * (abs(signed_area(near)) + 4 * abs(signed_area(middle)) + abs(signed_area(far)))
            )
        return total

    def faces(self) -> tuple[list[Vector], list[Vector]]:
        """The near and the far face as points in space."""
        rings = self.rings()
        return rings[0], rings[-1]

    def rings(self) -> list[list[Vector]]:
        """The outlines across the body as points in space, from the near face to the far
        one."""
        (ox, oy, oz), (ux, uy, uz), (vx, vy, vz) = self.origin, self.u, self.v
        near = [
            (ox + a * ux + b * vx, oy + a * uy + b * vy, oz + a * uz + b * vz)
            for a, b in self.outline
        ]
        nx, ny, nz = self.normal
        if not self.across:
            d = self.depth
            return [near, [(x + d * nx, y + d * ny, z + d * nz) for x, y, z in near]]
        found = [near]
        for d, ring in self.across:
            px, py, pz = ox + d * nx, oy + d * ny, oz + d * nz
            found.append(
                [
                    (px + a * ux + b * vx, py + a * uy + b * vy, pz + a * uz + b * vz)
                    for a, b in ring
                ]
            )
        return found

    def points(self) -> list[Vector]:
        """All corners."""
        return [p for ring in self.rings() for p in ring]

    def bounds(self) -> tuple[Vector, Vector]:
        """The least and the greatest corner."""
        if (self.u, self.v) == UPRIGHT:  # as nearly all concrete is
            ox, oy, oz = self.origin
            along, across = zip(*self.outline)
            low, high = (ox + min(along), oy + min(across)), (ox + max(along), oy + max(across))
            return (*low, oz), (*high, oz + self.depth)
        xs, ys, zs = zip(*self.points())
        return (min(xs), min(ys), min(zs)), (max(xs), max(ys), max(zs))

    def top(self) -> float:
        """The greatest height; what ``bounds`` would give, at a tenth of its work."""
        if self.across:
            return max([p[2] for p in self.points()])
        if self.v == (0.0, 0.0, 1.0) and not self.u[2]:  # a side view: a joist, a beam
            return self.origin[2] + max([z for _, z in self.outline])
        if self.u == (1.0, 0.0, 0.0) and self.v == (0.0, 1.0, 0.0):
            return self.origin[2] + self.depth
        rise = max(a * self.u[2] + b * self.v[2] for a, b in self.outline)
        return self.origin[2] + rise + max(0.0, self.depth * self.normal[2])

    def plan(self) -> Ring:
        """The outline as seen from above: the hull of the body's corners, which for prisms
        is exact."""
        if abs(self.normal[2]) > 0.999 and not self.across:
            return tuple((p[0], p[1]) for p in self.rings()[0])
        return hull([(p[0], p[1]) for p in self.points()])


def upright(ring: Ring, bottom: float, top: float) -> Extrusion:
    """The body on a plan outline between two heights."""
    if signed_area(ring) < 0:
        ring = ring[::-1]
    return Extrusion((0.0, 0.0, bottom), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0), ring, top - bottom)


def side_profile(start: Point, direction: Point, outline: Ring, thickness: float) -> Extrusion:
    """A body whose side view is ``outline`` (run along ``direction``, height z), centred on
    the line in plan.

    Args:
        start: plan point where the run is zero.
        direction: unit direction of the run in plan.
        outline: points ``(run, z)``, mm.
        thickness: across the line, mm.
    """
    if signed_area(outline) < 0:
        outline = outline[::-1]
    # u × v points to the right of the run, so the near face lies half a thickness to the left.
    left = (-direction[1], direction[0])
    origin = (start[0] + left[0] * thickness / 2, start[1] + left[1] * thickness / 2, 0.0)
    return Extrusion(origin, (direction[0], direction[1], 0.0), (0.0, 0.0, 1.0), outline, thickness)


def bevelled_profile(
    start: Point, direction: Point, rings: tuple[tuple[float, Ring], ...]
) -> Extrusion:
    """A body whose side view changes across it, from the left of its line in plan to the
    right.

    Args:
        start: plan point where the run is zero.
        direction: unit direction of the run in plan.
        rings: outlines as points ``(run, z)`` with how far to the right of the line each lies, mm;
            all with as many corners in the same order, counter-clockwise as the first. Corners that
            lie in one place in all of them are one.
    """
    kept = [
        k
        for k in range(len(rings[0][1]))
        if any(distance(ring[k], ring[k - 1]) > EXACT for _, ring in rings)
    ]
    rings = tuple((y, tuple(ring[k] for k in kept)) for y, ring in rings)
    first, last = rings[0][0], rings[-1][0]
    left = (-direction[1], direction[0])
    origin = (start[0] - left[0] * first, start[1] - left[1] * first, 0.0)
    if all(ring == rings[0][1] for _, ring in rings):
        rings = (rings[0],)
    if signed_area(rings[0][1]) < 0:
        rings = tuple((y, ring[::-1]) for y, ring in rings)
    across = tuple((y - first, ring) for y, ring in rings[1:])
    return Extrusion(
        origin,
        (direction[0], direction[1], 0.0),
        (0.0, 0.0, 1.0),
        rings[0][1],
        last - first,
        across,
    )


def cross3(a: Vector, b: Vector) -> Vector:
    """The vector product."""
    return (a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0])


def hull(points: list[Point]) -> Ring:
    """The convex hull, counter-clockwise (Andrew's monotone chain)."""
    ordered = sorted({(round(x, 6), round(y, 6)) for x, y in points})
    if len(ordered) < 3:
        return tuple(ordered)
    if len(ordered) == 4:
        (ax, ay), (bx, by), (cx, cy), (dx, dy) = ordered
        if ax == bx < cx == dx and ay == cy < by == dy:  # a rectangle, as most pieces are seen
            return (ax, ay), (cx, cy), (dx, dy), (bx, by)

    def half(sequence: list[Point]) -> list[Point]:
        chain: list[Point] = []
        for p in sequence:
            while len(chain) > 1 and _turn(chain[-2], chain[-1], p) <= 0:
                chain.pop()
            chain.append(p)
        return chain[:-1]

    return tuple(half(ordered) + half(ordered[::-1]))


def _turn(a: Point, b: Point, c: Point) -> float:
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])
