"""Concrete in the ground by ACI 318-19 and the IRC, on soil by allowable stress (ASCE 7-16)."""

import math
from typing import Final

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
    Sides,
    SlabDepth,
    Standing,
)
from balken.design.codes.us import aci_bars, aci_beams, aci_pads, aci_plain, aci_slabs, aci_walls
from balken.design.concrete.bars import Bar
from balken.design.lines import Check, Line
from balken.loads.codes.us.combinations import GRAVITY
from balken.model.foundations import Site
from balken.units import INCH, PSI


def _compression(fc: float, area: float, height: float, thickness: float) -> tuple[float, str, str]:
    held = aci_plain.wall_compression(fc, area, height, thickness)
    return held, "φPn", "ACI 318-19 14.5.3"


def _plain_bending(net: float, reach: float, thick: float, combo: str, site: Site) -> Check:
    ratio = aci_plain.flexure(net, reach, thick, site.strength)
    moment = aci_plain.cantilever_moment(net, reach)
    held = aci_plain.PHI * aci_plain.modulus_of_rupture(site.strength)
    lines = (
        Line("a", reach, "run", how="projection past the wall"),
        Line("h", thick, "run"),
        Line("qu", net, "area load", how="factored, own weight left out"),
        Line("Mu", moment, "force", how="qu a²/2 per unit of length"),
        Line(
            "h eff",
            aci_plain.effective(thick),
            "run",
            "ACI 14.5.1.7",
            "h − 2 in, cast against soil",
        ),
        Line("φ 5√f'c", held, "stress", "ACI 14.5.2.1"),
    )
    return Check("Plain bending", ratio, combo, "ACI 318-19 14.5.2", lines)


def _most_apart(thickness: float) -> float:
    return min(3 * thickness, 18 * INCH)


def _least_in_pad(width: float, thickness: float, depth: float, fc: float, fy: float) -> float:
    return aci_pads.LEAST_STEEL * width * thickness


def _shear_step(held: float) -> Line:
    return Line("φVc", held, "force", how="size effect factor 1")


def _punching(p: Punched) -> tuple[Check, ...]:
    force, held = aci_pads.punching(p.load, p.sides, p.column, p.depth, p.fc, p.off)
    lines = (
        *p.base,
        Line("Vu", force, "force", how="d/2 round the column"),
        Line("φVc", held, "force"),
    )
    found = Check("Punching", force / held, p.combo, "ACI 318-19 22.6.5, 13.2.6.2", lines)
    if p.depth >= aci_pads.LEAST_DEPTH:
        return (found,)
    least = aci_pads.LEAST_DEPTH
    lines = (Line("d", p.depth, "run"), Line("least", least, "run"))
    return found, Check("Depth over the bars", least / p.depth, "–", "ACI 318-19 13.3.1.2", lines)


def _least_in_wall(thickness: float, depth: float, fc: float, fy: float) -> float:
    return aci_walls.LEAST_VERTICAL * thickness


def _slab_steel(fy: float) -> float:
    """0.4 + fy / 100,000 psi: slabs with bars of other steel than 60,000 psi (ACI 318-19
    7.3.1.1.1)."""
    return 0.4 + fy / PSI / 100_000


def _slab_edge(fc: float) -> float:
    """φ 0.85 f'c of plain concrete, φ 0.60 (ACI 318-19 14.5.6.1, 21.2.1)."""
    return 0.60 * 0.85 * fc


STANDING: Final = Standing(
    1.5, 1.5, "IBC 1807.2.3", 0.25, "IBC table 1806.2", _slab_edge, "ACI 14.5.6.1"
)


def _punched(
    place: Column, sides: tuple[float, float], depth: float, ratio: float, fc: float
) -> float:
    del ratio  # this code does not ask
    return aci_slabs.punching(place, sides, depth, fc)


