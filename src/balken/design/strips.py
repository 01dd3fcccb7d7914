"""Strip footings, thickened edges and grade beams on soil: pressure, width by load and by table,
projection, plain bending."""

import math

import msgspec

from balken.design.concrete import plain
from balken.design.footing_loads import (
    WIDTH_MODULE,
    run_of,
    service_combinations,
    soil_clause,
    strength_combinations,
    wall_over,
)
from balken.design.soil import pressure
from balken.design.soil.presumptive import (
    Below,
    Construction,
    prescriptive_width,
    rounded_up,
    strip_width,
    width_2021,
)
from balken.design.steps import Check, Step
from balken.design.strip_loads import OnStrip, Stretch, Stretches, highest_line
from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.ground.sites import heights_of
from balken.framing.member import Member
from balken.framing.structure import Structure
from balken.geometry.plane import direction_or, dot, left, sub
from balken.loads.path import LoadPath
from balken.loads.unbalanced_snow import FLAT
from balken.model.foundations import FoundationRun
from balken.model.names import HostName
from balken.model.project import Project, level, wall_build_up
from balken.units import INCH


def strip_checks(
    project: Project, structure: Structure, path: LoadPath, member: Member, stretches: Stretches
) -> tuple[Check, ...]:
    """The checks of a piece of strip footing, thickened edge or grade beam on soil."""
    stretch, loads = stretches.of(member), stretches.loads(member, path)
    checks = [_soil_under_strip(project, structure, member, stretch, loads)]
    if member.kind is kinds.FOOTING:
        run = run_of(project, member)
        checks += _plain_strip(project, member, run, stretch, loads)
        table = table_width(project, run, member)
        if table is not None:
            width = plan_width(member)
            needed = needed_width(project, path, member, stretches)
            governs = "the table" if table > needed else "the load"
            steps = (
                Step(
                    "b table",
                    table,
                    "run",
                    "IRC table R403.1",
                    how=_table_words(project, run, member),
                ),
                Step(
                    "b load",
                    needed,
                    "run",
                    "IRC R401.4.1",
                    how=f"w / (qa − γ t); {governs} governs",
                ),
                Step("b", width, "run"),
            )
            checks.append(
                Check(
                    "Width by the table", table / width, "second opinion", "IRC table R403.1", steps
                )
            )
    return tuple(checks)


def plan_width(member: Member) -> float:
    """A piece's width across its line, mm."""
    start = (member.start[0], member.start[1])
    normal = left(direction_or(sub((member.end[0], member.end[1]), start), (1.0, 0.0)))
    across = [dot(sub(p, start), normal) for p in member.solid.plan()]
    return max(across) - min(across)


def own_line(project: Project, structure: Structure, member: Member) -> float:
    """Weight of a piece of footing itself along its line, N/mm."""
    return structure.volume(member) * project.site.concrete / max(member.length, 1.0)


def _soil_under_strip(
    project: Project,
    structure: Structure,
    member: Member,
    stretch: Stretch,
    loads: tuple[OnStrip, ...],
) -> Check:
    own = own_line(project, structure, member)
    combos = service_combinations(project)
    lines = [highest_line(loads, stretch, c.factors) + own * c.factors.dead for c in combos]
    k = max(range(len(combos)), key=lambda i: lines[i])
    line, combo = lines[k], combos[k].name
    width = (
        stretch.area / stretch.length if member.kind is not kinds.FOOTING else plan_width(member)
    )
    run = run_of(project, member) if member.kind is kinds.FOOTING else None
    shift = abs(run.footing_shift) if run else 0.0
    steps = [
        Step("w", line, "line load", how=f"the most of any place, own weight included, {combo}"),
        Step("b", width, "run"),
        Step("ℓ", stretch.length, "length", how="on soil of its own, along the middle"),
    ]
    if any(x.alone for x in loads):
        spread = max(x.spread for x in loads if x.alone)
        steps.append(
            Step(
                "spread",
                spread,
                "length",
                "common practice",
                "to each side of a post or beam, 1 to 1",
            )
        )
    highest = line / width
    how = "w / b"
    if shift and line > own:
        moment = (line - own) * shift
        try:
            found = pressure.under_pad(line, (moment, 0.0), (width, 1.0))
            highest = found.highest
            steps.append(
                Step(
                    "e",
                    moment / line,
                    "run",
                    how=f"load out of the middle; kern b/6 = {width / 6:.0f} mm",
                )
            )
            how = "2w / (3 (b/2 − e)), a part lifts" if found.lifts else "w/b (1 + 6 e/b)"
        except BalkenError:
            highest = math.inf
            how = "the load falls outside the footing"
    steps += [
        Step("q", highest, "area load", how=how),
        Step("qa", project.site.soil_bearing, "area load", soil_clause(project)),
    ]
    return Check(
        "Soil pressure",
        highest / project.site.soil_bearing,
        combo,
        soil_clause(project),
        tuple(steps),
    )


