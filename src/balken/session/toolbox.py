"""The tools there are: when each can be used, by which key, and how it begins."""

import math
from collections.abc import Callable
from typing import NamedTuple

from balken.geometry.plane import Point, distance_to_segment
from balken.model.names import HostName, Name, kind_of
from balken.model.project import Project
from balken.session.snapping import whole_steps
from balken.session.tools import (
    beams,
    changing,
    dimensions,
    floors,
    foundations,
    grids,
    loads,
    notes,
    openings,
    roofs,
    sections,
    supports,
    walls,
)
from balken.session.tools.asking import Bench, Tool
from balken.site.bodies import lie_of, storey_walls
from balken.units import FOOT, System

WHOLE: dict[System, float] = {"us": FOOT / 12, "metric": 10.0}
"""What is dragged or drawn comes to whole steps of this, mm."""


class ToolKind(NamedTuple):
    """A tool: its name, its key, when it can be used, and how it begins."""

    name: str
    key: str
    begin: Callable[[Bench], Tool]
    tiers: tuple[str, ...] = ()
    """The kinds of tiers it belongs to; empty for all."""
    changes: tuple[str, ...] = ()
    """Kinds of things it changes; a tool without any places something."""
    means: str = ""
    """What it does, in the words people look for."""


def turn_of(project: Project, base: str) -> float:
    """How the walls of a storey lie, radians."""
    return lie_of(project, storey_walls(project, base))


def _walls(bench: Bench) -> Tool:
    turn = turn_of(bench.project, bench.base)
    return walls.draw(bench, turn, whole_steps(WHOLE[bench.project.system]))


def _openings(bench: Bench) -> Tool:
    return openings.place(bench, whole_steps(WHOLE[bench.project.system]))


