"""A new version of the architect’s file: what moved, came or went, each to take or to leave."""

from collections.abc import Callable
from functools import partial

from balken.session.desk import Desk
from balken.session.others import end_comparison, leave_one, look_at, take_all, take_one
from balken.session.rows import Button, Heading, Line, Links, Rows, Title


def update(desk: Desk) -> Rows:
    """List what moved, came or went in the new version of the architect's file, each to take or to
    leave."""
    state = desk.comparing
    if state is None:
        yield Title("New version", "of the architect’s file")
        yield Line("None is being compared.", quiet=True)
        return
    yield Title("New version", "of the architect’s file", f"{len(state.open)} open")
    if not state.open:
        yield Line(
            "Nothing differs any more."
            if state.seen
            else "Nothing differs: both versions are the same."
        )
    else:
        yield Line(
            "Take what is right; what you leave stays as it is here. Structure on what is taken"
            " follows.",
            quiet=True,
        )
        yield Button("Take everything", partial(take_all, desk))
    for item in state.open[:80]:
        yield Heading(item.what, item.sort)
        yield Line(item.words)
        acts: list[tuple[str, Callable[[], object]]] = [
            ("take", partial(take_one, desk, item)),
            ("leave", partial(leave_one, desk, item)),
        ]
        yield Links([*acts, ("look at it", partial(look_at, desk, item))] if item.name else acts)
    yield Button("Done", partial(end_comparison, desk))
