"""The wall section in the ladder: what sits on what, from footing to ridge, at true height and thickness.

Horizontal places are mm inward from the outer face of the wall; heights are the building's.
"""

import msgspec

from balken.design.building import Checked
from balken.drawing.marks import Drawing, Mark, Patch, Stroke, rectangle
from balken.drawing.wall_figure import LAYER_FILLS
from balken.fit.finding import Finding
from balken.framing.member import Member
from balken.framing.structure import bed_of_floor, bed_of_roof, build_up_of
from balken.geometry.plane import Point
from balken.model.bodies import outer_sides, storey_outline, storey_walls
from balken.model.catalogue import catalogue_of
from balken.model.memo import Memo
from balken.model.project import Project, level, wall_base, wall_build_up, wall_top
from balken.model.walls import Wall, WallBuildUp, core_of

INWARD = 1150.0
"""How far joists and rafters are drawn into the room, mm."""
PLATE = 38.0


class SectionPart(msgspec.Struct, frozen=True):
    """A part of the section and the tier it belongs to."""

    tier: str
    mark: Mark


def wall_section(checked: Checked, findings: tuple[Finding, ...], memo: Memo) -> tuple[SectionPart, ...]:
    """Return the section through an outside wall that carries joists."""
    project = checked.project
    parts: list[SectionPart] = []
    parts += _ground(project)
    for run in project.runs:
        parts += [SectionPart(f"run:{run.id}", m) for m in _foundation(checked, run.id)]
    for base in dict.fromkeys(w.base for w in project.walls):
        wall = _carrying_wall(checked, base, memo)
        if wall:
            parts += [SectionPart(f"walls:{base}", m) for m in _wall(project, wall)]
    for floor in project.floors:
        bed = bed_of_floor(project, floor, memo)
        sized = checked.sizes.get(f"floor:{floor.id}")
        if bed is None or sized is None:
            continue
        section = catalogue_of(project.system).sections[sized.size.section]
        build_up = build_up_of(project, floor)
        marks: list[Mark] = []
        top = bed.height + section.depth
        rim = 0.0 if build_up.use == "ceiling" else section.breadth
        if rim:
            marks.append(Patch(rectangle(0, bed.height, rim, top), "end grain", "cut"))
        marks.append(Patch(rectangle(rim, bed.height, INWARD, top), "timber", "seen"))
        if build_up.subfloor:
            marks.append(Patch(rectangle(0, top, INWARD, top + build_up.subfloor), "panel", "cut"))
        parts += [SectionPart(f"floor:{floor.id}", m) for m in marks]
    for roof in project.roofs:
        bed = bed_of_roof(project, roof, memo)
        rafter = next(
            (m for m in checked.structure.members if m.host == f"roof:{roof.id}" and m.role == "rafter"), None
        )
        if bed and rafter:
            parts += [SectionPart(f"roof:{roof.id}", m) for m in _rafter(rafter)]
    for finding in findings:
        if finding.height and finding.kind in ("gap", "overlap"):
            low, high = finding.height
            parts.append(SectionPart(finding.host, Patch(rectangle(0, low, INWARD, high), "misfit", "none")))
    return tuple(parts)


def _carrying_wall(checked: Checked, base: str, memo: Memo) -> Wall | None:
    """Return the outside wall of a storey that most members bear on."""
    counts: dict[str, int] = {}
    walls = storey_walls(checked.project, base)
    outer = set(memo(outer_sides, walls, memo(storey_outline, walls, memo)))
    for m in checked.structure.members:
        for s in m.supports:
            key = s.on.removeprefix("wall:").rsplit(":", 1)[-1].split(".")[0]
            counts[key] = counts.get(key, 0) + 1
    mine = [w for w in checked.project.walls if w.base == base]
    return max(mine, key=lambda w: (w.id in outer, counts.get(w.id, 0), w.id), default=None)


def _ground(project: Project) -> list[SectionPart]:
    ground = next((x for x in project.levels if x.role == "ground"), None)
    if ground is None:
        return []
    z = ground.elevation
    earth = Patch(((-1200.0, z - 420), (0.0, z - 420), (0.0, z), (-1200.0, z)), "earth", "none")
    return [SectionPart("", earth), SectionPart("", Stroke(((-1250.0, z), (0.0, z)), "cut"))]


def _foundation(checked: Checked, key: str) -> list[Mark]:
    project = checked.project
    run = next(r for r in project.runs if r.id == key)
    bottom, base, top = (level(project, k).elevation for k in (run.bottom, run.base, run.top))
    face = -run.offset
    middle = face + run.stem_thickness / 2
    sill = catalogue_of(project.system).sections.get(run.sill)
    marks: list[Mark] = [
        Patch(
            rectangle(middle - run.footing_width / 2, bottom, middle + run.footing_width / 2, base), "concrete", "cut"
        ),
        Patch(rectangle(face, base, face + run.stem_thickness, top), "concrete", "cut"),
    ]
    if sill:
        marks.append(Patch(rectangle(0, top, sill.depth, top + sill.breadth), "end grain", "cut"))
    return marks


def _wall(project: Project, wall: Wall) -> list[Mark]:
    """Bottom plate, studs with insulation between, two top plates; round them the layers that are known, outside in.

    Layers outside the core reach down by the wall's lap; a core of block or concrete has no plates.
    """
    low, high = wall_base(project, wall), wall_top(project, wall)
    body = wall_build_up(project, wall)
    begins, ends = core_of(body) if body else (0.0, wall.thickness)
    marks: list[Mark] = []
    x = 0.0
    for layer in body.layers if body else ():
        foot = low - wall.lap if x < begins else low
        if layer.role != "core":
            fill = LAYER_FILLS[layer.role]
            marks.append(Patch(rectangle(x, foot, x + layer.thickness, high), fill, "seen"))
        x += layer.thickness
    if body is not None and (body.module or _is_massive(body)):
        fill = "block" if body.module else "concrete"
        return [*marks, Patch(rectangle(begins, low, ends, high), fill, "cut")]
    marks.append(Patch(rectangle(begins, low, ends, high), "insulation", "cut"))
    marks.append(Patch(rectangle(begins, low, ends, low + PLATE), "end grain", "cut"))
    marks += [
        Patch(rectangle(begins, high - k * PLATE, ends, high - (k - 1) * PLATE), "end grain", "cut") for k in (1, 2)
    ]
    return marks


def _is_massive(body: WallBuildUp) -> bool:
    core = next(layer for layer in body.layers if layer.role == "core")
    return any(word in core.material.lower() for word in ("concrete", "block", "brick", "masonry", "stone"))


def _rafter(rafter: Member) -> list[Mark]:
    """The rafter's own outline, cut off where the section ends."""
    outline = rafter.solid.outline
    ring: list[Point] = []
    for (x0, z0), (x1, z1) in zip(outline, (*outline[1:], outline[0])):
        if x0 <= INWARD:
            ring.append((x0, z0))
        if (x0 <= INWARD) != (x1 <= INWARD):
            ring.append((INWARD, z0 + (INWARD - x0) / (x1 - x0) * (z1 - z0)))
    return [Patch(tuple(ring), "timber", "cut")]


def section_drawing(parts: tuple[SectionPart, ...]) -> Drawing:
    """Return the marks alone."""
    return tuple(p.mark for p in parts)
