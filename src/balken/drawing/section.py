"""The wall section in the ladder: what sits on what, from footing to ridge, at true height and
thickness.

Horizontal places are mm inward from the outer face of the wall; heights are the building's.
"""

import msgspec

from balken.drawing.marks import Drawing, Mark, Patch, Stroke, rectangle
from balken.drawing.wall_figure import LAYER_FILLS
from balken.fit.finding import Finding
from balken.framing import kinds
from balken.framing.ground.anchors import EMBEDDED
from balken.framing.hosts.floor_bearing import bed_of_floor
from balken.framing.hosts.heights import build_up_of
from balken.framing.hosts.runs import heights_of
from balken.framing.member import Member
from balken.geometry.plane import Point, box
from balken.model.catalogue import catalogue_of, sections_of
from balken.model.floors import FloorArea
from balken.model.foundations import WITH_STEM, FoundationRun, walls_on
from balken.model.names import HostName, Name, ThingName, wall_below
from balken.model.project import Project, level, wall_base, wall_build_up, wall_top
from balken.model.stacked import stacked
from balken.model.walls import Wall, WallBuildUp, core_of
from balken.site.bodies import outer_sides, storey_outline, storey_walls
from balken.works.building import Checked

INWARD = 1150.0
"""How far joists and rafters are drawn into the room, mm."""
PLATE = 38.0


class SectionPart(msgspec.Struct, frozen=True):
    """A part of the section and the tier it belongs to."""

    tier: Name | None
    mark: Mark


def wall_section(
    checked: Checked, findings: tuple[Finding, ...], foundation: Name | None = None
) -> tuple[SectionPart, ...]:
    """The section through an outside wall that carries joists, on its foundation or on the
    one that is named."""
    project = checked.project
    parts: list[SectionPart] = []
    parts += _ground(project)
    run = _foundation_shown(checked, foundation)
    if run is not None:
        tier = HostName("run", project.runs[0].id)
        parts += [SectionPart(tier, m) for m in foundation_section(project, run)]
    apart = _stands_apart(project, run, foundation)
    lowest = _wall_on(project, run) if run is not None and apart else None
    over = {w.id for w in stacked(project, lowest)} | {lowest.id} if lowest is not None else set()
    for base in dict.fromkeys(w.base for w in project.walls):
        wall = _carrying_wall(checked, base)
        if lowest is not None:
            wall = next((w for w in project.walls if w.base == base and w.id in over), None)
        if wall:
            parts += [SectionPart(ThingName("walls", base), m) for m in _wall(project, wall)]
    levels: set[tuple[str, str]] = set()
    for floor in () if apart else project.floors:
        here = (floor.level, build_up_of(project, floor).use)
        if here in levels:
            continue  # one floor stands for its level
        levels.add(here)
        parts += [SectionPart(HostName("floor", floor.id), m) for m in _floor(checked, floor)]
    if not project.walls or not any(f.walls for f in project.floors):
        parts += _posts_and_beams(checked)
    for roof in () if apart else project.roofs:
        rafter = next(
            (
                m
                for m in checked.structure.of(kinds.RAFTER)
                if m.host == HostName("roof", roof.id) and m.id.family == "rafter"
            ),
            None,
        )
        if rafter:
            parts += [SectionPart(HostName("roof", roof.id), m) for m in _rafter(rafter)]
    for finding in findings:
        if finding.height and finding.kind in ("gap", "overlap"):
            low, high = finding.height
            parts.append(
                SectionPart(finding.host, Patch(rectangle(0, low, INWARD, high), "misfit", "none"))
            )
    return tuple(parts)


def _floor(checked: Checked, floor: FloorArea) -> list[Mark]:
    """A floor as it is cut: rim and joist with insulation between, subfloor and ceiling; or
    the slab."""
    project = checked.project
    bed = bed_of_floor(checked.built, floor)
    sized = checked.sizes.get(HostName("floor", floor.id))
    build_up = build_up_of(project, floor)
    if bed is None:
        return []
    if build_up.kind == "slab":
        return [
            Patch(rectangle(0, bed.height, INWARD, bed.height + build_up.slab), "concrete", "cut")
        ]
    if sized is None:
        return []
    section = sections_of(project.system, project.products)[sized.size.section]
    top = bed.height + section.depth
    rim = 0.0 if build_up.use == "ceiling" else section.breadth
    marks: list[Mark] = []
    if build_up.ceiling:
        marks.append(
            Patch(
                rectangle(rim, bed.height - build_up.ceiling, INWARD, bed.height), "board", "seen"
            )
        )
    if rim:
        marks.append(Patch(rectangle(0, bed.height, rim, top), "end grain", "cut"))
    marks.append(Patch(rectangle(rim, bed.height, INWARD, top), "timber", "seen"))
    if build_up.insulation:
        # Seen past the joist that is drawn: it fills the rest of the bay.
        thick = min(build_up.insulation, section.depth)
        marks.append(
            Patch(
                rectangle(INWARD * 0.55, bed.height, INWARD, bed.height + thick),
                "insulation",
                "none",
            )
        )
    if build_up.subfloor:
        marks.append(Patch(rectangle(0, top, INWARD, top + build_up.subfloor), "panel", "cut"))
    return marks


