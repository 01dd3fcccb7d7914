"""What is changed by hand on one piece of a wall's frame: studs set and moved along the wall, blocks moved
up and down."""

from functools import partial
from math import dist
from typing import Final

from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.plane import dot, sub
from balken.model.edits import drop_change
from balken.model.edits.hosts import change_member, remove_member
from balken.model.edits.wall_frames import move_set_stud, set_stud
from balken.model.names import MemberName, added_key
from balken.model.project import Change, Project, wall
from balken.model.walls import direction_of
from balken.session.desk import Desk
from balken.session.rows import Button, Field, Heading, Rows
from balken.session.things import opening_frames
from balken.session.things.pieces import bores, change_of
from balken.units import format_length, format_run, parse_length
from balken.works.building import Checked


def slid(project: Project, name: MemberName, along: float, up: float) -> Project:
    """A piece of a wall moved further by hand: a block up, all else along the wall, mm."""
    if key := added_key(name):
        return move_set_stud(project, name.host.key, key, along)
    old = next((c for c in project.changes if c.member == name), Change(name))
    if name.family == kinds.WALL_BLOCKING.role:
        return change_member(project, name, up=round(old.up + up, 3))
    return change_member(project, name, shift=round(old.shift + along, 3))


def fields(desk: Desk, m: Member) -> Rows:
    """Add what can be changed on one piece of a wall."""
    system = desk.system
    yield Heading("Only this one", "changed by hand" if m.touched else "")
    if m.kind in PLATES:
        yield from _joint(desk, m)
    elif m.kind.slides:
        yield from _place(desk, m)
    yield Button(
        "Take away", lambda: desk.edit(f"take {m.mark} away", partial(remove_member, member=m.id))
    )
    if change_of(desk.project, m.id) is not None:
        yield Button(
            "As the rule says again",
            lambda: desk.edit(f"reset {m.mark}", partial(drop_change, member=m.id)),
        )
    if m.kind in (kinds.WALL_STUD, kinds.KING):
        yield Field(
            "another beside",
            format_run(0.0, system),
            lambda t: _set_beside(desk, m, parse_length(t, system, negative=True)),
        )
    if m.kind in (kinds.WALL_STUD, kinds.KING, kinds.JACK):
        yield from bores(desk, m)
    yield from opening_frames.of_piece(desk, m)


def _place(desk: Desk, m: Member) -> Rows:
    """Where a stud stands along its wall, or how far a block was moved up."""
    system = desk.system
    if m.kind is kinds.WALL_BLOCKING:
        now = (change_of(desk.project, m.id) or Change(m.id)).up

        def lift(text: str) -> object:
            up = parse_length(text, system, negative=True)
            return desk.edit(f"move {m.mark}", partial(change_member, member=m.id, up=up))

        yield Field("moved up", format_run(now, system), lift)
        return
    at = along_wall(desk.project, m)

    def place(text: str) -> object:
        by = parse_length(text, system) - at
        return desk.edit(f"move {m.mark}", lambda p: slid(p, m.id, by, 0.0))

    yield Field("middle from the wall’s start", format_length(at, system), place)


PLATES: Final = (kinds.BOTTOM_PLATE, kinds.TOP_PLATE)
TOUCHING: Final = 1.0
"""Plates that end no further from one another are joined, mm."""


def has_joint(checked: Checked, m: Member) -> bool:
    """Whether another piece of its plate begins where a piece ends."""
    plates = checked.structure.in_host(m.host, m.kind)
    return any(p.id.row == m.id.row and dist(p.start, m.end) < TOUCHING for p in plates)


def _joint(desk: Desk, m: Member) -> Rows:
    """Where a piece of a plate is joined to the next."""
    system = desk.system
    if not has_joint(desk.checked, m):
        return
    item = wall(desk.project, m.host.key)
    at = dot(sub(m.end[:2], item.start), direction_of(item))

    def place(text: str) -> object:
        by = parse_length(text, system) - at
        return desk.edit(f"move the joint of {m.mark}", lambda p: slid(p, m.id, by, 0.0))

    yield Field("joint from the wall’s start", format_length(at, system), place)


def along_wall(project: Project, m: Member) -> float:
    """How far the middle of an upright piece lies from its wall's start, mm."""
    item = wall(project, m.host.key)
    return dot(sub(m.start[:2], item.start), direction_of(item))


def _set_beside(desk: Desk, m: Member, by: float) -> object:
    """Set a stud so far beside another."""
    at = along_wall(desk.project, m) + by
    return set_stud_at(desk, m.host.key, at)


def set_stud_at(desk: Desk, key: str, at: float) -> object:
    """Set a stud into a wall, its middle at a place along it."""
    return desk.edit(f"set a stud in {key}", lambda p: set_stud(p, key, at)[0])
