"""The tool for sections: a line on the plan; what lies to the left of its way is looked at."""

from functools import partial

from balken.geometry.plane import Point
from balken.model.edits.paper import add_section
from balken.model.project import Project
from balken.session.tools.asking import Bench, Do, Tool, two_places


def place(bench: Bench) -> Tool:
    """Draw sections one after another."""
    del bench
    while True:
        places = yield from two_places(
            "Click where the section begins. Enter ends.",
            "Click where it ends; it looks to the left of its way.",
        )
        if places is None:
            return
        yield Do("draw a section", partial(_draw, places=places))


def _draw(project: Project, places: tuple[Point, ...]) -> Project:
    return add_section(project, places[0], places[1])[0]