PLACING = (
    ToolKind("Wall", "W", _walls, ("walls",), means="draw a new wall, room or rectangle"),
    ToolKind("Opening", "O", _openings, ("walls",), means="put a door or window in a wall"),
    ToolKind(
        "Posts, pads",
        "P",
        supports.place,
        ("walls", "ground", "floor"),
        means="put a post, column, pad footing or pier",
    ),
    ToolKind(
        "Foundation",
        "G",
        foundations.place,
        ("walls", "ground"),
        means="strip footing, stem wall, basement, slab on ground, slab edge, grade beam",
    ),
    ToolKind("Floor", "Shift+F", floors.place, ("floor", "walls"), means="floor area with joists"),
    ToolKind(
        "Opening in floor",
        "O",
        floors.opening,
        ("floor",),
        means="stair opening, stairs, shaft, chimney, hole in a floor",
    ),
    ToolKind("Cut floor", "K", floors.cut, ("floor",), means="divide a floor in two"),
    ToolKind("Joist", "E", floors.joist, ("floor",), means="add one more joist by hand"),
    ToolKind(
        "Beam", "Shift+B", beams.place, ("floor", "walls"), means="girder, dropped or flush beam"
    ),
    ToolKind(
        "Beam bays", "Shift+Y", beams.bays, ("floor", "walls"), means="fill bays with many beams"
    ),
    ToolKind("Roof", "Shift+R", roofs.place, ("walls", "roof"), means="hip roof over walls"),
    ToolKind(
        "Skylight", "O", roofs.skylight, ("roof",), means="roof window, dormer or chimney hole"
    ),
    ToolKind("Courtyard", "K", roofs.court, ("roof",), means="cut a court out of a roof"),
    ToolKind(
        "Load",
        "Shift+D",
        loads.place,
        ("walls", "floor", "roof"),
        means="draw a point load, line load or area load, weight of a machine, tank, stove, tub",
    ),
    ToolKind(
        "Section",
        "Shift+X",
        sections.place,
        ("walls", "floor", "ground", "roof"),
        means="section line, cut through the building",
    ),
    ToolKind(
        "Note",
        "Shift+N",
        notes.place,
        ("walls", "floor", "ground", "roof"),
        means="words with a leader on the plan, annotation, text",
    ),
    ToolKind(
        "Dimension",
        "Shift+S",
        dimensions.place,
        ("walls", "floor", "ground", "roof"),
        means="dimension string, chain, radius of a curved wall, by hand",
    ),
    ToolKind(
        "Height mark",
        "",
        dimensions.height,
        ("walls", "floor", "ground", "roof"),
        means="level mark, spot elevation on the plan",
    ),
    ToolKind(
        "Cloud",
        "",
        dimensions.cloud,
        ("walls", "floor", "ground", "roof"),
        means="revision cloud round what changed",
    ),
    ToolKind("Step", "S", foundations.steps, ("ground",), means="step a footing down a slope"),
    ToolKind(
        "Ground height", "", foundations.heights, ("ground", "walls"), means="spot height, grade"
    ),
    ToolKind("Grid", "U", grids.straight, means="grid lines, axes, column lines from bays"),
    ToolKind(
        "Grid line", "Shift+U", grids.lines, means="one more line, axis, by click or distance"
    ),
    ToolKind("Rings, rays", "", grids.radial, means="round grid, radial axes"),
    ToolKind("Corner", "K", walls.corner, ("walls",), means="bring two walls to a corner"),
    ToolKind("Trim, extend", "E", walls.tee, ("walls",), means="trim or extend a wall to another"),
)
CHANGING = (
    ToolKind(
        "Move",
        "V",
        lambda b: changing.moving(b, b.chosen),
        changes=("wall", "support", "grid", "opening", "beam", "bay"),
    ),
    ToolKind(
        "Copy",
        "C",
        lambda b: changing.moving(b, b.chosen, copying=True),
        changes=("wall", "support", "opening"),
    ),
    ToolKind(
        "Turn",
        "Q",
        lambda b: changing.turning(b, b.chosen),
        changes=("wall", "support"),
        means="rotate",
    ),
    ToolKind("Mirror", "I", lambda b: changing.mirroring(b, b.chosen), changes=("wall", "support")),
    ToolKind(
        "Row, ring",
        "Y",
        lambda b: changing.array(b, b.chosen),
        changes=("wall", "support", "opening"),
        means="repeat, array",
    ),
    ToolKind("Offset", "B", lambda b: walls.offset(b, b.chosen), changes=("wall",)),
    ToolKind("Align", "A", lambda b: changing.aligning(b, b.chosen), changes=("wall",)),
    ToolKind("Split", "S", walls.split, changes=("wall",), means="break, divide a wall"),
    ToolKind(
        "Line beside",
        "L",
        lambda b: grids.line_beside(b, b.chosen),
        changes=("grid",),
        means="new grid line",
    ),
)
MEASURE = ToolKind("Measure", "M", changing.measuring, means="distance, dimension, how far")
TOOLS = {tool.name: tool for tool in (*PLACING, *CHANGING, MEASURE)}


def placing_in(kind: str) -> list[ToolKind]:
    """The tools that place something in a kind of tier."""
    return [t for t in PLACING if not t.tiers or kind in t.tiers]


def changing_of(names: tuple[Name, ...]) -> list[ToolKind]:
    """The tools that change what is selected."""
    kinds = {kind_of(k) for k in names}
    return [t for t in CHANGING if kinds & set(t.changes)]


def wall_at(project: Project, base: str, place: Point, reach: float) -> HostName | None:
    """The wall of a storey at a place, where its plan shows none, as in the ground.

    Args:
        project: holds the wall.
        base: the level it stands on.
        place: where, mm.
        reach: how near to its face, mm.
    """
    near = [
        (max(0.0, distance_to_segment(place, w.start, w.end) - w.thickness), w.id)
        for w in storey_walls(project, base)
    ]
    away, key = min(near, default=(math.inf, ""))
    return HostName("wall", key) if away <= reach else None
