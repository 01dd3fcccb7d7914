"""Basement walls against their backfill: plain where that holds, else with vertical bars on the
inside."""

import math
from itertools import pairwise
from typing import Final

import msgspec
import shapely

from balken.design.concrete import ec2_pads, plain
from balken.design.concrete import walls as earth_walls
from balken.design.concrete.bars import bars_along
from balken.design.footing_loads import run_of
from balken.design.nds import dowels
from balken.design.soil import pressure
from balken.design.steps import Check, Step
from balken.design.strips import plan_width
from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.ground.anchors import APART, EMBEDDED
from balken.framing.ground.runs import SILL_MATERIAL
from balken.framing.ground.sites import heights_of, surface_under
from balken.framing.member import Member, Part
from balken.framing.structure import Structure
from balken.geometry.plane import TOUCH, Point, direction_or, dot, sub
from balken.loads.path import LoadPath
from balken.model.cases import NOTHING
from balken.model.catalogue import catalogue_of
from balken.model.floors import FloorArea
from balken.model.foundations import FoundationRun, walls_on
from balken.model.names import HostName
from balken.model.project import Project, level
from balken.recall import remembered_piece
from balken.site.ground import heights_at
from balken.units import INCH, PCF, PSI


class Backfill(msgspec.Struct, frozen=True):
    """Soil against a basement wall: the wall's height between its props, the soil's over the slab,
    mm; who props the top."""

    height: float
    fill: float
    propped: bool
    by: str
    open: float = 0.0
    """The longest stretch of its top that nothing holds, mm."""


MOST_OPEN: Final = 48 * INCH
"""A wall spans sideways past a stretch of its top that nothing holds, so long at most: joists at 24
in and a double spacing at an opening; common practice, no source."""
SOIL: Final = 110 * PCF
"""Weight of backfill that helps against turning over (ASCE 7-16 table C3.1-2: dry earth, 110 pcf
packed)."""
STANDS_FIRM: Final = 1.5
"""Safety against turning over and sliding of a wall that nothing props (IBC 2021 1807.2.3)."""
FRICTION: Final = 0.25
"""Of concrete on sand, silt and silty gravel (IBC 2021 table 1806.2)."""


def backfill_of(project: Project, structure: Structure, member: Member) -> Backfill | None:
    """The soil against a piece of basement wall; None for walls with soil on both sides."""
    run = run_of(project, member)
    if run.kind != "basement" or member.kind is not kinds.STEM:
        return None
    ground = _ground_beside(project, member)
    if ground is None:
        return None
    _, base, _, slab = heights_of(project, run)
    low, high = member.solid.bounds()
    foot = max(low[2], slab) if run.slab_thickness else max(low[2], base)
    floor = next(
        (f for f in project.floors if f.bears_on == run.top and set(f.walls) & set(walls_on(run))),
        None,
    )
    there, gap = _props(structure, member, floor) if floor else (False, member.length)
    fill = min(ground, high[2]) - foot
    name = level(project, floor.level).name if floor else ""
    return Backfill(high[2] - foot, fill, there, name, gap) if fill > 1.0 else None


def _props(structure: Structure, member: Member, floor: FloorArea) -> tuple[bool, float]:
    """Whether a floor props the top of a wall, and the longest stretch of it that nothing holds,
    mm.

    Joists prop it that end on it. Joists that run along it do not, nor does the edge of a stair.
    """
    host = HostName("floor", floor.id)
    if any(m.host == host for m in structure.of(kinds.FLOOR_SLAB)):
        return True, 0.0
    start = (member.start[0], member.start[1])
    way = direction_or(sub((member.end[0], member.end[1]), start), (1.0, 0.0))
    shape = shapely.Polygon(member.solid.plan()).buffer(BESIDE)
    places = [0.0, member.length]
    found = False
    for part in structure.parts:
        for run_host, spot, along in _ends_on_foundation(part):
            across = abs(way[0] * along[1] - way[1] * along[0])
            if run_host == member.host and across > STEEP and shape.contains(shapely.Point(spot)):
                places.append(min(member.length, max(0.0, dot(sub(spot, start), way))))
                found = True
    if not found:
        return False, member.length
    places.sort()
    gap = max(b - a for a, b in pairwise(places))
    return gap <= MOST_OPEN + 1.0, gap


BESIDE: Final = 60.0
"""A joist's end this near to a wall is on it, mm."""
STEEP: Final = 0.7
"""Joists within 45° of a wall's line run along it."""


