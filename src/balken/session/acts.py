"""What is done to the building with one word: placing what is missing, turning, joining, taking
away."""

from functools import partial
from typing import Final

from balken.model.edits import set_floor
from balken.model.edits.levels import add_level
from balken.model.edits.roofs import hip_or_gable, set_roof, turn_ridge
from balken.model.edits.transform import remove
from balken.model.edits.walls import flip_walls, join_walls
from balken.model.names import HostName, MemberName, ThingName, keys_of, things_of
from balken.model.new import STOREY_HEIGHT
from balken.model.project import Project, column, level
from balken.session.desk import Desk, level_of
from balken.session.things.members import take_host_away, take_pieces_away
from balken.session.things.several import counted
from balken.site.proposals import Placeable, place


def place_missing(desk: Desk, kind: Placeable) -> None:
    """Place what is missing of a kind, and work in its tier."""
    said: list[str] = []

    def change(project: Project) -> Project:
        after, words = place(project, kind)
        said[:] = words
        return after

    before = len(desk.tiers)
    if not desk.edit(f"place {kind}", change):
        return
    new = [t for t in desk.tiers if t.kind == TIER_OF[kind]]
    if new and len(desk.tiers) > before:
        desk.work_in(new[0].id)
    desk.say(" ".join(said))


TIER_OF: Final[dict[Placeable, str]] = {"foundation": "ground", "floors": "floor", "roof": "roof"}
"""The kind of tier in which what was placed stands."""


def add_storey_level(desk: Desk) -> None:
    """Add a level a storey above the selected one, or above the highest floor, and work on it
    in the slip."""
    project = desk.project
    chosen = level_of(desk.selection)
    floors = [x for x in column(project) if x.role == "floor"]
    known = [level(project, chosen)] if chosen else floors or list(column(project))
    height = (known[-1].elevation if known else 0.0) + STOREY_HEIGHT[project.system]
    names = {x.name for x in project.levels}
    name = next(n for n in (f"Level {k}" for k in range(1, 10_000)) if n not in names)
    before = {x.id for x in project.levels}
    if desk.edit("add level", partial(add_level, role="floor", name=name, elevation=height)):
        new = next(x.id for x in desk.project.levels if x.id not in before)
        desk.select(ThingName("level", new))


def flip(desk: Desk) -> None:
    """Turn the selected walls inside out."""
    keys = tuple(keys_of(desk.selected, "wall"))
    desk.edit("flip walls", partial(flip_walls, keys=keys))


def flip_side(desk: Desk) -> None:
    """Let new walls lie on the other side of their line."""
    desk.set_kit(outside="left" if desk.kit.outside == "right" else "right")


def join(desk: Desk) -> None:
    """Make one wall of the two that are selected."""
    a, b = keys_of(desk.selected, "wall")
    if desk.edit("join walls", partial(join_walls, key=a, other=b)):
        desk.select(HostName("wall", a))


def turn(desk: Desk, host: HostName) -> None:
    """Turn the joists of a floor, or the ridge of a roof, a quarter."""
    sized = next((m for m in desk.members_of(host) if m.carrier.area > 0), None)
    if sized is None:
        return
    if host.kind == "floor":
        along_x = abs(sized.end[0] - sized.start[0]) > abs(sized.end[1] - sized.start[1])
        desk.edit("turn the joists", partial(set_floor, key=host.key, span="y" if along_x else "x"))
        return
    shape = desk.checked.structure.roofs.get(host)
    names = [e.name for e in shape.edges] if shape else []
    desk.edit("turn the ridge", partial(turn_ridge, key=host.key, sides=names))


def hip_to_gable(desk: Desk) -> None:
    """Turn the selected side of a roof from hip to gable, or back."""
    for side in things_of(desk.selected[:1], "side"):
        desk.edit("hip or gable", partial(hip_or_gable, key=side.key, side=side.part))


FLATTEST, STEEPEST = 1.0, 36.0
"""Pitches that can be come to by steps, in 12."""


def steeper(desk: Desk, by: float) -> None:
    """Make the roof of the tier steeper or flatter, in 12."""
    tier = desk.current_tier()
    host = tier.host if tier else None
    roof = next((r for r in desk.project.roofs if host == HostName("roof", r.id)), None)
    if roof:
        rise = max(FLATTEST, min(STEEPEST, roof.rise + by))
        desk.edit("pitch", partial(set_roof, key=roof.id, rise=rise, ridge=None))


def take_away_selected(desk: Desk) -> None:
    """Take away what is selected, or the whole of the tier where nothing is."""
    names, tier = desk.selected, desk.current_tier()
    pieces = [n for n in names if isinstance(n, MemberName)]
    if len(pieces) > 1 and len(pieces) == len(names):
        take_pieces_away(desk, pieces)
        return
    if any(desk.thing(k).several for k in names) and not pieces:
        words = counted(desk, names)
        if desk.edit(f"take {words} away", partial(remove, names=names)):
            desk.select(None)
            desk.say(f"{words}: taken away. Ctrl+Z brings it back.")
        return
    if desk.selection is not None:
        take = desk.thing(desk.selection).take_away
        if take is not None:
            take(desk, desk.selection)
        return
    if tier is not None and tier.kind != "walls" and tier.host is not None:
        take_host_away(desk, tier.host)
