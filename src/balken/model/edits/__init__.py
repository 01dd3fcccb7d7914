"""Edits: plain functions from a project to the next. Each checks what it is given and returns a
valid project."""

from balken.model.edits.common import EditError
from balken.model.edits.hosts import (
    change_member,
    drop_change,
    remove_host,
    set_floor,
    set_run,
    set_site,
)
from balken.model.edits.levels import (
    add_level,
    copy_level,
    hanging,
    hold_level,
    lock_levels,
    move_level,
    remove_level,
    rename_level,
    set_level_role,
    unlock_level,
)
from balken.model.edits.roofs import set_roof
from balken.model.edits.walls import move_wall, set_wall_tops

__all__ = [
    "EditError",
    "add_level",
    "change_member",
    "copy_level",
    "drop_change",
    "hanging",
    "hold_level",
    "lock_levels",
    "move_level",
    "move_wall",
    "remove_host",
    "remove_level",
    "rename_level",
    "set_floor",
    "set_level_role",
    "set_roof",
    "set_run",
    "set_site",
    "set_wall_tops",
    "unlock_level",
]
