"""Concrete in the ground by EN 1992-1-1, on soil of a presumed resistance by EN 1997-1 (EN 1990
6.14b), with recommended values."""

import math
from functools import cache
from typing import Final

from balken.design.codes.eu import ec2_bars, ec2_beams, ec2_pads, ec2_plain, ec2_slabs, ec2_walls
from balken.design.codes.eu.ec2_partial import GAMMA_S
from balken.design.codes.ground import (
    BarDetails,
    Column,
    ConcreteBeams,
    EarthWalls,
    GroundCode,
    OnGround,
    Pads,
    PlainStrips,
    Punched,
    SlabDepth,
    Standing,
)
from balken.design.concrete.bars import Bar
from balken.design.lines import Check, Line
from balken.loads.codes.eu.combinations import CHARACTERISTIC, in_service
from balken.model.foundations import Site
from balken.model.left_open import LeftOpen
from balken.model.uses import Category


def _compression(fc: float, area: float, height: float, thickness: float) -> tuple[float, str, str]:
    held = ec2_plain.wall_compression(fc, area, height, thickness)
    return held, "NRd", "EN 1992-1-1 12.6.5"


def _plain_bending(net: float, reach: float, thick: float, combo: str, site: Site) -> Check:
    lines = (
        Line("a", reach, "run", how="projection past the wall"),
        Line("h", thick, "run"),
        Line("σgd", net, "area load", how="design, own weight left out"),
        Line("fctd", ec2_plain.flexural_strength(site.strength), "stress", "EN 1992-1-1 12.3.1"),
    )
    ratio = ec2_plain.strip(net, reach, thick, site.strength)
    return Check("Plain bending", ratio, combo, "EN 1992-1-1 12.9.3", lines)


def _most_apart(thickness: float) -> float:
    return min(3 * thickness, 400.0)


def _least_in_pad(width: float, thickness: float, depth: float, fc: float, fy: float) -> float:
    return ec2_pads.least_steel(width, depth, fc, fy)


def _in_band(along: float, across: float) -> float:
    """Bars are spread evenly."""
    return 1.0


def _shear_step(held: float) -> Line:
    return Line("VRd,c", held, "force")


def _punching(p: Punched) -> tuple[Check, ...]:
    stress, held = ec2_pads.punching(p.load, p.sides, p.column, p.depth, p.share, p.fc, p.off)
    lines = (
        *p.base,
        Line("vEd", stress, "stress", how="worst perimeter up to 2d"),
        Line("vRd", held, "stress"),
    )
    return (Check("Punching", stress / held, p.combo, "EN 1992-1-1 6.4.4", lines),)


def _steel_in_wall(moment: float, depth: float, fc: float, fy: float) -> float:
    return ec2_pads.steel_for(moment, 1.0, depth, fc, fy)


def _least_in_wall(thickness: float, depth: float, fc: float, fy: float) -> float:
    return ec2_pads.least_steel(1.0, depth, fc, fy)


def _slab_steel(fy: float) -> float:
    """Bars of f_yk 500 work at 310 N/mm² in use; others in proportion, as if just enough of them
    (EN 1992-1-1 7.17)."""
    return fy / 500.0


def _slab_edge(fc: float) -> float:
    """α_cc,pl fck / γ_C of plain concrete (EN 1992-1-1 12.3.1)."""
    return 0.8 * fc / 1.5


SOIL_GAMMA: Final = 1.25
"""γ_φ′ on the shearing resistance, which raises active pressure about as much (EN 1997-1 table
A.4)."""
STANDING: Final = Standing(
    1.1 * SOIL_GAMMA / 0.9,
    1.35 * 1.1,
    "EN 1997-1 2.4.7",
    0.25,
    "common practice",
    _slab_edge,
    "EN 1992-1-1 12.3.1",
)
"""Turning over: 1.1 of what is permanent and turns against 0.9 of what holds (EQU, tables A.1 and
A.2). Sliding: 1.35 on the push, 1.1 on the resistance (design approach 2, tables A.3 and A.13)."""


def _punched(
    place: Column, sides: tuple[float, float], depth: float, ratio: float, fc: float
) -> float:
    """V_Rd,c over β, N (EN 1992-1-1 6.4.3, 6.4.4): the other way round than a utilisation."""
    return 1 / ec2_slabs.punching(1.0, ec2_slabs.BETA[place], place, sides, depth, ratio, fc)


def _least_in_slab(thickness: float, depth: float, fc: float, fy: float) -> float:
    """0.26 fctm / fyk d, no less than 0.0013 d, per mm (EN 1992-1-1 9.2.1.1, 9.3.1.1)."""
    del thickness
    fctm = 0.30 * math.pow(fc, 2 / 3)
    return max(0.26 * fctm / fy, 0.0013) * depth


