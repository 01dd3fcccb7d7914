"""What is kept out of sight or out of reach for a while: hidden, isolated, locked. Never part of the project."""

import msgspec
from msgspec.structs import replace

from balken.design.building import Checked

Names = frozenset[str]
NONE: Names = frozenset()


class Veil(msgspec.Struct, frozen=True):
    """Names of things; roles hide everything of a kind (``grid``, ``wall``, ``opening``, ``joist`` …)."""

    hidden: Names = NONE
    roles: Names = NONE
    only: Names = NONE
    """Where not empty, everything else is out of sight."""
    locked: Names = NONE
    locked_roles: Names = NONE

    @property
    def hides(self) -> bool:
        """Whether anything is out of sight."""
        return bool(self.hidden or self.roles or self.only)


def role_of(key: str) -> str:
    """Return what a name is the name of: ``wall``, ``opening``, ``grid``, ``post``, ``joist`` …"""
    kind, _, rest = key.partition(":")
    if "/" in rest and kind not in ("opening", "grid", "step", "hole", "span"):
        return rest.split("/", 1)[1].split(":", 1)[0]
    return kind


def host_of(key: str) -> str:
    """Return the host a member's name begins with; the name itself for everything else."""
    if key.startswith(("opening:", "grid:", "step:", "hole:", "span:")):
        return key
    return key.split("/", 1)[0]


def shows(veil: Veil, key: str) -> bool:
    """Tell whether a thing is in sight."""
    names = {key, host_of(key)}
    if names & veil.hidden or role_of(key) in veil.roles:
        return False
    if not veil.only or names & veil.only:
        return True
    if key.startswith("wall:"):  # an opening that is isolated needs its wall to be seen in
        return any(k.startswith(f"opening:{key[5:]}/") for k in veil.only)
    return False


def is_hidden(veil: Veil, tier: str) -> bool:
    """Tell whether a tier was put out of sight, itself or by what it is made of."""
    return tier in veil.hidden or (tier.startswith("roof:") and bool(veil.roles & {"rafter", "top chord"}))


def is_locked(veil: Veil, key: str) -> bool:
    """Tell whether a thing is out of reach."""
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
    """Return a building without what is out of sight, to be drawn only."""
    if not veil.hides:
        return checked
    project = checked.project
    walls = tuple(
        replace(w, openings=tuple(o for o in w.openings if shows(veil, f"opening:{w.id}/{o.id}")))
        if w.openings and not veil.only
        else w
        for w in project.walls
        if shows(veil, f"wall:{w.id}")
    )
    grids = tuple(
        replace(g, lines=tuple(x for x in g.lines if shows(veil, f"grid:{g.id}/{x.id}"))) for g in project.grids
    )
    members = tuple(m for m in checked.structure.members if shows(veil, m.id))
    seen = replace(project, walls=walls, grids=tuple(g for g in grids if g.lines))
    steps = tuple(s for s in checked.structure.steps if shows(veil, s.key) and shows(veil, f"run:{s.run}"))
    return replace(checked, project=seen, structure=replace(checked.structure, members=members, steps=steps))


def words_of(veil: Veil) -> str:
    """Return in words what is out of sight or out of reach; empty where nothing is."""
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
