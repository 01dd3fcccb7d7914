"""What is kept out of sight or out of reach for a while: hidden, isolated, locked. Never part of
the project."""

from typing import Any

import msgspec
from msgspec.structs import replace

from balken.framing.hosts.runs import Step
from balken.model.grids import Grid
from balken.model.names import HostName, MemberName, Name, ThingName, keys_of, things_of
from balken.model.project import Project
from balken.model.walls import Wall
from balken.works.building import Checked

Names = frozenset[Name]
Roles = frozenset[str]
NONE: frozenset[Any] = frozenset()


class Veil(msgspec.Struct, frozen=True):
    """Names of things; roles hide everything of a kind (``grid``, ``wall``, ``opening``, ``joist``
    …)."""

    hidden: Names = NONE
    roles: Roles = NONE
    only: Names = NONE
    """Where not empty, everything else is out of sight."""
    locked: Names = NONE
    locked_roles: Roles = NONE

    @property
    def hides(self) -> bool:
        """Whether anything is out of sight."""
        return bool(self.hidden or self.roles or self.only)


def role_of(name: Name) -> str:
    """What a name is the name of: ``wall``, ``opening``, ``grid``, ``post``, ``joist`` …"""
    return name.family if isinstance(name, MemberName) else name.kind


def host_of(name: Name) -> Name:
    """The host of a member; the name itself of everything else."""
    return name.host if isinstance(name, MemberName) else name


def shows(veil: Veil, key: Name) -> bool:
    """Whether a thing is in sight."""
    names = {key, host_of(key)}
    if names & veil.hidden or role_of(key) in veil.roles:
        return False
    if not veil.only or names & veil.only:
        return True
    # An opening that is isolated needs its wall to be seen in.
    return any(
        o.key == wall for o in things_of(veil.only, "opening") for wall in keys_of([key], "wall")
    )


def is_hidden(veil: Veil, tier: Name) -> bool:
    """Whether a tier was put out of sight, itself or by what it is made of."""
    return tier in veil.hidden or (
        role_of(tier) == "roof" and bool(veil.roles & {"rafter", "top chord"})
    )


def is_locked(veil: Veil, key: Name) -> bool:
    """Whether a thing is out of reach."""
    return bool({key, host_of(key)} & veil.locked) or role_of(key) in veil.locked_roles


def hide(veil: Veil, keys: Names) -> Veil:
    """Put things out of sight."""
    return replace(veil, hidden=veil.hidden | keys)


def isolate(veil: Veil, keys: Names) -> Veil:
    """Put everything else out of sight."""
    return replace(veil, only=keys)


def hide_role(veil: Veil, role: str) -> Veil:
    """Put everything of a kind out of sight, or bring it back."""
    return replace(veil, roles=veil.roles ^ {role})


def lock_role(veil: Veil, role: str) -> Veil:
    """Put everything of a kind out of reach, or bring it back."""
    return replace(veil, locked_roles=veil.locked_roles ^ {role})


def lock(veil: Veil, keys: Names) -> Veil:
    """Put things out of reach: they are seen, but neither picked nor dragged."""
    return replace(veil, locked=veil.locked | keys)


def reveal(veil: Veil) -> Veil:
    """Bring everything back in sight; what is locked stays locked."""
    return replace(veil, hidden=NONE, roles=NONE, only=NONE)


def unlock(veil: Veil) -> Veil:
    """Bring everything back in reach."""
    return replace(veil, locked=NONE, locked_roles=NONE)


def veiled(checked: Checked, veil: Veil) -> Checked:
    """A building without what is out of sight, to be drawn only."""
    if not veil.hides:
        return checked
    project, structure = checked.project, checked.structure
    members = tuple(m for m in structure.members if shows(veil, m.id))
    steps = tuple(s for s in structure.steps if _shows_step(s, veil))
    grids = [_shown_lines(g, veil) for g in project.grids]
    seen = replace(
        project, walls=_shown_walls(project, veil), grids=tuple(g for g in grids if g.lines)
    )
    return replace(
        checked, project=seen, structure=replace(structure, members=members, steps=steps)
    )


def _shown_walls(project: Project, veil: Veil) -> tuple[Wall, ...]:
    """The walls in sight, with their openings in sight."""
    walls = [w for w in project.walls if shows(veil, HostName("wall", w.id))]
    return tuple(w if veil.only else _shown_openings(w, veil) for w in walls)


def _shown_openings(wall: Wall, veil: Veil) -> Wall:
    if not wall.openings:
        return wall
    shown = [o for o in wall.openings if shows(veil, ThingName("opening", wall.id, o.id))]
    return replace(wall, openings=tuple(shown))


def _shown_lines(g: Grid, veil: Veil) -> Grid:
    shown = [x for x in g.lines if shows(veil, ThingName("grid", g.id, x.id))]
    return replace(g, lines=tuple(shown))


def _shows_step(step: Step, veil: Veil) -> bool:
    return shows(veil, step.key) and shows(veil, HostName("run", step.run))


def words_of(veil: Veil) -> str:
    """In words what is out of sight or out of reach; empty where nothing is."""
    found = []
    if veil.only:
        found.append(f"only {len(veil.only)} shown")
    if veil.hidden:
        found.append(f"{len(veil.hidden)} hidden")
    if veil.roles:
        found.append(f"all {', '.join(f'{r}s' for r in sorted(veil.roles))} hidden")
    if veil.locked:
        found.append(f"{len(veil.locked)} locked")
    if veil.locked_roles:
        found.append(f"all {', '.join(f'{r}s' for r in sorted(veil.locked_roles))} locked")
    return " · ".join(found)