def projection(run: FoundationRun, width: float) -> float:
    """How far a footing reaches past the face of its wall on the longer side, mm."""
    return (width - run.stem_thickness) / 2 + abs(run.footing_shift)


def _plain_strip(
    project: Project,
    member: Member,
    run: FoundationRun,
    stretch: Stretch,
    loads: tuple[OnStrip, ...],
) -> list[Check]:
    width = plan_width(member)
    part = next((p for p in run.parts if p.wall == wall_over(member) and p.stem_thickness), None)
    stem = part.stem_thickness if part else run.stem_thickness
    reach = (width - stem) / 2 + abs(run.footing_shift)
    low, high = member.solid.bounds()
    thick = (
        high[2] - low[2]
        if abs(member.solid.normal[2]) > 0.5
        else heights_of(project, run)[1] - heights_of(project, run)[0]
    )
    up, combo = max(
        (highest_line(loads, stretch, c.factors), c.name) for c in strength_combinations(project)
    )
    net = max(0.0, up) / width
    facts = (Step("a", reach, "run", how="projection past the wall"), Step("h", thick, "run"))
    clause = "IRC R403.1.1" if project.system == "us" else "EN 1992-1-1 12.9.3"
    found = [
        Check(
            "Projection",
            reach / thick,
            "–",
            clause,
            (*facts, Step("a / h", reach / thick, "factor", how="no more than 1")),
        )
    ]
    steps: tuple[Step, ...]
    if project.system == "us":
        ratio = plain.flexure(net, reach, thick, project.site.strength)
        how = "h − 2 in, cast against soil"
        steps = (
            *facts,
            Step("qu", net, "area load", how="factored, own weight left out"),
            Step(
                "Mu", plain.cantilever_moment(net, reach), "force", how="qu a²/2 per unit of length"
            ),
            Step("h eff", plain.effective(thick), "run", "ACI 14.5.1.7", how=how),
            Step(
                "φ 5√f'c",
                plain.PHI * plain.modulus_of_rupture(project.site.strength),
                "stress",
                "ACI 14.5.2.1",
            ),
        )
        found.append(Check("Plain bending", ratio, combo, "ACI 318-19 14.5.2", steps))
    else:
        ratio = plain.strip_en(net, reach, thick, project.site.strength)
        steps = (
            *facts,
            Step("σgd", net, "area load", how="design, own weight left out"),
            Step(
                "fctd",
                plain.flexural_strength_en(project.site.strength),
                "stress",
                "EN 1992-1-1 12.3.1",
            ),
        )
        found.append(Check("Plain bending", ratio, combo, "EN 1992-1-1 12.9.3", steps))
    return found


