"""A foundation drawn across with its sizes, as it stands or while its parts are chosen one by one.

The figure is 100 wide; what is not chosen yet is an empty outline with a question mark.
"""

from balken.drawing.marks import Drawing, Label, Mark, Patch, Stroke, rectangle
from balken.framing.ground.anchors import EMBEDDED
from balken.framing.hosts.runs import heights_of
from balken.geometry.plane import Point
from balken.model.catalogue import catalogue_of
from balken.model.foundations import WITH_STEM, Chosen, FoundationKind, FoundationRun, chosen_of
from balken.model.project import FORMAT, Level, Project
from balken.model.usual import USUAL
from balken.units import INCH, System, format_run

TEXT = 3.6
INWARD = 1150.0
"""Slabs are broken off so far in the room, mm."""
SEEN = 1500.0
"""Longer walls than this are broken off in the figure, mm."""
GUESS = Chosen(
    (20 * INCH, 10 * INCH),
    8 * INCH,
    4 * INCH,
    (12 * INCH, 20 * INCH),
    (12 * INCH, 20 * INCH),
    "2x6",
)
"""Sizes in which parts are outlined that are not chosen yet."""


def chosen_figure(kind: FoundationKind, chosen: Chosen, system: System) -> Drawing:
    """A kind of foundation drawn across with the parts that are chosen so far."""
    footing, wall = chosen.footing or GUESS.footing, chosen.wall or GUESS.wall
    edge = (chosen.edge if kind == "slab edge" else chosen.beam) or GUESS.edge
    slab = chosen.slab or GUESS.slab
    assert footing is not None
    assert edge is not None
    levels = (
        Level("T", "", "foundation_top", 0.0),
        Level("B", "", "footing_top", -700.0),
        Level("F", "", "footing_bottom", -700.0 - footing[1]),
        Level("S", "", "slab", -700.0 + (slab or 0.0)),
    )
    run = FoundationRun(
        "",
        "",
        (),
        "T",
        "B",
        "F",
        wall or 0.0,
        footing[0],
        kind=kind,
        sill=chosen.sill or "",
        slab_thickness=(slab or 0.0) if kind in ("basement", "slab", "slab edge") else 0.0,
        slab_level="S" if kind == "basement" else "",
        edge_width=edge[0],
        edge_depth=edge[1],
    )
    project = Project(FORMAT, "", system, USUAL[system].code, levels)
    return _figure(project, run, chosen)


def run_figure(project: Project, run: FoundationRun, thickness: float) -> Drawing:
    """A foundation that stands, drawn across with its sizes."""
    return _figure(project, run, chosen_of(run, thickness))


def _figure(project: Project, run: FoundationRun, chosen: Chosen) -> Drawing:
    marks = foundation_section(project, run)
    points = [p for m in marks if isinstance(m, Patch) for p in m.ring]
    x0, x1 = (
        min(p[0] for p in points),
        min(max(p[0] for p in points), min(p[0] for p in points) + SEEN),
    )
    z0, z1 = min(p[1] for p in points), max(p[1] for p in points)
    broken = z1 - z0 > SEEN
    scale = min(52.0 / (x1 - x0), 56.0 / min(z1 - z0, SEEN))
    top = z1 - (SEEN / 2 if broken else z1 - z0)

    def at(p: Point) -> Point:
        z = p[1]
        if broken:  # the middle of a tall wall is left out
            z = z if z >= top else max(z, z0) + (z1 - z0 - SEEN) if z <= z0 + SEEN / 2 else top
        return (24 + (min(p[0], x1) - x0) * scale, (z - z1) * scale)

    found: list[Mark] = []
    for mark in marks:
        if isinstance(mark, Patch):
            ring = tuple(at(p) for p in mark.ring)
            known = _is_chosen(mark, run, chosen, project)
            found.append(
                Patch(ring, mark.fill if known else "none", mark.pen if known else "hidden")
            )
        elif isinstance(mark, Stroke):
            found.append(Stroke(tuple(at(p) for p in mark.points), mark.pen))
    if broken:
        x, y = at(((chosen.wall or 0.0) / 2, top))
        found.append(
            Stroke(((x - 9, y - 1.2), (x - 2, y + 1.2), (x + 2, y - 1.2), (x + 9, y + 1.2)), "seen")
        )
    return tuple(found + _sizes(project.system, run, chosen))


def _is_chosen(mark: Patch, run: FoundationRun, chosen: Chosen, project: Project) -> bool:
    """Whether the part a patch belongs to is chosen: by where it lies."""
    if mark.fill in ("end grain", "shade"):
        return chosen.sill is not None
    xs, zs = [p[0] for p in mark.ring], [p[1] for p in mark.ring]
    if run.kind in WITH_STEM:
        base = next(x.elevation for x in project.levels if x.id == run.base)
        if max(zs) <= base + 0.5 and min(zs) < base - 0.5:
            return chosen.footing is not None
        if max(xs) - min(xs) > run.stem_thickness * 2.5:
            return chosen.slab is not None
        return chosen.wall is not None
    if run.kind == "slab":
        return chosen.slab is not None
    if run.kind == "slab edge":
        return chosen.slab is not None and chosen.edge is not None
    return chosen.beam is not None


def _sizes(system: System, run: FoundationRun, chosen: Chosen) -> list[Mark]:
    """One line of words a part, at the left, from the top down."""
    words: list[tuple[str, str]] = []

    def pair(sizes: tuple[float, float] | None) -> str:
        return f"{format_run(sizes[0], system)} × {format_run(sizes[1], system)}" if sizes else "?"

    def one(size: float | None) -> str:
        return format_run(size, system) if size else "?"

    if run.kind != "slab":
        words.append(
            ("sill", "?" if chosen.sill is None else chosen.sill.replace("x", "×") or "none")
        )
    if run.kind in WITH_STEM:
        words.append(("wall", one(chosen.wall)))
    if run.kind in ("basement", "slab", "slab edge"):
        words.append(("slab", one(chosen.slab)))
    if run.kind in WITH_STEM:
        words.append(("footing", pair(chosen.footing)))
    if run.kind == "slab edge":
        words.append(("edge", pair(chosen.edge)))
    if run.kind == "grade beam":
        words.append(("beam", pair(chosen.beam)))
    found: list[Mark] = []
    y = -4.0
    for name, size in words:
        found.append(Label(name, (0.0, y), TEXT, "start", quiet=True))
        found.append(Label(size, (0.0, y - 4.6), TEXT, "start", bold=True))
        y -= 11.5
    return found


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
