"""The slip while a tool is at work: what it does, its keys, and how what it places is made."""

from collections.abc import Callable
from typing import Final

from balken.session.desk import Desk
from balken.session.rows import Fact, Heading, Rows, Title
from balken.session.tool_slips.framing import (
    bay_fields,
    beam_fields,
    floor_fields,
    hole_fields,
    load_fields,
    roof_fields,
    skylight_fields,
)
from balken.session.tool_slips.ground import foundation_fields, support_fields
from balken.session.tool_slips.walls import opening_fields, wall_fields

KEYS = (
    ("type", "a length in the units of the project"),
    ("Tab", "the next number, such as an angle"),
    ("arrows", "lock a direction; once more lets go"),
    ("Enter", "takes what is typed, or ends"),
    ("Ctrl+Z", "takes back the last"),
    ("Esc", "leaves the tool"),
)


FIELDS: Final[dict[str, Callable[[Desk], Rows]]] = {
    "Wall": wall_fields,
    "Opening": opening_fields,
    "Posts, pads": support_fields,
    "Foundation": foundation_fields,
    "Floor": floor_fields,
    "Opening in floor": hole_fields,
    "Beam": beam_fields,
    "Beam bays": bay_fields,
    "Roof": roof_fields,
    "Skylight": skylight_fields,
    "Load": load_fields,
}
"""How what a tool places is made; other tools have nothing to be said."""


def tool_slip(desk: Desk) -> Rows:
    """The slip for the tool that is at work."""
    yield Title(desk.tool, "tool")
    if desk.tool in FIELDS:
        yield from FIELDS[desk.tool](desk)
    yield Heading("Keys")
    for key, words in KEYS:
        yield Fact(key, words)
