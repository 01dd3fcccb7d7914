"""How far a floor reaches past its walls, and where it hangs on a ledger."""

from functools import partial
from typing import Any

from balken.model.edits import set_floor
from balken.model.edits.floors import set_floor_edge
from balken.model.floors import FloorArea, FloorEdge
from balken.model.walls import called
from balken.session.desk import Desk
from balken.session.rows import Field, Heading, Options, Rows
from balken.units import format_run, parse_length


def edges(desk: Desk, floor: FloorArea) -> Rows:
    """Add how far the floor reaches, all round and along single walls, and where it hangs on a
    ledger."""
    project, system = desk.project, desk.system
    yield Heading("Edge")
    yield Field(
        "out past walls",
        format_run(floor.edge, system),
        lambda t: desk.edit(
            "edge of floor",
            partial(set_floor, key=floor.id, edge=parse_length(t, system, negative=True)),
        ),
    )
    names = {x.id: called(x) for x in project.walls}
    for edge in floor.edges:
        yield from _edge(desk, floor, edge, names.get(edge.wall, edge.wall))
    free = [
        (names[k], k) for k in floor.walls if k in names and all(e.wall != k for e in floor.edges)
    ]
    if free:
        reach = 24 * 25.4 if system == "us" else 600.0
        words = f"cantilever {format_run(reach, system)} at"
        yield Options(
            words,
            [("a wall …", ""), *free],
            "",
            lambda v: (
                desk.edit("cantilever", lambda p: set_floor_edge(p, floor.id, v, out=reach))
                if v
                else None
            ),
        )
        yield Options(
            "ledger at",
            [("a wall …", ""), *free],
            "",
            lambda v: (
                desk.edit("ledger", lambda p: set_floor_edge(p, floor.id, v, ledger=True))
                if v
                else None
            ),
        )


def _edge(desk: Desk, floor: FloorArea, edge: FloorEdge, name: str) -> Rows:
    system = desk.system

    def change(words: str, **values: Any) -> object:
        return desk.edit(words, partial(set_floor_edge, key=floor.id, wall=edge.wall, **values))

    yield Field(
        f"at {name}",
        format_run(edge.out, system),
        lambda t: change("edge of floor", out=parse_length(t, system, negative=True)),
    )
    hung: list[tuple[str, Any]] = [("lie on the wall", False), ("hang on a ledger", True)]
    yield Options("joists there", hung, edge.ledger, lambda v: change("ledger", ledger=v))
