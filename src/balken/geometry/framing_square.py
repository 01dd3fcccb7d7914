"""The figures of a framing square: lengths and cuts of common rafters, hips, valleys and jacks from
the pitch.

``slope`` is rise over run of a roof plane. Angles in radians; lengths in whatever unit goes in.
Plane geometry; the figures per foot of run are those stamped on a framing square.
"""

import math
from typing import Final

STEP: Final = 12.0
"""A framing square counts rise and length on 12 of run."""
CORNER: Final = math.sqrt(2.0)
"""Plan length of a hip at a square corner of equal pitches, per run of the common rafter."""


def common_length(slope: float, run: float = STEP) -> float:
    """The length of a common rafter over a run."""
    return run * math.hypot(1.0, slope)


def hip_length(slope: float, run: float = STEP) -> float:
    """The length of a regular hip or valley over a run of the common rafter."""
    return run * math.hypot(CORNER, slope)


def hip_angle(slope: float) -> float:
    """The slope angle of a regular hip or valley."""
    return math.atan(slope / CORNER)


def jack_difference(slope: float, spacing: float) -> float:
    """By how much jack rafters at a spacing differ in length."""
    return common_length(slope, spacing)


def jack_side_cut(slope: float) -> float:
    """The figure for the side cut of jacks, taken against 12."""
    return STEP * STEP / common_length(slope)


def hip_side_cut(slope: float) -> float:
    """The figure for the side cut of a regular hip or valley, taken against 12."""
    return STEP * STEP * CORNER / hip_length(slope)


def jack_surface_angle(slope: float) -> float:
    """The angle in the roof surface between a jack rafter and a regular hip."""
    return math.atan(STEP / common_length(slope))


def hip_drop(slope: float, thickness: float) -> float:
    """How far an unbacked regular hip is dropped, plumb, so that its edges lie in the roof
    planes."""
    return thickness / 2 * slope / CORNER


def irregular_hip_plan_angle(slope_a: float, slope_b: float) -> float:
    """The plan angle of a hip from the eaves line of roof a, at a square corner with level
    eaves."""
    return math.atan2(slope_b, slope_a)


def irregular_hip_angle(slope_a: float, slope_b: float) -> float:
    """The slope angle of a hip between two pitches, at a square corner with level eaves."""
    return math.atan(1.0 / math.hypot(1 / slope_a, 1 / slope_b))


def backing_angle(slope_own: float, slope_other: float) -> float:
    """The backing angle of a hip on the side of one roof, in a section square to the hip."""
    plan = irregular_hip_plan_angle(slope_own, slope_other)
    return math.atan(math.sin(irregular_hip_angle(slope_own, slope_other)) / math.tan(plan))
