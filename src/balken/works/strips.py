"""Strips on soil: what lies on each and under it, and the width they need."""

import math
from typing import Final

import msgspec

from balken.design.codes.us.irc_soil import Below, Construction
from balken.design.footing_loads import WIDTH_MODULE, wall_over
from balken.design.soil.sizes import rounded_up
from balken.design.strip_loads import Stretches
from balken.design.strips import ByTable, OnSoil, needed_width, table_width
from balken.framing import kinds
from balken.framing.hosts.runs import heights_of
from balken.framing.member import Member
from balken.framing.structure import Structure
from balken.loads.codes.us.snow import FLAT
from balken.loads.path import LoadPath
from balken.model.foundations import FoundationRun
from balken.model.names import HostName
from balken.model.project import Project, level, wall_build_up
from balken.model.walls import LayerRole, WallBuildUp
from balken.units import INCH
from balken.works.records import run_of
from balken.works.terms import terms_of


def on_soil(
    project: Project, structure: Structure, path: LoadPath, member: Member, stretches: Stretches
) -> OnSoil:
    """A piece of strip, edge or grade beam with what lies on it and under it."""
    run = run_of(project, member)
    low, high = member.solid.bounds()
    bottom, base, *_ = heights_of(project, run)
    upright = abs(member.solid.normal[2]) > 0.5
    return OnSoil(
        member,
        run,
        structure.volume(member) * project.site.concrete / max(member.length, 1.0),
        high[2] - low[2] if upright else base - bottom,
        stretches.of(member),
        stretches.loads(member, path),
        _by_table(project, run, member) if project.code == "us" else None,
    )


def _by_table(project: Project, run: FoundationRun, member: Member) -> ByTable:
    key = wall_over(member)
    return ByTable(
        construction_of(project, key),
        storeys_over(project, key),
        below_of(run),
        roof_load(project),
    )


def storeys_over(project: Project, key: str) -> int:
    """How many storeys of walls stand over a wall of the lowest one, itself counted."""
    wall = next((w for w in project.walls if w.id == key), None)
    if wall is None:
        return 1
    foot = level(project, wall.base).elevation
    return len({w.base for w in project.walls if level(project, w.base).elevation >= foot - 1.0})


SOLID: Final = ("block", "masonry", "concrete", "stone", "brick")
"""Words in the material of a core that is no frame."""


def construction_of(project: Project, key: str) -> Construction:
    """Which rows of the table a wall belongs to, by its build-up."""
    wall = next((w for w in project.walls if w.id == key), None)
    body = wall_build_up(project, wall) if wall else None
    if body is None:
        return "light frame"
    if body.module or any(word in _materials(body, "core") for word in SOLID):
        return "solid or grouted masonry"
    clad = _materials(body, "cladding")
    return "brick veneer or hollow masonry" if "brick" in clad else "light frame"


def _materials(body: WallBuildUp, role: LayerRole) -> str:
    """What the layers of a role are of, in one line."""
    return " ".join(x.material.lower() for x in body.layers if x.role == role)


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


class Proposal(msgspec.Struct, frozen=True):
    """A size proposed: mm, and what asked for it."""

    size: float
    why: str


def proposed_width(
    project: Project, structure: Structure, path: LoadPath, run: FoundationRun
) -> Proposal | None:
    """The width that all strips of a run need, on the module: by the load, the table, or the
    wall it carries."""
    terms, module = terms_of(project), WIDTH_MODULE[project.system]
    stretches = Stretches(structure)
    found: list[tuple[float, str]] = []
    for m in structure.members:
        if m.host == HostName("run", run.id) and m.kind is kinds.FOOTING:
            strip = on_soil(project, structure, path, m, stretches)
            found.append((needed_width(terms, strip), f"the load on {m.mark}"))
            table = table_width(terms, strip.table) if strip.table else None
            if strip.table is not None and table is not None:
                found.append((table, f"IRC table R403.1, {strip.table.words}"))
    if not found or not math.isfinite(max(found)[0]):
        return None
    found.append(
        (run.stem_thickness + 2 * 2 * INCH, "2 in past each face of the wall (IRC R403.1.1)")
    )
    most, why = max(found)
    return Proposal(rounded_up(most, module), why)