def _least_in_slab(thickness: float, depth: float, fc: float, fy: float) -> float:
    del depth, fc, fy
    return aci_slabs.least_of_slab(1.0, thickness)


def _straight(bar: Bar, fc: float, fy: float, share: float) -> float:
    """ℓ_d less by the steel there is more than needed (ACI 318-19 25.4.10.1)."""
    return max(aci_bars.LEAST, share * aci_bars.straight(bar, fc, fy))


def _hook(bar: Bar, fc: float, fy: float, share: float, roomy: bool) -> float:
    """Hooks are not less by the steel there is more than needed (ACI 318-19 25.4.10.2). ψr and ψo
    are 1 where bars are six diameters apart and as well covered (table 25.4.3.2)."""
    return aci_bars.hook(bar, fc, fy, 1.0 if roomy else aci_bars.HOOK_USUAL)


def _punched_on_ground(force: float, sides: Sides, thick: float, fc: float) -> float:
    """The whole force round the foot: the soil under it is left out, as safe."""
    return aci_plain.punching(force, (math.inf, math.inf), sides, thick, fc)


SLABS: Final = SlabDepth(
    20.0,
    10.0,
    _slab_steel,
    0.0,
    "ACI 318-19 7.3.1.1.1",
    "ACI 318-19 7.3.1.1",
    _least_in_slab,
    "ACI 318-19 7.5.2, 7.6.1",
    "ACI 318-19 22.5.5",
    _punched,
    "ACI 318-19 22.6.5",
)
"""A slab on two supports is a twentieth of its span thick, one that reaches out a tenth (ACI 318-19
table 7.3.1.1, fy 60,000 psi)."""
GROUND: Final = GroundCode(
    GRAVITY,
    aci_pads.COMBINATIONS,
    "IRC R401.4.1",
    _compression,
    PlainStrips("IRC R403.1.1", _plain_bending),
    Pads(
        "ACI 318-19",
        "ACI 318-19 13.3.1",
        aci_pads.COVER,
        _most_apart,
        aci_pads.face_moment,
        aci_pads.steel_for,
        _least_in_pad,
        aci_pads.band_factor,
        aci_bars.development,
        aci_pads.one_way,
        "ACI 318-19 13.2.7, 22.2",
        "ACI 318-19 22.5.5, 13.2.6.2",
        _shear_step,
        _punching,
    ),
    EarthWalls(
        aci_walls.EARTH_FACTOR,
        aci_walls.INSIDE_COVER,
        aci_walls.SOIL_COVER,
        aci_plain.wall_flexure,
        "ACI 318-19 14.5.2",
        aci_walls.vertical_steel,
        _least_in_wall,
        _most_apart,
        "ACI 318-19 11.5, 22.2",
        aci_plain.wall_shear,
        "ACI 318-19 14.5.5",
        aci_walls.shear_capacity,
        "ACI 318-19 22.5.5",
        "φVn",
        STANDING,
    ),
    SLABS,
    OnGround(
        lambda fc: aci_plain.PHI * aci_plain.modulus_of_rupture(fc),
        lambda fc: 57_000 * math.sqrt(fc / PSI) * PSI,
        _punched_on_ground,
        "ACI 318-19 14.5.2",
        "ACI 318-19 14.5.5",
    ),
    ConcreteBeams(
        aci_slabs.least_of_beam,
        aci_slabs.shear_without_stirrups,
        aci_beams.stirrups,
        0.0,
        aci_beams.COVER,
        aci_beams.DEEP,
        "ACI 318-19 6.5.2",
        "ACI 318-19 9.5.2, 22.2",
        "ACI 318-19 9.6.1.2",
        "ACI 318-19 22.5.5, 9.4.3.2",
    ),
    BarDetails(
        _straight,
        aci_bars.lap,
        _hook,
        "ACI 318-19 25.4.2.3",
        "ACI 318-19 25.5.2.1, class B",
        "ACI 318-19 25.4.3.1",
    ),
)
