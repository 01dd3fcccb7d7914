"""Tools for beams: from place to place, along a grid line, and bays filled with beams."""

from collections.abc import Sequence
from functools import partial
from typing import Any, Final

from balken.drawing.marks import Drawing, Patch, Stroke
from balken.framing.beams.lines import BayError, bay_axes
from balken.geometry.plane import Point
from balken.model.beams import BeamBay, BeamEnd, BeamKind
from balken.model.catalogue import sections_of
from balken.model.edits.beams import (
    Cell,
    beams_on_line,
    cell_at,
    cell_corners,
    cells_of,
    fill_bays,
    fill_outline,
    put_beam,
    usual_kind,
)
from balken.model.edits.common import EditError
from balken.model.names import ThingName
from balken.model.project import Project
from balken.session.tools.asking import Bench, Do, Tool, ask, clicked_thing, two_places
from balken.session.tools.floors import corners_of
from balken.session.tools.supports import crossing_at

FROM: Final = ("two places", "a grid line, bay by bay", "a whole grid line")
BAYS_FROM: Final = ("bays one by one", "every bay", "an outline")
SPACING: Final = {"us": 1219.2, "metric": 1200.0}
"""Usual spacing of beams in a bay, mm (4 ft or 1200)."""


def kind_of(bench: Bench) -> BeamKind:
    """How new beams are made."""
    kit = bench.kit
    return usual_kind(bench.project, set=kit.beam_set, section=kit.beam_section or None)


def _ready(bench: Bench) -> None:
    if not bench.floor_level:
        raise EditError("A beam needs a level whose floor it carries. Add a level first.")


def place(bench: Bench) -> Tool:
    """Place beams one after another."""
    _ready(bench)
    if bench.kit.beam_from != FROM[0]:
        whole = bench.kit.beam_from == FROM[2]
        while True:
            answer = yield from ask(
                "Click a grid line. Enter ends.", kind="thing", things=("grid",), ends=True
            )
            if answer.finished:
                return
            yield Do(
                "place beams",
                partial(_on_line, bench=bench, line=clicked_thing(answer, "grid"), whole=whole),
            )
    while True:
        ends = yield from two_places(
            "Click where the beam begins; crossings are caught. Enter ends.",
            "Click where it ends, or type a length, Tab, an angle.",
        )
        if ends is None:
            return
        yield Do("place a beam", partial(_between, bench=bench, a=ends[0], b=ends[1]))


def _end(project: Project, p: Point) -> BeamEnd:
    """An end tied to the crossing it was clicked at, else free."""
    here = crossing_at(project, p)
    if here:
        return BeamEnd(grid=here[0], lines=(here[1], here[2]))
    return BeamEnd((round(p[0], 3), round(p[1], 3)))


def _between(project: Project, bench: Bench, a: Point, b: Point) -> Project:
    return put_beam(project, bench.floor_level, _end(project, a), _end(project, b), kind_of(bench))[
        0
    ]


def _on_line(project: Project, bench: Bench, line: ThingName, whole: bool) -> Project:
    return beams_on_line(
        project, bench.floor_level, line.key, line.part, kind_of(bench), whole=whole
    )[0]


def bay_fields(bench: Bench) -> dict[str, Any]:
    """How a bay is filled."""
    kit = bench.kit
    return {
        "rule": kit.bay_rule,
        "spacing": kit.bay_spacing or SPACING[bench.project.system],
        "count": kit.bay_count,
        "along": kit.bay_along,
        "begin": kit.bay_begin,
    }


def bays(bench: Bench) -> Tool:
    """Fill bays of the grid one by one or all, or an outline of any shape."""
    _ready(bench)
    if bench.kit.where == BAYS_FROM[2]:
        while True:
            corners = yield from corners_of(
                "Click the corners of the bay one after another; Enter closes it."
            )
            if corners is None:
                return
            yield Do("fill a bay", partial(_outline, bench=bench, corners=corners))
    if bench.kit.where == BAYS_FROM[1]:
        yield from ask("Enter fills every bay of the grid.", ends=True, free=True)
        yield Do("fill every bay", partial(_every, bench=bench))
        return
    while True:

        def ghost(p: Point) -> Drawing:
            cell = cell_at(bench.project, p)
            return _preview(bench, cell) if cell else ()

        answer = yield from ask(
            "Click in a bay between grid lines. Enter ends.", ghost=ghost, ends=True, free=True
        )
        if answer.finished:
            return
        yield Do("fill a bay", partial(_one, bench=bench, at=answer.point))


def _preview(bench: Bench, cell: Cell) -> Drawing:
    """The bay under the pointer with the beams it would get."""
    ring = tuple(cell_corners(bench.project, cell))
    kind = kind_of(bench)
    bay = BeamBay("new", bench.floor_level, kind, cell[0], cell[1], cell[2], **bay_fields(bench))
    sections = sections_of(bench.project.system, bench.project.products)
    section = sections[kind.section or kind.sizes[0]]
    try:
        axes = bay_axes(bench.project, bay, section)
    except BayError:
        axes = []
    return (Patch(ring, "mark", "none"), *(Stroke((a.a, a.b), "mark") for a in axes))


def _one(project: Project, bench: Bench, at: Point) -> Project:
    cell = cell_at(project, at)
    if cell is None:
        raise EditError(
            "No bay between grid lines lies there. Set a grid out first, or draw the outline of"
            " the bay."
        )
    return _fill(project, bench, [cell])


def _every(project: Project, bench: Bench) -> Project:
    taken = {(b.level, b.grid, b.first, b.second) for b in project.bays}
    cells = [
        c
        for g in project.grids
        for c in cells_of(project, g.id)
        if (bench.floor_level, *c) not in taken
    ]
    return _fill(project, bench, cells)


def _fill(project: Project, bench: Bench, cells: Sequence[Cell]) -> Project:
    fields = bay_fields(bench)
    return fill_bays(
        project,
        bench.floor_level,
        cells,
        kind_of(bench),
        alternate=bench.kit.bay_alternate,
        **fields,
    )[0]


def _outline(project: Project, bench: Bench, corners: tuple[Point, ...]) -> Project:
    return fill_outline(project, bench.floor_level, corners, kind_of(bench), **bay_fields(bench))[0]
