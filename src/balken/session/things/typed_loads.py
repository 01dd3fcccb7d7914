"""Loads that are typed on something, a field for each case."""

from collections.abc import Callable
from functools import partial

from msgspec.structs import replace

from balken.model.cases import CASE_WORDS, PRESSING, Cases
from balken.model.edits import set_run
from balken.model.foundations import FoundationRun
from balken.model.project import Project
from balken.session.desk import Desk
from balken.session.rows import Field, Heading, Rows
from balken.units import System, format_line_load
from balken.units.quantity import parse_line_load


def typed_loads(desk: Desk, run: FoundationRun) -> Rows:
    """Loads typed along a foundation, besides those of the building."""
    yield Heading("Typed load along it")
    yield from load_fields(
        desk, run.loads, parse_line_load, format_line_load, partial(set_run, key=run.id)
    )


def load_fields(
    desk: Desk,
    loads: Cases,
    read: Callable[[str, System], float],
    show: Callable[[float, System], str],
    put: Callable[..., Project],
) -> Rows:
    """A field for the load of each case; `put` takes the project and all the loads anew."""
    system = desk.system
    for case, amount in zip(PRESSING, loads):

        def change(text: str, case: str = case) -> object:
            changed = replace(loads, **{case: read(text, system)})
            return desk.edit("typed load", partial(put, loads=changed))

        yield Field(CASE_WORDS[case], show(amount, system), change)