@remembered_piece
def _ends_on_foundation(part: Part) -> tuple[tuple[HostName, Point, Point], ...]:
    """Where joists of a part end on a foundation: its host, the place, and the joist's
    direction."""
    found = []
    for m in part.members:
        if m.kind is kinds.JOIST and len(m.carrier.supports) > 1:
            way = direction_or(sub(m.end[:2], m.start[:2]), (1.0, 0.0))
            found += [
                (s.on.host, s.point, way)
                for s in (m.carrier.supports[0], m.carrier.supports[-1])
                if s.on is not None and s.on.host.kind == "run"
            ]
    return tuple(found)


def _ground_beside(project: Project, member: Member) -> float | None:
    surface = surface_under(project)
    if surface is not None:
        import numpy as np

        return float(heights_at(surface, np.array(member.solid.plan(), dtype=float)).max())
    return next((x.elevation for x in project.levels if x.role == "ground"), None)


def earth_checks(
    project: Project, structure: Structure, path: LoadPath, member: Member
) -> tuple[Check, ...]:
    """The checks of a basement wall against its backfill: bending and shear, what its top
    pushes into the floor, or whether it stands where no floor props it."""
    soil = backfill_of(project, structure, member)
    if soil is None:
        return ()
    top = (
        _top_checks(project, structure, member, soil)
        if soil.propped
        else _stands(project, path, member, soil)
    )
    return (*_concrete_checks(project, member, soil), *top)


def _top_checks(
    project: Project, structure: Structure, member: Member, soil: Backfill
) -> tuple[Check, ...]:
    """What the top of a propped wall pushes into the anchor bolts of its sill (NDS-2018 12.3.1, C_D
    0.9 for earth); none where no sill lies on it."""
    run = run_of(project, member)
    sill = catalogue_of(project.system).sections.get(run.sill)
    push = pressure.propped(soil.height, soil.fill, project.site.fluid).top
    if sill is None or push <= 0:
        return ()
    species = SILL_MATERIAL.split(" ")[0]
    one = dowels.sill_bolt(run.bolt, sill.breadth, dowels.GRAVITY[species], EMBEDDED) * PERMANENT
    apart = widest_bolts(structure, member)
    steps = (
        Step("R top", push, "line load", how="γ h³ / (6 L), of the soil"),
        Step("s", apart, "length", how="between anchor bolts, the widest"),
        Step("D", run.bolt, "run"),
        Step("CD", PERMANENT, "factor", "NDS 2.3.2"),
        Step("Z′", one, "force", "NDS 12.3.1", f"of one bolt across the grain of a {species} sill"),
    )
    return (Check(TOP_INTO_BOLTS, push * apart / one, "H", "NDS 12.3.1, IRC R404.1", steps),)


TOP_INTO_BOLTS: Final = "Top into bolts"
PERMANENT: Final = 0.9
"""C_D of earth, which always presses (NDS-2018 table 2.3.2)."""


def widest_bolts(structure: Structure, member: Member) -> float:
    """The widest distance between anchor bolts of the sills on a piece of wall, mm; that of the
    rule where none was placed."""
    shape = shapely.Polygon(member.solid.plan()).buffer(TOUCH)
    gaps = [
        b - a
        for m in structure.of(kinds.SILL)
        if m.host == member.host
        and m.id in structure.bolts
        and shape.intersects(shapely.Polygon(m.solid.plan()))
        for a, b in pairwise(structure.bolts[m.id].at)
    ]
    return max(gaps, default=APART)


def _stands(project: Project, path: LoadPath, member: Member, soil: Backfill) -> tuple[Check, ...]:
    """Whether a wall that nothing props stands: turning over about the inner edge of its footing,
    dead load alone holding it, and sliding where no slab holds its foot (IBC 2021 1807.2.3). Per mm
    of wall."""
    run = run_of(project, member)
    bottom, base, _, _ = heights_of(project, run)
    low, high = member.solid.bounds()
    foot = low[2] - (base - bottom)
    ground = min(_ground_beside(project, member) or high[2], high[2])
    deep, thick, wide = ground - foot, plan_width(member), run.footing_width
    push = project.site.fluid * deep**2 / 2
    dead = path.onto.get(member.id, NOTHING).dead / member.length
    footing = wide * (base - bottom) * project.site.concrete
    toe = wide / 2 - abs(
        run.footing_shift
    )  # from its inner edge to the wall's middle, the shorter way
    heel = max(0.0, wide - toe - thick / 2)
    on_heel = heel * max(0.0, ground - low[2]) * SOIL
    turns = push * deep / 3
    holds = dead * toe + footing * wide / 2 + on_heel * (wide - heel / 2)
    steps: tuple[Step, ...] = (
        Step("h", deep, "length", how="soil over the bottom of the footing"),
        Step("H", push, "line load", how="γ h² / 2"),
        Step("M turns", turns, "force", how="H h / 3, per unit of length"),
        Step("D", dead, "line load", how="wall and what stands on it"),
        Step("b", wide, "run"),
        Step(
            "M holds", holds, "force", how="about the inner edge of the footing, per unit of length"
        ),
        Step("safety", STANDS_FIRM, "factor", "IBC 1807.2.3"),
    )
    found = [
        Check(
            "Turning over",
            STANDS_FIRM * turns / holds if holds > 0 else math.inf,
            "D + H",
            "IBC 1807.2.3",
            steps,
        )
    ]
    rubs = FRICTION * (dead + footing + on_heel)
    return (
        *found,
        _against_slab(project, run, push) if run.slab_thickness else _by_friction(push, rubs),
    )


