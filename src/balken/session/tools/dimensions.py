"""Tools for what is drawn on a plan by hand: strings of dimensions, the radius of a curved wall, heights, and
clouds round what a revision changed."""

from functools import partial

from balken.drawing.marks import Drawing, Stroke
from balken.geometry.plane import Point
from balken.model.attached import hold_at
from balken.model.edits.common import EditError
from balken.model.edits.paper_marks import add_cloud, add_dimension, measured_between
from balken.model.names import keys_of
from balken.model.paper import Hold
from balken.model.project import Project
from balken.session.tools.asking import Answer, Bench, Do, Steps, Tool, ask, two_places


def place(bench: Bench) -> Tool:
    """Draw strings one after another; a curved wall that is clicked first gives its radius."""
    view = _plan_of(bench)
    while True:
        first = yield from ask("Click what is measured, or a curved wall. Enter ends.", ends=True)
        if first.finished:
            return
        curved = _curved(bench.project, first)
        if curved:
            at = first.point
            yield Do("draw a radius", partial(_radius, view=view, wall=curved, at=at))
            continue
        places = yield from _rest(first.point)
        beside = yield from ask("Click where the string stands.", free=True)
        yield Do(
            "draw a string",
            partial(measured_between, view=view, base=bench.base, places=places, at=beside.point),
        )


def _rest(first: Point) -> Steps[tuple[Point, ...]]:
    """The places after the first; Enter ends them once there are two."""
    places = [first]
    while True:
        words = "Click the next place." + (" Enter: that is all." if len(places) > 1 else "")

        def ghost(p: Point) -> Drawing:
            return (Stroke((*places, p), "mark"),)

        answer = yield from ask(words, anchor=places[-1], ghost=ghost, ends=len(places) > 1)
        if answer.finished:
            return tuple(places)
        places.append(answer.point)


def _curved(project: Project, answer: Answer) -> str:
    """The curved wall that was clicked; empty for anything else."""
    keys = keys_of([answer.key] if answer.key else [], "wall")
    return next((w.id for w in project.walls if w.id in keys and w.bulge), "")


def _radius(project: Project, view: str, wall: str, at: Point) -> Project:
    return add_dimension(project, view, "radius", (Hold("wall", wall, "start"),), at)[0]


def height(bench: Bench) -> Tool:
    """Mark how high something lies, one place after another."""
    view = _plan_of(bench)
    while True:
        about = yield from ask("Click what the height is of. Enter ends.", ends=True)
        if about.finished:
            return
        beside = yield from ask("Click where the words stand.", anchor=about.point, free=True)
        yield Do(
            "mark a height",
            partial(_height, view=view, base=bench.base, place=about.point, at=beside.point),
        )


def _height(project: Project, view: str, base: str, place: Point, at: Point) -> Project:
    return add_dimension(project, view, "level", (hold_at(project, base, place),), at)[0]


def cloud(bench: Bench) -> Tool:
    """Draw clouds one after another."""
    view = _plan_of(bench)
    while True:
        corners = yield from two_places(
            "Click a corner of the cloud. Enter ends.", "Click the corner opposite."
        )
        if corners is None:
            return
        yield Do("draw a cloud", partial(_cloud, view=view, corners=corners))


def _cloud(project: Project, view: str, corners: tuple[Point, Point]) -> Project:
    return add_cloud(project, view, *corners)[0]


def _plan_of(bench: Bench) -> str:
    """The plan that is worked on.

    Raises:
        EditError: there is none.
    """
    if not bench.view_key:
        raise EditError("It is drawn on a plan. Go to a tier first.")
    return bench.view_key
