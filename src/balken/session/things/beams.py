"""A beam, and a bay of beams: their slips, dragging and taking them away."""

from functools import partial
from typing import Literal

from balken.model.edits.beams import remove_beams
from balken.model.edits.transform import move
from balken.model.names import HostName, Name, as_host
from balken.model.project import Project
from balken.session.desk import Desk, DragWay, Pull, Thing
from balken.session.rows import Rows, Title
from balken.session.things.beam_fields import beam_fields
from balken.session.things.members import (
    alike_members,
    called_member,
    piece_moved,
    piece_ways,
    slip_or,
    take_away,
    tier_of,
)
from balken.works.building import Checked


def _one(desk: Desk, key: str, kind: Literal["beam", "bay"]) -> Rows:
    host = HostName(kind, key)
    yield Title(key, kind)
    yield from beam_fields(desk, host)


def _take_away(desk: Desk, name: Name) -> None:
    """Take a whole beam away; of a bay, one of its beams."""
    member = desk.member()
    if as_host(name).kind == "bay" and member is not None:
        take_away(desk, name)
        return
    mark = member.mark if member else as_host(name).key
    if desk.edit(f"take beam {mark} away", partial(remove_beams, hosts=(as_host(name),))):
        desk.select(None)
        desk.say(f"Beam {mark} is taken away. Ctrl+Z brings it back.")


def _moved(checked: Checked, base: Project, name: Name, pull: Pull) -> Project:
    return move(base, (name,), pull.by)


BEAM = Thing(
    "beam",
    "beam",
    slip_or(lambda desk, key: _one(desk, key, "beam")),
    there=lambda project, name: any(b.id == as_host(name).key for b in project.beams),
    called=called_member,
    tier=tier_of,
    alike=alike_members,
    ways=lambda checked, name, at: DragWay(),
    moved=_moved,
    take_away=_take_away,
)
BAY = Thing(
    "bay",
    "bay of beams",
    slip_or(lambda desk, key: _one(desk, key, "bay")),
    there=lambda project, name: any(b.id == as_host(name).key for b in project.bays),
    called=called_member,
    tier=tier_of,
    alike=alike_members,
    ways=piece_ways,
    moved=piece_moved,
    take_away=_take_away,
)
