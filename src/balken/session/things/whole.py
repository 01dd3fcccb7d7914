"""What sizing the whole building changed, as a page of the slip."""

from functools import partial

from balken.drawing.words import pretty
from balken.session.desk import Desk
from balken.session.rows import Fact, Heading, Line, Link, Rows, Title
from balken.session.things.sized import host_called

MOST_CHANGES = 80


def sized_page(desk: Desk) -> Rows:
    """Every size that changed, from what to what, with the check that governs it now."""
    whole = desk.whole
    if whole is None:
        yield Title("Whole building", "not sized yet")
        yield Line(
            "“Size the whole building” makes what is over larger, roof to footing.", quiet=True
        )
        return
    yield Title("Whole building", "sized", str(len(whole.changes)))
    rounds = whole.rounds
    yield Fact("settled after", f"{rounds} round{'' if rounds == 1 else 's'}")
    if not whole.changes:
        yield Line("Nothing was over: every size stayed.", quiet=True)
    host = None
    for change in whole.changes[:MOST_CHANGES]:
        if change.host != host:
            host = change.host
            yield Heading(host_called(desk, host), change.why)
        yield Link(
            change.what,
            f"{pretty(change.was)} → {pretty(change.now)}",
            partial(desk.select, change.host),
        )
    if len(whole.changes) > MOST_CHANGES:
        yield Line(f"and {len(whole.changes) - MOST_CHANGES} more", quiet=True)
    if whole.left:
        yield Heading("Still over", str(len(whole.left)))
        for finding in whole.left:
            yield Line(finding.text, small=True)
