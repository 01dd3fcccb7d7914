"""Tools for posts, pads and piers: put at crossings by all, by chosen lines, by an area, one by
one; lost the same way."""

from functools import partial
from typing import Any

from balken.drawing.marks import Drawing, Stroke, rectangle
from balken.geometry.plane import Point, distance
from balken.model.edits.common import EditError
from balken.model.edits.supports import (
    Crossing,
    crossings_of,
    levels_for,
    lose_supports,
    put_support,
    put_supports,
    remove_supports,
)
from balken.model.grids import crossing, grid_line
from balken.model.names import Name, keys_of, things_of
from balken.model.project import Project, grid
from balken.session.tools.asking import Bench, Do, Tool, ask, clicked_thing

PAD_THICKNESS = {"us": 304.8, "metric": 300.0}
"""A pad put under a post or pier is first this thick, mm; common practice, no source."""
CAUGHT = 2.0
"""A clicked place this near to a crossing is the crossing, mm."""
WHERE = ("every crossing", "chosen lines", "an area", "one by one")


def place(bench: Bench) -> Tool:
    """Put or take away supports of the kit's kind where the kit says."""
    where = bench.kit.where
    if where == "every crossing":
        words = _words(bench)
        yield from ask(
            f"Enter goes on to {words} at every crossing. The slip says which, and where.",
            ends=True,
            free=True,
        )
        yield Do(
            _words(bench), partial(_change, bench=bench, at=tuple(crossings_of(bench.project)))
        )
    elif where == "chosen lines":
        yield from _lines(bench)
    elif where == "an area":
        yield from _area(bench)
    else:
        yield from _one_by_one(bench)


def _words(bench: Bench) -> str:
    kit = bench.kit
    return f"take {kit.support}s away" if kit.taking else f"put {kit.support}s"


def _fields(bench: Bench) -> dict[str, Any]:
    kit = bench.kit
    found: dict[str, Any] = {"size": kit.size} if kit.size else {}
    if kit.round:
        found["round"] = True
    there = {x.id for x in bench.project.levels}
    if all(key in there for key in kit.levels):
        found["base"], found["top"] = kit.levels
    return found


def _pad_fields(project: Project, bench: Bench, fields: dict[str, Any]) -> dict[str, Any]:
    """How the pad under a post or pier is made: its top where that begins, as thick as is
    usual."""
    base = fields.get("base") or levels_for(project, bench.kit.support)[0].id
    return {"base": base, "top": base, "thickness": PAD_THICKNESS[project.system]}


def _change(project: Project, bench: Bench, at: tuple[Crossing, ...]) -> Project:
    if bench.kit.taking:
        return lose_supports(project, bench.kit.support, at)
    fields = _fields(bench)
    project = put_supports(project, bench.kit.support, at, **fields)
    if bench.kit.pad_too and bench.kit.support != "pad":
        project = put_supports(project, "pad", at, **_pad_fields(project, bench, fields))
    return project


def _lines(bench: Bench) -> Tool:
    lines = things_of(bench.chosen, "grid")
    if lines:
        yield from ask(
            f"Enter goes on to {_words(bench)} on the {len(lines)} chosen lines.",
            ends=True,
            free=True,
        )
    while not lines:
        picked = yield from ask("Click a grid line.", kind="thing", things=("grid",))
        lines = [clicked_thing(picked, "grid")]
    at = tuple(crossings_of(bench.project, lines=lines))
    yield Do(_words(bench), partial(_change, bench=bench, at=at))


def _area(bench: Bench) -> Tool:
    while True:
        first = yield from ask("Click one corner of the area. Enter ends.", ends=True, free=True)
        if first.finished:
            return
        a = first.point

        def ghost(p: Point, a: Point = a) -> Drawing:
            ring = rectangle(*a, *p)
            return (Stroke((*ring, ring[0]), "mark"),)

        second = yield from ask("Click the corner across.", anchor=a, ghost=ghost, free=True)
        at = tuple(crossings_of(bench.project, inside=rectangle(*a, *second.point)))
        yield Do(_words(bench), partial(_change, bench=bench, at=at))


def _one_by_one(bench: Bench) -> Tool:
    while True:
        words = "take one away" if bench.kit.taking else "place one"
        answer = yield from ask(
            f"Click where to {words}; crossings are caught. Enter ends.", ends=True
        )
        if answer.finished:
            return
        yield Do(_words(bench), partial(_one, bench=bench, at=answer.point, key=answer.key))


def _one(project: Project, bench: Bench, at: Point, key: Name | None) -> Project:
    here = crossing_at(project, at)
    kit = bench.kit
    if kit.taking:
        if key is not None and (there := keys_of([key], "support")):
            return remove_supports(project, there)
        if here is None:
            raise EditError(f"No {kit.support} stands there.")
        return lose_supports(project, kit.support, (here,))
    if here is not None:
        return _change(project, bench, (here,))
    fields = _fields(bench)
    project = put_support(project, kit.support, at, **fields)
    if kit.pad_too and kit.support != "pad":
        project = put_support(project, "pad", at, **_pad_fields(project, bench, fields))
    return project


def crossing_at(project: Project, p: Point) -> Crossing | None:
    """The crossing that lies at a place."""
    for g, a, b in crossings_of(project):
        of = grid(project, g)
        spot = crossing(of, grid_line(of, a), grid_line(of, b))
        if spot and distance(spot, p) <= CAUGHT:
            return g, a, b
    return None
