"""What the slip says: of a tool at work, of what is selected, or of the tier."""

from functools import partial
from itertools import chain

from balken.model.names import MemberName
from balken.session.desk import Desk
from balken.session.rows import Heading, Link, Row, Rows
from balken.session.things.many_pieces import many_pieces_slip
from balken.session.things.several import several_slip
from balken.session.things.tiers import nothing_yet, tier_slip
from balken.session.tool_slips.slip import tool_slip


def rows_of(desk: Desk) -> list[Row]:
    """The rows of the slip as it is now."""
    return list(_rows(desk))


def _rows(desk: Desk) -> Rows:
    if desk.at_work:
        return tool_slip(desk)
    name, tier = desk.selection, desk.current_tier()
    # A post is its support, and has the fields of one; other pieces are not what they belong to.
    members = (n for n in desk.selected if isinstance(n, MemberName))
    pieces = [n for n in members if n.host.kind != "support"]
    if len(pieces) > 1 and len(pieces) == len(desk.selected):
        return many_pieces_slip(desk, pieces)
    if len(desk.selected) > 1 and all(desk.thing(n).several for n in desk.selected):
        return several_slip(desk, desk.selected)
    if name is not None:
        return chain(desk.thing(name).slip(desk, name), _also_here(desk))
    return tier_slip(desk, tier) if tier else nothing_yet(desk)


def _also_here(desk: Desk) -> Rows:
    """What else lay at the place that was clicked; a second click there goes on to it."""
    others = [n for n in desk.stack if n != desk.selection]
    if not others or desk.selection not in desk.stack:
        return
    yield Heading("Also here", "click again for the next")
    for name in others[:6]:
        words = desk.thing(name).called(desk.project, name)
        yield Link("", words, partial(desk.select, name))
