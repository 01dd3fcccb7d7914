"""What the slip says: of a tool at work, of what is selected, or of the tier."""

from balken.session.desk import Desk
from balken.session.rows import Row, Rows
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
    if len(desk.selected) > 1 and all(desk.thing(n).several for n in desk.selected):
        return several_slip(desk, desk.selected)
    if name is not None:
        return desk.thing(name).slip(desk, name)
    return tier_slip(desk, tier) if tier else nothing_yet(desk)
