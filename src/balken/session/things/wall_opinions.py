"""What the tables of the IRC say of a wall, as rows beside the calculation."""

from balken.session.desk import Desk
from balken.session.rows import Fact, Heading, Line, Rows
from balken.units import format_length, format_run
from balken.works.opinions import Opinion
from balken.works.wall_opinions import STUDS, opinions_of


def opinion_rows(desk: Desk, key: str) -> Rows:
    """Each table with what it allows or asks for, or why it says nothing."""
    found = opinions_of(desk.checked, key)
    if not found:
        return
    yield Heading("Second opinion")
    for one in found:
        yield from _rows(desk, one)


def _rows(desk: Desk, one: Opinion) -> Rows:
    if one.listed is None:
        yield Fact(one.about, f"no table: {one.words}")
        return
    write = format_run if one.about == STUDS else format_length
    listed, there = write(one.listed, desk.system), write(one.there, desk.system)
    if one.least:
        yield Fact(
            one.about, f"{listed} asked for, {there} there{'' if one.kept else ': too little'}"
        )
    else:
        yield Fact(one.about, f"{listed} allowed, {there} here{'' if one.kept else ': too much'}")
    yield Line(f"{one.table}, {one.words}", quiet=True, small=True)