def _straight(bar: Bar, fc: float, fy: float, share: float) -> float:
    """By the stress that is there (EN 1992-1-1 8.4.3, 8.4.4), no less than 0.3 of the whole."""
    whole = ec2_pads.anchorage(bar, fc, fy)
    return max(max(0.3, share) * whole, 10 * bar.diameter, 100.0)


def _hook(bar: Bar, fc: float, fy: float, share: float, roomy: bool) -> float:
    """α1 is 0.7 of bent bars with three diameters of cover beside them (EN 1992-1-1 table 8.2)."""
    whole = ec2_pads.anchorage(bar, fc, fy)
    return max((0.7 if roomy else 1.0) * max(0.3, share) * whole, 10 * bar.diameter, 100.0)


def _punched_on_ground(force: float, sides: tuple[float, float], thick: float, fc: float) -> float:
    """The whole force half of the thickness round the foot, in plain concrete (EN 1992-1-1
    12.6.3): what it takes in shear is its design tension over 1.5."""
    round_it = 2 * (sides[0] + sides[1]) + 4 * thick
    return force / (round_it * ec2_plain.wall_shear(thick, fc))


def _beam_shear(width: float, depth: float, steel: float, fc: float) -> float:
    return ec2_pads.shear_strength(depth, steel / (width * depth), fc) * width * depth


SLABS: Final = SlabDepth(
    20.0,
    8.0,
    _slab_steel,
    30.0,
    "EN 1992-1-1 7.4.2(2)",
    "EN 1992-1-1 table 7.4N",
    _least_in_slab,
    "EN 1992-1-1 6.1, 9.3.1",
    "EN 1992-1-1 6.2.2",
    _punched,
    "EN 1992-1-1 6.4",
)
"""Lightly stressed slabs on two supports, and cantilevers."""
GROUND: Final = GroundCode(
    CHARACTERISTIC,
    ec2_pads.COMBINATIONS,
    "EN 1997-1 6.5.2.4",
    _compression,
    PlainStrips("EN 1992-1-1 12.9.3", _plain_bending),
    Pads(
        "EN 1992-1-1",
        "EN 1997-1 6.5.4",
        ec2_pads.COVER,
        _most_apart,
        ec2_pads.face_moment,
        ec2_pads.steel_for,
        _least_in_pad,
        _in_band,
        ec2_pads.anchorage,
        ec2_pads.one_way,
        "EN 1992-1-1 6.1, 9.8.2",
        "EN 1992-1-1 6.2.2",
        _shear_step,
        _punching,
    ),
    EarthWalls(
        ec2_walls.EARTH_FACTOR,
        ec2_walls.INSIDE_COVER,
        ec2_walls.SOIL_COVER,
        ec2_plain.wall_flexure,
        "EN 1992-1-1 12.3",
        _steel_in_wall,
        _least_in_wall,
        _most_apart,
        "EN 1992-1-1 6.1",
        ec2_plain.wall_shear,
        "EN 1992-1-1 12.6.3",
        ec2_walls.shear_capacity,
        "EN 1992-1-1 6.2.2",
        "VRd",
        STANDING,
    ),
    SLABS,
    OnGround(
        ec2_plain.flexural_strength,
        lambda fc: 22_000 * math.pow((fc + 8) / 10, 0.3),
        _punched_on_ground,
        "EN 1992-1-1 12.3.1",
        "EN 1992-1-1 6.4.4, 12.6.3",
    ),
    ConcreteBeams(
        ec2_pads.least_steel,
        _beam_shear,
        ec2_beams.stirrups,
        2000.0,
        ec2_beams.COVER,
        ec2_beams.DEEP,
        "common practice",
        "EN 1992-1-1 6.1",
        "EN 1992-1-1 9.2.1.1",
        "EN 1992-1-1 6.2.2",
    ),
    BarDetails(
        _straight,
        lambda bar, fc, fy: ec2_bars.lap(bar.diameter, fy / GAMMA_S, fc),
        _hook,
        "EN 1992-1-1 8.4.4",
        "EN 1992-1-1 8.7.3",
        "EN 1992-1-1 8.4.4, α1 0.7",
    ),
)


@cache
def ground_by(on_floors: Category, by: LeftOpen) -> GroundCode:
    """The same, with the combinations of what the floors over it are used for, by the values of a
    country."""
    return GROUND._replace(
        service=in_service(on_floors, by),
        strength=ec2_pads.combinations(on_floors, by),
        walls=GROUND.walls._replace(factor=by.permanent),
    )
