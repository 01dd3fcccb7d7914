"""The keys of what is at hand: of the tool at work, of the view, and of every command of now."""

from typing import Final

from balken.session.commands import (
    Command,
    about_selected,
    changing,
    commands,
    filing,
    looking,
    placing,
    undoing,
)
from balken.session.desk import Desk
from balken.session.tool_slips.slip import KEYS as TOOL_KEYS

Keys = tuple[str, list[tuple[str, str]]]
"""A heading, and each key with what it does."""
VIEW_KEYS: Final[dict[str, tuple[tuple[str, str], ...]]] = {
    "plan": (
        ("arrows", "move the plan"),
        ("Space", "held: the mouse moves the plan"),
        ("wheel", "zooms about the pointer"),
        ("drag", "a box to the right takes what is in it, to the left what it touches"),
        ("right click", "what can be done there"),
    ),
    "space": (("arrows", "turn the building"), ("wheel", "zooms"), ("right drag", "moves it")),
    "upright": (("arrows", "the next side, or move the cut"), ("wheel", "zooms")),
    "paper": (("arrows", "turn the sheets"), ("wheel", "turns the sheets")),
}
LADDER_KEYS: Final = (
    ("PgUp, PgDown", "the next tier"),
    ("↑ ↓", "the next level"),
    ("Ctrl+↑ ↓", "move the level by an inch, or 10 mm"),
    ("Enter", "type its height"),
)
FIELD_KEYS: Final = (
    ("Tab", "takes what is typed and goes on"),
    ("Enter", "takes what is typed"),
    ("F6", "keys to the next part of the desk"),
)


def keys_at_hand(desk: Desk) -> list[Keys]:
    """The keys that mean something now, by what they are for."""
    found: list[Keys] = []
    if desk.at_work:
        found.append((f"{desk.tool}, the tool at work", list(TOOL_KEYS)))
    found += [
        ("Change", _keys(changing(desk))),
        ("Selected", _keys(about_selected(desk))),
        ("Place", _keys(placing(desk))),
        ({"space": "In space"}.get(desk.view, desk.view.capitalize()), list(VIEW_KEYS[desk.view])),
        ("Ladder", list(LADDER_KEYS)),
        ("Slip", list(FIELD_KEYS)),
        ("Always", _keys([*undoing(desk), *filing(desk), *looking(desk)])),
    ]
    said = {pair for _, keys in found for pair in keys}
    rest = [pair for pair in _keys(commands(desk)) if pair not in said]
    return [keys for keys in (*found, ("And", rest)) if keys[1]]


def _keys(of: list[Command]) -> list[tuple[str, str]]:
    return [(c.key, c.words) for c in of if c.key]
