"""A foundation drawn across with its sizes, as it stands or while its parts are chosen one by one.

The figure is 100 wide; what is not chosen yet is an empty outline with a question mark.
"""

from typing import NamedTuple

from balken.drawing.marks import Drawing, Label, Mark, Patch, Stroke, rectangle
from balken.framing.ground.anchors import EMBEDDED
from balken.framing.hosts.runs import heights_of
from balken.geometry.plane import Point, box
from balken.model.catalogue import catalogue_of
from balken.model.foundations import WITH_STEM, Chosen, FoundationKind, FoundationRun, chosen_of
from balken.model.project import FORMAT, Level, Project, level
from balken.model.sections import Section
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
    slab = chosen.slab or GUESS.slab or 0.0
    assert footing is not None
    assert edge is not None
    levels = (
        Level("T", "", "foundation_top", 0.0),
        Level("B", "", "footing_top", -700.0),
        Level("F", "", "footing_bottom", -700.0 - footing[1]),
        Level("S", "", "slab", -700.0 + slab),
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
        slab_thickness=slab if kind in ("basement", "slab", "slab edge") else 0.0,
        slab_level="S" if kind == "basement" else "",
        edge_width=edge[0],
        edge_depth=edge[1],
    )
    project = Project(FORMAT, "", system, USUAL[system].code, levels)
    return _figure(project, run, chosen)


class _Sheet(NamedTuple):
    """The box that is drawn of a foundation, mm, and its scale; the middle of a wall that is too
    tall is left out."""

    x0: float
    x1: float
    z0: float
    z1: float

    @property
    def broken(self) -> bool:
        """Whether the middle is left out."""
        return self.z1 - self.z0 > SEEN

    @property
    def scale(self) -> float:
        """Of the figure."""
        return min(52.0 / (self.x1 - self.x0), 56.0 / min(self.z1 - self.z0, SEEN))

    @property
    def break_at(self) -> float:
        """The height over which nothing is left out."""
        return self.z1 - (SEEN / 2 if self.broken else self.z1 - self.z0)

    def at(self, p: Point) -> Point:
        """Where a place is drawn."""
        z = p[1]
        if self.broken and z < self.break_at:
            lower = max(z, self.z0) + (self.z1 - self.z0 - SEEN)
            z = lower if z <= self.z0 + SEEN / 2 else self.break_at
        return 24 + (min(p[0], self.x1) - self.x0) * self.scale, (z - self.z1) * self.scale


def run_figure(project: Project, run: FoundationRun, thickness: float) -> Drawing:
    """A foundation that stands, drawn across with its sizes."""
    return _figure(project, run, chosen_of(run, thickness))


def _figure(project: Project, run: FoundationRun, chosen: Chosen) -> Drawing:
    marks = foundation_section(project, run)
    x0, z0, x1, z1 = box([p for m in marks if isinstance(m, Patch) for p in m.ring])
    sheet = _Sheet(x0, min(x1, x0 + SEEN), z0, z1)
    found: list[Mark] = []
    for mark in marks:
        if isinstance(mark, Stroke):
            found.append(Stroke(tuple(sheet.at(p) for p in mark.points), mark.pen))
        elif isinstance(mark, Patch):
            ring = tuple(sheet.at(p) for p in mark.ring)
            known = _is_chosen(mark, run, chosen, project)
            found.append(
                Patch(ring, mark.fill, mark.pen) if known else Patch(ring, "none", "hidden")
            )
    if sheet.broken:
        x, y = sheet.at(((chosen.wall or 0.0) / 2, sheet.break_at))
        zigzag = ((x - 9, y - 1.2), (x - 2, y + 1.2), (x + 2, y - 1.2), (x + 9, y + 1.2))
        found.append(Stroke(zigzag, "seen"))
    return tuple(found + _sizes(project.system, run, chosen))


def _is_chosen(mark: Patch, run: FoundationRun, chosen: Chosen, project: Project) -> bool:
    """Whether the part a patch belongs to is chosen: by where it lies."""
    if mark.fill in ("end grain", "shade"):
        return chosen.sill is not None
    if run.kind in WITH_STEM:
        return _part_of_strip(mark, run, chosen, project) is not None
    if run.kind == "slab":
        return chosen.slab is not None
    if run.kind == "slab edge":
        return chosen.slab is not None and chosen.edge is not None
    return chosen.beam is not None


def _part_of_strip(
    mark: Patch, run: FoundationRun, chosen: Chosen, project: Project
) -> object | None:
    """What is chosen for the footing, slab or wall that a patch of a strip is."""
    x0, low, x1, high = box(mark.ring)
    base = level(project, run.base).elevation
    if high <= base + 0.5 and low < base - 0.5:
        return chosen.footing
    return chosen.slab if x1 - x0 > run.stem_thickness * 2.5 else chosen.wall