def needed_width(project: Project, path: LoadPath, member: Member, stretches: Stretches) -> float:
    """The width the soil asks of a strip for the load it carries, mm; infinite where its own
    weight is too much."""
    stretch, loads = stretches.of(member), stretches.loads(member, path)
    line = max(highest_line(loads, stretch, c.factors) for c in service_combinations(project))
    low, high = member.solid.bounds()
    try:
        return strip_width(
            max(0.0, line), project.site.soil_bearing, high[2] - low[2], project.site.concrete
        )
    except BalkenError:
        return math.inf


def storeys_over(project: Project, key: str) -> int:
    """How many storeys of walls stand over a wall of the lowest one, itself counted."""
    wall = next((w for w in project.walls if w.id == key), None)
    if wall is None:
        return 1
    foot = level(project, wall.base).elevation
    return len({w.base for w in project.walls if level(project, w.base).elevation >= foot - 1.0})


def construction_of(project: Project, key: str) -> Construction:
    """Which rows of the table a wall belongs to, by its build-up."""
    wall = next((w for w in project.walls if w.id == key), None)
    body = wall_build_up(project, wall) if wall else None
    if body is None:
        return "light frame"
    core = next(x for x in body.layers if x.role == "core").material.lower()
    if body.module or any(
        word in core for word in ("block", "masonry", "concrete", "stone", "brick")
    ):
        return "solid or grouted masonry"
    clad = any("brick" in x.material.lower() for x in body.layers if x.role == "cladding")
    return "brick veneer or hollow masonry" if clad else "light frame"


def table_width(project: Project, run: FoundationRun, member: Member) -> float | None:
    """The least width by the prescriptive table, mm; None in metric projects and where the
    table says nothing."""
    if project.system != "us":
        return None
    key = wall_over(member)
    built, storeys, bearing = (
        construction_of(project, key),
        storeys_over(project, key),
        project.site.soil_bearing,
    )
    framed = width_2021(storeys, below_of(run), bearing, roof_load(project))
    if built == "light frame":
        return framed
    # The tables for brick and masonry of 2021 are not held: the heavier of the older one and the
    # lighter construction.
    older = prescriptive_width(built, storeys, bearing)
    return max((w for w in (framed, older) if w is not None), default=None)


def below_of(run: FoundationRun) -> Below:
    """What lies under the lowest floor over a foundation, as the table has it."""
    return (
        "basement"
        if run.kind == "basement"
        else "crawl space"
        if run.kind == "strip"
        else "slab on grade"
    )


def roof_load(project: Project) -> float:
    """The heavier of roof live load and ground snow of any roof, N/mm²; snow on a roof is 0.7 of
    that on the ground."""
    return max((max(r.live, r.snow / FLAT) for r in project.roofs), default=0.0)


def _table_words(project: Project, run: FoundationRun, member: Member) -> str:
    key = wall_over(member)
    storeys = storeys_over(project, key)
    return (
        f"{construction_of(project, key)}, {storeys} {'storey' if storeys == 1 else 'storeys'},"
        f" {below_of(run)}"
    )


class Proposal(msgspec.Struct, frozen=True):
    """A size proposed: mm, and what asked for it."""

    size: float
    why: str


def proposed_width(
    project: Project, structure: Structure, path: LoadPath, run: FoundationRun
) -> Proposal | None:
    """The width that all strips of a run need, on the module: by the load, the table, or the
    wall it carries."""
    module = WIDTH_MODULE[project.system]
    stretches = Stretches(structure)
    found: list[tuple[float, str]] = []
    for m in structure.members:
        if m.host == HostName("run", run.id) and m.kind is kinds.FOOTING:
            found.append((needed_width(project, path, m, stretches), f"the load on {m.mark}"))
            table = table_width(project, run, m)
            if table is not None:
                found.append((table, f"IRC table R403.1, {_table_words(project, run, m)}"))
    if not found or not math.isfinite(max(found)[0]):
        return None
    found.append(
        (run.stem_thickness + 2 * 2 * INCH, "2 in past each face of the wall (IRC R403.1.1)")
    )
    most, why = max(found)
    return Proposal(rounded_up(most, module), why)
