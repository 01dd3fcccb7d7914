"""Variants of the whole building beside one another, worked out apart from the window."""

from functools import partial

from balken.fit.variants import Outcome, compare
from balken.session.desk import Desk, page
from balken.session.files import with_way_out
from balken.session.rows import Button, Fact, Heading, Line, Rows, Title
from balken.units.quantity import format_volume


def ask_for_variants(desk: Desk) -> None:
    """Work out what the next questions do to the whole building."""
    checked = desk.checked
    desk.say("Working out variants of the whole building …  Esc leaves it.")
    desk.under_way = desk.face.apart_telling(
        lambda tell: compare(checked, with_way_out(tell)), partial(_have, desk), desk.say
    )


def _have(desk: Desk, found: tuple[Outcome, ...]) -> None:
    desk.outcomes = found
    desk.say(f"{len(found) - 1} variants beside the building as it is.")
    desk.select(page("variants"))


def variants(desk: Desk) -> Rows:
    """Each variant with what it costs more or less than the building as it is."""
    yield Title("Variants", "of the whole building")
    if not desk.outcomes:
        yield Line("None is worked out yet.", quiet=True)
        yield Button("Work them out", partial(ask_for_variants, desk))
        return
    first = desk.outcomes[0]
    yield Line("Each is sized anew from roof to footing.", quiet=True, small=True)
    for x in desk.outcomes:
        yield Heading(x.words, f"cost {x.cost:,.0f}{_more(x.cost, first.cost)}")
        yield Fact("wood", format_volume(x.timber, desk.system))
        yield Fact("concrete", format_volume(x.concrete, desk.system))
        yield Fact("pieces", f"{x.pieces}{_more(x.pieces, first.pieces)}")
        if x.carbon:
            yield Fact("carbon", f"{x.carbon:,.0f} kg{_more(x.carbon, first.carbon)}")
        if x.over:
            yield Fact("over", f"{x.over} still over 1.00")
        if x is not first:
            yield Button(f"Take it: {x.words}", partial(_take, desk, x))
    yield Line(
        "By the prices of the catalogue; concrete and work have none.", quiet=True, small=True
    )


def _more(now: float, first: float) -> str:
    by = round(now - first)
    return "" if by == 0 else f" ({'+' if by > 0 else '−'}{abs(by):,})"


def _take(desk: Desk, x: Outcome) -> None:
    """Make the building so, in one step that can be undone."""
    if desk.edit(x.words, lambda _: x.project):
        desk.outcomes = ()
        desk.say(f"{x.words}: done. Ctrl+Z takes it back.")
