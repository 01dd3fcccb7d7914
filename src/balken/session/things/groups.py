"""Groups of one size: how they are named on slips, made and undone."""

from typing import Final

from balken.model.edits.groups import beam_groups, group_by_rule, ungroup
from balken.session.desk import Desk

ALONE: Final = "alone"


def group_named(text: str) -> str:
    """The group that was typed; none where the field was emptied."""
    typed = text.strip()
    return "" if typed.lower() in ("", ALONE, "none") else typed


def make_groups(desk: Desk) -> object:
    """Group beams by levels, posts and pads by grid lines, and say how many there are."""
    if desk.edit("groups by rule", group_by_rule):
        names = {g for g in beam_groups(desk.project).values() if g}
        names |= {s.group for s in desk.project.point_supports if s.group}
        desk.say(f"{len(names)} groups: " + ", ".join(sorted(names)))
    return None


def undo_groups(desk: Desk) -> object:
    """Size everything alone."""
    return desk.edit("no groups", ungroup)
