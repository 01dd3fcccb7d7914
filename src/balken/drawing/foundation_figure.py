"""A foundation drawn across with its sizes, as it stands or while its parts are chosen one by one.

The figure is 100 wide; what is not chosen yet is an empty outline with a question mark.
"""

from balken.drawing.marks import Drawing, Label, Mark, Patch, Stroke
from balken.drawing.section import foundation_section
from balken.geometry.plane import Point
from balken.model.foundations import WITH_STEM, Chosen, FoundationKind, FoundationRun, chosen_of
from balken.model.project import FORMAT, Level, Project
from balken.model.usual import USUAL
from balken.units import INCH, System, format_run

TEXT = 3.6
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