def _posts_and_beams(checked: Checked) -> list[SectionPart]:
    """A post with its pad and the beam on it: what stands where no wall does."""
    posts = [m for m in checked.structure.members if m.kind is kinds.POST]
    beams = {m.id: m for m in checked.structure.members if m.kind is kinds.BEAM}
    found: list[SectionPart] = []
    tops = {round(m.end[2], -2): m for m in reversed(posts)}
    for mine in ([m] for m in tops.values()):
        on = next(
            (b for b in beams.values() for s in b.carrier.supports if s.on == mine[0].id), None
        )
        wide = _across(mine[0])
        found.append(
            SectionPart(
                None, Patch(rectangle(0, mine[0].start[2], wide, mine[0].end[2]), "timber", "seen")
            )
        )
        pad = next(
            (
                m
                for m in checked.structure.members
                if m.kind is kinds.PAD and m.start[:2] == mine[0].start[:2]
            ),
            None,
        )
        if pad is not None:
            half = (_across(pad) - wide) / 2
            found.append(
                SectionPart(
                    None,
                    Patch(
                        rectangle(-half, pad.start[2], wide + half, pad.end[2]), "concrete", "cut"
                    ),
                )
            )
        if on is not None:
            low, high = on.solid.bounds()[0][2], on.solid.top()
            breadth = on.solid.depth
            left = (wide - breadth) / 2
            found.append(
                SectionPart(
                    None, Patch(rectangle(left, low, left + breadth, high), "end grain", "cut")
                )
            )
    return found


def _across(m: Member) -> float:
    x0, _, x1, _ = box(m.solid.plan())
    return x1 - x0


def _carrying_wall(checked: Checked, base: str) -> Wall | None:
    """The outside wall of a storey that most members bear on."""
    counts: dict[str, int] = {}
    walls = storey_walls(checked.project, base)
    outer = set(outer_sides(walls, storey_outline(walls)))
    for m in checked.structure.members:
        for s in m.carrier.supports:
            key = wall_below(s.on)
            counts[key] = counts.get(key, 0) + 1
    mine = [w for w in checked.project.walls if w.base == base]
    return max(mine, key=lambda w: (w.id in outer, counts.get(w.id, 0), w.id), default=None)


def _ground(project: Project) -> list[SectionPart]:
    ground = next((x for x in project.levels if x.role == "ground"), None)
    if ground is None:
        return []
    z = ground.elevation
    earth = Patch(((-1200.0, z - 420), (0.0, z - 420), (0.0, z), (-1200.0, z)), "earth", "none")
    return [SectionPart(None, earth), SectionPart(None, Stroke(((-1250.0, z), (0.0, z)), "cut"))]


def _stands_apart(project: Project, run: FoundationRun | None, wanted: Name | None) -> bool:
    """Whether the foundation that is looked at carries none of the floors: a wing, a
    terrace."""
    if run is None or HostName("run", run.id) != wanted:
        return False
    on = set(walls_on(run))
    return not any(on & set(f.walls) for f in project.floors)


def _wall_on(project: Project, run: FoundationRun) -> Wall | None:
    return next((w for w in project.walls if w.id in walls_on(run)), None)


def _foundation_shown(checked: Checked, wanted: Name | None) -> FoundationRun | None:
    """The foundation the ladder shows: the one that is looked at, else that under the wall
    it shows."""
    project = checked.project
    named = next((r for r in project.runs if HostName("run", r.id) == wanted), None)
    if named is not None or not project.runs:
        return named
    lowest = min(
        (level(project, w.base) for w in project.walls), key=lambda x: x.elevation, default=None
    )
    wall = _carrying_wall(checked, lowest.id) if lowest else None
    under = [r for r in project.runs if wall is not None and wall.id in walls_on(r)]
    return next((r for r in (*under, *project.runs)), None)


