"""Pressure between soil and concrete: under rigid footings, and against walls that hold soil
back."""

from typing import Final

import msgspec

from balken.errors import BalkenError

TILT: Final = 1e-12
"""Eccentricities below this share of a side are rounding."""


class Bearing(msgspec.Struct, frozen=True):
    """Pressure under a rigid pad: ``highest`` and ``lowest`` in N/mm², the share of the pad that
    presses, eccentricities in mm along both sides."""

    highest: float
    lowest: float
    share: float
    eccentric: tuple[float, float]

    @property
    def lifts(self) -> bool:
        """Whether a part of the pad loses touch with the soil."""
        return self.share < 1 - 1e-9


def under_pad(force: float, moments: tuple[float, float], sides: tuple[float, float]) -> Bearing:
    """The pressure under a rigid rectangular pad on soil that takes no tension.

    Inside the kern P/A (1 + 6 eₓ/bₓ + 6 e_y/b_y). Outside it along one side the triangle 2P / (3
    (b/2 − e) ℓ). Outside it both ways: the pressed part found by Newton's method on the plane of
    pressures.

    Args:
        force: down, N.
        moments: along the first and the second side, N mm: each tilts the pad along that side.
        sides: of the pad, mm.

    Raises:
        BalkenError: nothing presses down, or the force falls outside the pad, which then turns over.
    """
    if force <= 0:
        raise BalkenError(
            "Nothing presses the pad onto the soil: what lifts it is more than what it carries and"
            " weighs."
        )
    (bx, by), (ex, ey) = sides, (abs(m) / force for m in moments)
    for e, b in ((ex, bx), (ey, by)):
        if e >= b / 2:
            raise BalkenError(
                f"The load falls {e - b / 2:.0f} mm outside the pad, which turns over."
            )
    mean = force / (bx * by)
    tilt = 6 * ex / bx + 6 * ey / by
    if tilt <= 1:
        return Bearing(mean * (1 + tilt), mean * (1 - tilt), 1.0, (ex, ey))
    if ey <= TILT * by or ex <= TILT * bx:
        (e, b), across = ((ex, bx), by) if ey <= TILT * by else ((ey, by), bx)
        pressed = 3 * (b / 2 - e)
        if pressed <= b:
            return Bearing(2 * force / (pressed * across), 0.0, pressed / b, (ex, ey))
    return _both_ways(force, (ex, ey), sides)


def _both_ways(force: float, eccentric: tuple[float, float], sides: tuple[float, float]) -> Bearing:
    """Solve for the plane q = a + b x + c y, nothing where negative, that holds force and moments;
    sums over a fine grid."""
    import numpy as np

    n = 240
    (bx, by) = sides
    x, y = np.meshgrid(((np.arange(n) + 0.5) / n - 0.5) * bx, ((np.arange(n) + 0.5) / n - 0.5) * by)
    basis = np.stack([np.ones_like(x), x / bx, y / by])
    cell = bx * by / n**2
    wanted = force * np.array([1.0, eccentric[0] / bx, eccentric[1] / by])
    mean = force / (bx * by)
    plane = np.array([mean, 12 * mean * eccentric[0] / bx, 12 * mean * eccentric[1] / by])
    for _ in range(200):
        q = np.tensordot(plane, basis, 1)
        on = q > 0
        have = (basis * np.where(on, q, 0.0)).sum(axis=(1, 2)) * cell
        if np.abs(have - wanted).max() <= 1e-9 * force:
            break
        slope = np.einsum("iab,jab->ij", basis * on, basis) * cell
        plane = plane + 0.7 * np.linalg.solve(slope, wanted - have)
    corners = [plane[0] + s * plane[1] / 2 + t * plane[2] / 2 for s in (-1, 1) for t in (-1, 1)]
    return Bearing(float(max(corners)), 0.0, float(on.mean()), eccentric)


class EarthOnWall(msgspec.Struct, frozen=True):
    """A wall a millimetre wide that holds soil back: reactions in N/mm, its greatest moment in N
    mm/mm and where.

    ``moment_at`` is measured from the bottom, mm.
    """

    top: float
    bottom: float
    moment: float
    moment_at: float