def _sizes(system: System, run: FoundationRun, chosen: Chosen) -> list[Mark]:
    """One line of words a part, at the left, from the top down."""

    def size(*sizes: float | None) -> str:
        return " × ".join(format_run(s, system) for s in sizes if s) or "?"

    sill = "?" if chosen.sill is None else chosen.sill.replace("x", "×") or "none"
    stem, slab = run.kind in WITH_STEM, run.kind in ("basement", "slab", "slab edge")
    words = [
        ("sill", sill, run.kind != "slab"),
        ("wall", size(chosen.wall), stem),
        ("slab", size(chosen.slab), slab),
        ("footing", size(*(chosen.footing or ())), stem),
        ("edge", size(*(chosen.edge or ())), run.kind == "slab edge"),
        ("beam", size(*(chosen.beam or ())), run.kind == "grade beam"),
    ]
    found: list[Mark] = []
    for row, (name, words_of, _) in enumerate(w for w in words if w[2]):
        y = -4.0 - 11.5 * row
        found.append(Label(name, (0.0, y), TEXT, "start", quiet=True))
        found.append(Label(words_of, (0.0, y - 4.6), TEXT, "start", bold=True))
    return found


def foundation_section(project: Project, run: FoundationRun) -> list[Mark]:
    """A foundation drawn across as its record says, before it steps: mm inward from the face of
    the wall over it, and heights."""
    if run.kind in WITH_STEM:
        marks = _stem_and_footing(project, run)
    else:
        marks = [_without_stem(project, run)]
    sill = catalogue_of(project.system).sections.get(run.sill)
    return marks + (_sill(project, run, sill) if sill else [])


def _stem_and_footing(project: Project, run: FoundationRun) -> list[Mark]:
    bottom, base, top, slab = heights_of(project, run)
    face, stem = -run.offset, run.stem_thickness
    middle, half = face + stem / 2 - run.footing_shift, run.footing_width / 2
    marks: list[Mark] = []
    if run.blinding:
        low = bottom - run.blinding
        lean = rectangle(middle - half, low, middle + half, bottom)
        marks.append(Patch(lean, "concrete", "seen"))
    footing = rectangle(middle - half, bottom, middle + half, base)
    marks.append(Patch(footing, "concrete", "cut"))
    marks.append(Patch(_stem_outline(run, face, base, top), "concrete", "cut"))
    marks += _joint(run, face + stem / 2, bottom, base, top)
    if run.slab_thickness:
        floor = rectangle(face + stem, slab - run.slab_thickness, INWARD, slab)
        marks.append(Patch(floor, "concrete", "cut"))
    return marks


def _joint(run: FoundationRun, centre: float, bottom: float, base: float, top: float) -> list[Mark]:
    """The key or the dowel between a wall and its footing."""
    if run.joint == "keyed":
        key = min(run.stem_thickness / 3, 90.0)
        notch = rectangle(centre - key / 2, base - key / 2.4, centre + key / 2, base)
        return [Patch(notch, "concrete", "seen")]
    if run.joint == "doweled":
        end = base + min(600.0, (top - base) / 2)
        return [Stroke(((centre, (bottom + base) / 2), (centre, end)), "cut")]
    return []


def _without_stem(project: Project, run: FoundationRun) -> Mark:
    """A slab, its thickened edge, or a grade beam."""
    _, _, top, slab = heights_of(project, run)
    face, inner = -run.offset, run.edge_width - run.offset
    if run.kind == "grade beam":
        return Patch(rectangle(face, top - run.edge_depth, inner, top), "concrete", "cut")
    under = slab - run.slab_thickness
    if run.kind == "slab":
        return Patch(rectangle(face, under, INWARD, slab), "concrete", "cut")
    low = slab - run.edge_depth
    ring = (
        (face, low),
        (inner, low),
        (inner, under),
        (INWARD, under),
        (INWARD, slab),
        (face, slab),
    )
    return Patch(ring, "concrete", "cut")


def _sill(project: Project, run: FoundationRun, sill: Section) -> list[Mark]:
    """The sill with an anchor bolt, and the gasket under it."""
    _, _, top, slab = heights_of(project, run)
    on = slab if run.kind == "slab edge" else top
    begins = max((s.width for s in run.shelves if s.kind == "ledge"), default=0.0)
    bolt, foot = begins + sill.depth / 2, on - EMBEDDED
    plate = rectangle(begins, on, begins + sill.depth, on + sill.breadth)
    marks: list[Mark] = [
        Patch(plate, "end grain", "cut"),
        Stroke(((bolt, foot), (bolt, on + sill.breadth + 20.0)), "seen"),
        Stroke(((bolt, foot), (bolt + 45.0, foot)), "seen"),
    ]
    if run.gasket:
        gasket = rectangle(begins, on - 6.0, begins + sill.depth, on)
        marks.append(Patch(gasket, "shade", "hair"))
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
