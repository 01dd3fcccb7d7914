"""Basement walls against their backfill: plain where that holds, else with vertical bars on the inside."""

import math

import msgspec

from balken.design.concrete import ec2_pads, plain
from balken.design.concrete import walls as earth_walls
from balken.design.concrete.bars import bars_along
from balken.design.footing_loads import run_of
from balken.design.soil import pressure
from balken.design.steps import Check, Step
from balken.design.strips import plan_width
from balken.framing.member import Member
from balken.framing.sites import heights_of, surface_under
from balken.framing.structure import Structure
from balken.model.foundations import walls_on
from balken.model.ground import heights_at
from balken.model.memo import Memo
from balken.model.project import Project, level
from balken.units import INCH, PSI


class Backfill(msgspec.Struct, frozen=True):
    """Soil against a basement wall: the wall's height between its props, the soil's over the slab, mm; who props the top."""

    height: float
    fill: float
    propped: bool
    by: str


def backfill_of(project: Project, structure: Structure, member: Member, memo: Memo) -> Backfill | None:
    """Return the soil against a piece of basement wall; None for walls with soil on both sides."""
    run = run_of(project, member)
    if run.kind != "basement" or member.role != "stem":
        return None
    ground = _ground_beside(project, member, memo)
    if ground is None:
        return None
    _, base, _, slab = heights_of(project, run)
    low, high = member.solid.bounds()
    foot = max(low[2], slab) if run.slab_thickness else max(low[2], base)
    floor = next((f for f in project.floors if f.bears_on == run.top and set(f.walls) & set(walls_on(run))), None)
    there = floor is not None and any(m.host == f"floor:{floor.id}" and m.role == "joist" for m in structure.members)
    fill = min(ground, high[2]) - foot
    name = level(project, floor.level).name if floor else ""
    return Backfill(high[2] - foot, fill, there, name) if fill > 1.0 else None


def _ground_beside(project: Project, member: Member, memo: Memo) -> float | None:
    surface = surface_under(project, memo)
    if surface is not None:
        import numpy as np

        return float(heights_at(surface, np.array(member.solid.plan(), dtype=float)).max())
    return next((x.elevation for x in project.levels if x.role == "ground"), None)


def earth_checks(project: Project, structure: Structure, member: Member, memo: Memo) -> tuple[Check, ...]:
    """Return the checks of a basement wall against its backfill: plain where that passes, else with vertical bars."""
    soil = backfill_of(project, structure, member, memo)
    if soil is None:
        return ()
    us = project.system == "us"
    fluid, fc, fy = project.site.fluid, project.site.strength, project.site.steel
    thick = plan_width(member)
    found = pressure.propped(soil.height, soil.fill, fluid) if soil.propped else pressure.cantilever(soil.fill, fluid)
    factor = earth_walls.EARTH_FACTOR if us else earth_walls.EARTH_FACTOR_EN
    moment, shear = factor * found.moment, factor * found.bottom
    held = f"held by {soil.by}" if soil.propped else "held at its foot alone: no floor props it yet"
    where = f"{found.moment_at:.0f} mm up" if soil.propped else "at the foot"
    base = (
        Step("L", soil.height, "length", how=held), Step("h", soil.fill, "length", how="soil over the slab"),
        Step("M", moment, "force", how=f"{factor:g} H, {where}, per unit of length"),
    )  # fmt: skip
    steps: tuple[Step, ...]
    combo = f"{factor:g}H"
    plain_ratio = plain.wall_flexure(moment, thick, fc, metric=not us)
    if us and thick < plain.LEAST_WALL - 0.5:
        plain_ratio = max(plain_ratio, plain.LEAST_WALL / thick)
    cover = earth_walls.INSIDE_COVER if us else 40.0
    depth = thick - cover - 8.0
    steel = 0.0
    if plain_ratio <= 1:
        clause = "ACI 318-19 14.5.2" if us else "EN 1992-1-1 12.3"
        steps = (*base, Step("t", thick, "run", how="plain concrete, axial load left out"))
        checks = [Check("Earth, bending", plain_ratio, combo, clause, steps)]
    else:
        clause = "ACI 318-19 11.5, 22.2" if us else "EN 1992-1-1 6.1"
        try:
            needed = (
                earth_walls.vertical_steel(moment, depth, fc, fy)
                if us
                else ec2_pads.steel_for(moment, 1.0, depth, fc, fy)
            )
        except ValueError as error:
            steps = (*base, Step("t", thick, "run", how=str(error)))
            return (Check("Earth, bending", math.inf, combo, clause, steps),)
        least = earth_walls.LEAST_VERTICAL * thick if us else ec2_pads.least_steel(1.0, depth, fc, fy)
        bars = bars_along(max(needed, least), min(3 * thick, 18 * INCH if us else 400.0), project.system)
        steel = bars.bar.area / bars.spacing
        spacing = f"{bars.spacing / INCH:.0f} in" if us else f"{bars.spacing:.0f} mm"
        steps = (
            *base, Step("d", depth, "run", how="bars on the inside"),
            Step("As", needed, "steel per run", how="needed"), Step("As min", least, "steel per run"),
            Step("bars", steel, "steel per run", how=f"{bars.bar.name} at {spacing}"),
        )  # fmt: skip
        checks = [Check("Earth, bending", max(needed, least) / steel, combo, clause, steps)]
    if steel:
        strength = earth_walls.shear_capacity(depth, steel, fc, metric=not us)
        clause = "ACI 318-19 22.5.5" if us else "EN 1992-1-1 6.2.2"
    else:
        strength = (
            plain.PHI * 4 / 3 * math.sqrt(fc / PSI) * PSI * thick
            if us
            else plain.flexural_strength_en(fc) * thick / 1.5
        )
        clause = "ACI 318-19 14.5.5" if us else "EN 1992-1-1 12.6.3"
    steps = (
        *base, Step("V", shear, "line load", how="at the foot"),
        Step("φVn" if us else "VRd", strength, "line load"),
    )  # fmt: skip
    return (*checks, Check("Earth, shear", shear / strength, combo, clause, steps))
