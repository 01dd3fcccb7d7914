"""What the tables of the IRC say of a wall, as rows beside the calculation."""

from balken.session.desk import Desk
from balken.session.rows import Fact, Heading, Line, Rows
from balken.units import format_length, format_run
from balken.works.wall_opinions import BRACING_TABLE, Opinion, opinions_of


def opinion_rows(desk: Desk, key: str) -> Rows:
    """Each table with what it allows or asks for, or why it says nothing."""
    found = opinions_of(desk.checked, key)
    if not found:
        return
    yield Heading("Second opinion")
    for one in found:
        yield from _rows(desk, one)


def _rows(desk: Desk, one: Opinion) -> Rows:
    system, bracing = desk.system, one.table == BRACING_TABLE
    word = "bracing" if bracing else "studs apart"
    if one.allowed is None:
        yield Fact(word, f"no table: {one.words}")
    elif bracing:
        asked, there = format_length(one.allowed, system), format_length(one.there, system)
        enough = "" if one.there >= one.allowed else ": too little"
        yield Fact(word, f"{asked} asked for, {there} there{enough}")
    else:
        enough = "" if one.there <= one.allowed + 0.1 else ": too far"
        yield Fact(
            word,
            f"{format_run(one.allowed, system)} allowed, {format_run(one.there, system)} here{enough}",
        )
    if one.allowed is not None:
        yield Line(f"{one.table}, {one.words}", quiet=True, small=True)
