"""What is drawn on plans by hand and kept in rows of the paper, as a kind of thing: found by its key, dragged
and taken away alike."""

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any

from balken.model.edits.paper_rows import Rows, drop_row, found_row, move_row
from balken.model.names import Name, ThingKind, as_thing
from balken.model.project import Project
from balken.session.desk import Desk, DragWay, Pull, Thing
from balken.session.rows import Button
from balken.session.rows import Rows as SlipRows
from balken.works.building import Checked


def on_paper(
    kind: ThingKind,
    rows: Rows,
    slip: Callable[[Desk, Any], SlipRows],
    called: Callable[[Any], str],
    alike: Callable[[Checked, Name], Sequence[Name]] = lambda checked, name: (),
) -> Thing:
    """A kind of thing.

    Args:
        kind: its word.
        rows: of the paper, where it is kept.
        slip: what its slip says of a row, without the button that takes it away.
        called: what people call a row.
        alike: everything like it.
    """

    def found(project: Project, name: Name) -> Any:
        return found_row(project, rows, as_thing(name).key)

    def take_away(desk: Desk, name: Name) -> None:
        key = as_thing(name).key
        if desk.edit(f"take the {kind} away", partial(drop_row, rows=rows, key=key)):
            desk.select(None)

    def whole_slip(desk: Desk, name: Name) -> SlipRows:
        row = found(desk.project, name)
        if row is not None:
            yield from slip(desk, row)
            yield Button("Take it away", partial(take_away, desk, name))

    def name_of(project: Project, name: Name) -> str:
        row = found(project, name)
        return called(row) if row is not None else ""

    def moved(checked: Checked, base: Project, name: Name, pull: Pull) -> Project:
        return move_row(base, rows, as_thing(name).key, pull.by)

    return Thing(
        kind,
        kind,
        whole_slip,
        there=lambda project, name: found(project, name) is not None,
        called=name_of,
        alike=alike,
        ways=lambda checked, name, at: DragWay(),
        moved=moved,
        take_away=take_away,
    )