def _by_friction(push: float, rubs: float) -> Check:
    steps = (
        Step("H", push, "line load", how="γ h² / 2"),
        Step("μ N", rubs, "line load", "IBC table 1806.2", "0.25 N"),
        Step("safety", STANDS_FIRM, "factor", "IBC 1807.2.3"),
    )
    return Check(
        "Sliding",
        STANDS_FIRM * push / rubs if rubs > 0 else math.inf,
        "D + H",
        "IBC 1807.2.3",
        steps,
    )


def _against_slab(project: Project, run: FoundationRun, push: float) -> Check:
    """A slab between walls holds their feet apart: its edge bears the push (ACI 318-19 14.5.6.1, φ
    0.60 by 21.2.1)."""
    fc = project.site.strength
    bears = 0.60 * 0.85 * fc * run.slab_thickness
    steps = (
        Step("1.6 H", 1.6 * push, "line load", "ACI 5.3.8", "soil at rest against the foot"),
        Step(
            "t",
            run.slab_thickness,
            "run",
            how="the slab, poured against the wall before it is backfilled",
        ),
        Step("φ Bn", bears, "line load", "ACI 14.5.6.1", "0.60 × 0.85 f′c t"),
    )
    return Check("Sliding", 1.6 * push / bears, "1.6H", "ACI 14.5.6.1", steps)


def _concrete_checks(project: Project, member: Member, soil: Backfill) -> tuple[Check, ...]:
    """Bending and shear of the concrete: plain where that passes, else with vertical bars."""
    us = project.system == "us"
    fluid, fc, fy = project.site.fluid, project.site.strength, project.site.steel
    thick = plan_width(member)
    found = (
        pressure.propped(soil.height, soil.fill, fluid)
        if soil.propped
        else pressure.cantilever(soil.fill, fluid)
    )
    factor = earth_walls.EARTH_FACTOR if us else earth_walls.EARTH_FACTOR_EN
    moment, shear = factor * found.moment, factor * found.bottom
    held = f"held by {soil.by}" if soil.propped else "held at its foot alone: no floor props it yet"
    where = f"{found.moment_at:.0f} mm up" if soil.propped else "at the foot"
    base = (
        Step("L", soil.height, "length", how=held),
        Step("h", soil.fill, "length", how="soil over the slab"),
        Step("M", moment, "force", how=f"{factor:g} H, {where}, per unit of length"),
    )
    steps: tuple[Step, ...]
    combo = f"{factor:g}H"
    plain_ratio = plain.wall_flexure(moment, thick, fc, metric=not us)
    if us and thick < plain.LEAST_WALL - 0.5:
        plain_ratio = max(plain_ratio, plain.LEAST_WALL / thick)
    inside = earth_walls.INSIDE_COVER if us else 40.0
    outside = earth_walls.SOIL_COVER if us else 50.0
    # Propped, its inner face is in tension; held at its foot alone, the face to the soil (ACI
    # 318-19 22.2).
    face, cover = ("inside", inside) if soil.propped else ("to the soil", outside)
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
        except BalkenError as error:
            steps = (*base, Step("t", thick, "run", how=str(error)))
            return (Check("Earth, bending", math.inf, combo, clause, steps),)
        least = (
            earth_walls.LEAST_VERTICAL * thick if us else ec2_pads.least_steel(1.0, depth, fc, fy)
        )
        bars = bars_along(
            max(needed, least), min(3 * thick, 18 * INCH if us else 400.0), project.system
        )
        steel = bars.bar.area / bars.spacing
        spacing = f"{bars.spacing / INCH:.0f} in" if us else f"{bars.spacing:.0f} mm"
        steps = (
            *base,
            Step(
                "d",
                depth,
                "run",
                how=f"bars on the face {face}" if face != "inside" else "bars on the inside",
            ),
            Step("As", needed, "steel per run", how="needed"),
            Step("As min", least, "steel per run"),
            Step("bars", steel, "steel per run", how=f"{bars.bar.name} at {spacing}"),
        )
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
        *base,
        Step("V", shear, "line load", how="at the foot"),
        Step("φVn" if us else "VRd", strength, "line load"),
    )
    return (*checks, Check("Earth, shear", shear / strength, combo, clause, steps))