def foundation_section(project: Project, run: FoundationRun) -> list[Mark]:
    """A foundation cut across, before it steps: mm inward from the face of the wall over it,
    and heights."""
    bottom, base, top, slab = heights_of(project, run)
    sill = catalogue_of(project.system).sections.get(run.sill)
    face = -run.offset
    marks: list[Mark] = []
    if run.kind in WITH_STEM:
        stem = run.stem_thickness
        middle = face + stem / 2 - run.footing_shift
        half = run.footing_width / 2
        if run.blinding:
            low = bottom - run.blinding
            marks.append(
                Patch(rectangle(middle - half, low, middle + half, bottom), "concrete", "seen")
            )
        marks.append(
            Patch(rectangle(middle - half, bottom, middle + half, base), "concrete", "cut")
        )
        marks.append(Patch(_stem_outline(run, face, base, top), "concrete", "cut"))
        if run.joint == "keyed":
            key = min(stem / 3, 90.0)
            centre = face + stem / 2
            marks.append(
                Patch(
                    rectangle(centre - key / 2, base - key / 2.4, centre + key / 2, base),
                    "concrete",
                    "seen",
                )
            )
        elif run.joint == "doweled":
            centre = face + stem / 2
            marks.append(
                Stroke(
                    ((centre, (bottom + base) / 2), (centre, base + min(600.0, (top - base) / 2))),
                    "cut",
                )
            )
        if run.slab_thickness:
            marks.append(
                Patch(
                    rectangle(face + stem, slab - run.slab_thickness, INWARD, slab),
                    "concrete",
                    "cut",
                )
            )
    elif run.kind == "grade beam":
        marks.append(
            Patch(
                rectangle(face, top - run.edge_depth, face + run.edge_width, top), "concrete", "cut"
            )
        )
    elif run.kind == "slab":
        marks.append(
            Patch(rectangle(face, slab - run.slab_thickness, INWARD, slab), "concrete", "cut")
        )
    else:
        low, under = slab - run.edge_depth, slab - run.slab_thickness
        inner = face + run.edge_width
        ring = (
            (face, low),
            (inner, low),
            (inner, under),
            (INWARD, under),
            (INWARD, slab),
            (face, slab),
        )
        marks.append(Patch(ring, "concrete", "cut"))
    if sill:
        on = slab if run.kind == "slab edge" else top
        begins = max((s.width for s in run.shelves if s.kind == "ledge"), default=0.0)
        marks.append(
            Patch(rectangle(begins, on, begins + sill.depth, on + sill.breadth), "end grain", "cut")
        )
        bolt = begins + sill.depth / 2
        marks.append(Stroke(((bolt, on - EMBEDDED), (bolt, on + sill.breadth + 20.0)), "seen"))
        marks.append(Stroke(((bolt, on - EMBEDDED), (bolt + 45.0, on - EMBEDDED)), "seen"))
        if run.gasket:
            marks.append(
                Patch(rectangle(begins, on - 6.0, begins + sill.depth, on), "shade", "hair")
            )
    return marks


def _stem_outline(run: FoundationRun, face: float, base: float, top: float) -> tuple[Point, ...]:
    """A foundation wall cut across, with its ledge, seat and corbel."""
    inner = face + run.stem_thickness
    ledge = next((s for s in run.shelves if s.kind == "ledge"), None)
    seat = next((s for s in run.shelves if s.kind == "seat"), None)
    corbel = next((s for s in run.shelves if s.kind == "corbel"), None)
    ring: list[Point] = [(face, base), (inner, base)]
    if corbel:
        ring += [
            (inner, top - corbel.depth),
            (inner + corbel.width, top - corbel.depth),
            (inner + corbel.width, top),
        ]
    elif seat:
        ring += [
            (inner, top - seat.depth),
            (inner - seat.width, top - seat.depth),
            (inner - seat.width, top),
        ]
    else:
        ring.append((inner, top))
    if ledge:
        ring += [
            (face + ledge.width, top),
            (face + ledge.width, top - ledge.depth),
            (face, top - ledge.depth),
        ]
    else:
        ring.append((face, top))
    return tuple(ring)


def _wall(project: Project, wall: Wall) -> list[Mark]:
    """Bottom plate, studs with insulation between, two top plates; round them the layers that are
    known, outside in.

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
        Patch(rectangle(begins, high - k * PLATE, ends, high - (k - 1) * PLATE), "end grain", "cut")
        for k in (1, 2)
    ]
    return marks


def _is_massive(body: WallBuildUp) -> bool:
    core = next(layer for layer in body.layers if layer.role == "core")
    return any(
        word in core.material.lower() for word in ("concrete", "block", "brick", "masonry", "stone")
    )


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
    """The marks alone."""
    return tuple(p.mark for p in parts)
