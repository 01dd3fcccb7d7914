"""Tools for loads: drawn at a point, along a line, over an area, on the floor or roof of the plan."""

from functools import partial
from typing import Final

from balken.geometry.plane import Point
from balken.model.drawn_loads import Shape
from balken.model.edits.common import EditError
from balken.model.edits.drawn_loads import draw_load
from balken.model.project import Project
from balken.session.tools.asking import Bench, Do, Steps, Tool, ask, two_places
from balken.session.tools.floors import corners_of
from balken.units import KPA, LB, PLF, PSF, System

SHAPES: Final[tuple[Shape, ...]] = ("point", "line", "area")
FIRST: Final[dict[System, dict[Shape, float]]] = {
    "us": {"point": 1000 * LB, "line": 100 * PLF, "area": 20 * PSF},
    "metric": {"point": 5000.0, "line": 1.5, "area": 1.0 * KPA},
}
"""What a new load is until it is typed; common practice, no source."""


def amount_of(bench: Bench) -> float:
    """How much the next load is: N, N/mm or N/mm² by its shape."""
    return bench.kit.load_amount or FIRST[bench.project.system][bench.kit.load_shape]


def place(bench: Bench) -> Tool:
    """Draw loads one after another."""
    if not bench.load_level:
        raise EditError("A load lies on a floor or a roof. Go to the tier of one first.")
    while True:
        places = yield from _places(bench.kit.load_shape)
        if places is None:
            return
        yield Do("draw a load", partial(_draw, bench=bench, places=places))


def _places(shape: Shape) -> Steps[tuple[Point, ...] | None]:
    if shape == "area":
        return (yield from corners_of("Click the corners of the load; Enter closes it."))
    if shape == "line":
        return (
            yield from two_places(
                "Click where the load begins. Enter ends.",
                "Click where it ends, or type a length, Tab, an angle.",
            )
        )
    answer = yield from ask("Click where the load stands. Enter ends.", ends=True)
    return None if answer.finished else (answer.point,)


def _draw(project: Project, bench: Bench, places: tuple[Point, ...]) -> Project:
    kit = bench.kit
    amount = amount_of(bench)
    return draw_load(project, kit.load_shape, bench.load_level, places, kit.load_case, amount)[0]