class Beside(msgspec.Struct, frozen=True, gc=False):
    """What presses on a wall besides the soil."""

    even: float = 0.0
    """Over the whole height of the soil, N/mm²: of what stands on the ground behind."""
    water: float = 0.0
    """Height of water over the wall's foot, mm."""


NOTHING: Final = Beside()
WATER: Final = 9.81e-6
"""Weight of water, N/mm³; it presses in full beside the soil, whose own push is not lessened by it:
on the safe side."""


class _Push(msgspec.Struct, frozen=True, gc=False):
    """What lies above a depth: its force, and the moment of it about that depth."""

    force: float
    moment: float


def _above(depth: float, fill: float, fluid: float, beside: Beside) -> _Push:
    """What presses between the top of the soil and a depth below it."""
    y = max(0.0, depth)
    under_water = max(0.0, y - max(0.0, fill - beside.water))
    return _Push(
        fluid * y**2 / 2 + beside.even * y + WATER * under_water**2 / 2,
        fluid * y**3 / 6 + beside.even * y**2 / 2 + WATER * under_water**3 / 6,
    )


def propped(height: float, backfill: float, fluid: float, beside: Beside = NOTHING) -> EarthOnWall:
    """What earth does to a wall held at top and bottom, by statics: a triangle of pressure, and what
    presses beside it.

    R_top = γ h³ / (6 L) of the soil alone; the moment is greatest where the shear is nothing, y =
    √(2 R_top / γ) below the backfill.

    Args:
        height: of the wall between its two props, mm.
        backfill: height of the soil above the lower prop, mm; no higher than the wall.
        fluid: equivalent fluid weight, N/mm³.
        beside: what presses besides.
    """
    h = min(backfill, height)
    whole = _above(h, h, fluid, beside)
    if h <= 0 or whole.force <= 0:
        return EarthOnWall(0.0, 0.0, 0.0, 0.0)
    top = whole.moment / height
    low, high = 0.0, h
    for _ in range(HALVINGS):  # where what presses above is as much as the upper prop holds
        y = (low + high) / 2
        low, high = (y, high) if _above(y, h, fluid, beside).force < top else (low, y)
    y = (low + high) / 2
    moment = top * (height - h + y) - _above(y, h, fluid, beside).moment
    return EarthOnWall(top, whole.force - top, moment, h - y)


HALVINGS: Final = 60
"""Of the height in which the greatest moment is looked for: to less than can be told."""


def cantilever(backfill: float, fluid: float, beside: Beside = NOTHING) -> EarthOnWall:
    """What earth does to a wall held at its foot alone: M = γ h³ / 6 of the soil alone."""
    whole = _above(backfill, backfill, fluid, beside)
    return EarthOnWall(0.0, whole.force, whole.moment, 0.0)


def shear_and_moment(
    height: float,
    backfill: float,
    fluid: float,
    z: float,
    *,
    prop: bool,
    beside: Beside = NOTHING,
) -> tuple[float, float]:
    """Shear and moment of the wall at ``z`` above its foot, N/mm and N mm/mm."""
    if not prop:
        over = _above(backfill - z, backfill, fluid, beside)
        return over.force, over.moment
    found, h = propped(height, backfill, fluid, beside), min(backfill, height)
    over = _above(h - z, h, fluid, beside)
    return over.force - found.top, abs(found.top * (height - z) - over.moment)


def within_influence(
    upper: float, lower: float, apart: float, slope: float = 1.0, tolerance: float = 1.0
) -> float:
    """By how much an upper footing stands inside the influence line of a lower one, mm;
    nothing where it does not.

    The line rises from the near bottom edge of the lower footing at ``slope`` (1 for 45°, common
    practice, no source).

    Args:
        upper: bottom of the upper footing, mm.
        lower: bottom of the lower one.
        apart: clear distance between them in plan.
        slope: rise over run of the line.
        tolerance: less than this is nothing.
    """
    above = (upper - lower) - slope * max(0.0, apart)
    return above if above > tolerance else 0.0
