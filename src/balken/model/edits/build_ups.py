"""Edits of wall build-ups: changing one says how many walls it touches, and can change all, some,
or make a copy."""

from collections.abc import Sequence
from typing import Literal

from msgspec.structs import replace

from balken.errors import BalkenError
from balken.model.edits.common import EditError, checked, fresh
from balken.model.edits.walls import set_build_up_of
from balken.model.project import Project
from balken.model.walls import Layer, Module, WallBuildUp, built, core_of, outside_of


def add_build_up(
    project: Project, layers: Sequence[Layer], module: Module | None = None
) -> tuple[Project, str]:
    """Add a build-up, unless the same is there already; return the project and its key."""
    for there in project.wall_build_ups:
        if there.layers == tuple(layers) and there.module == module:
            return project, there.id
    key = fresh((b.id for b in project.wall_build_ups), "X")
    made = WallBuildUp(key, tuple(layers), module)
    _has_core(made)
    return checked(project, wall_build_ups=(*project.wall_build_ups, made)), key


def _has_core(made: WallBuildUp) -> None:
    try:
        core_of(made)
    except BalkenError as error:
        raise EditError(str(error)) from error


def walls_with(project: Project, key: str) -> tuple[str, ...]:
    """The walls that are built up so."""
    return tuple(w.id for w in project.walls if w.build_up == key)


Scope = Literal["all", "these", "copy"]


def change_build_up(
    project: Project,
    key: str,
    layers: Sequence[Layer],
    module: Module | None,
    scope: Scope,
    walls: Sequence[str] = (),
) -> Project:
    """Change the layers of a build-up.

    Args:
        project: the building.
        key: the build-up.
        layers: from the outside in.
        module: block module, if any.
        scope: ``all`` walls that have it follow; ``these`` walls get a build-up of their own;
            ``copy`` only adds one.
        walls: for ``these``.

    Raises:
        EditError: no layer is core.
    """
    old = next(b for b in project.wall_build_ups if b.id == key)
    new = replace(old, layers=tuple(layers), module=module)
    _has_core(new)
    if scope != "all":
        after, made = add_build_up(project, layers, module)
        return set_build_up_of(after, walls, made) if scope == "these" else after
    changed = tuple(new if b.id == key else b for b in project.wall_build_ups)
    moved = tuple(
        built(w, new, "outer face" if w.by == "free" else w.by, outside=outside_of(w))
        if w.build_up == key
        else w
        for w in project.walls
    )
    return checked(project, wall_build_ups=changed, walls=moved)


def remove_build_up(project: Project, key: str) -> Project:
    """Take a build-up out of the project's list.

    Raises:
        EditError: walls are built so.
    """
    count = len(walls_with(project, key))
    if count:
        raise EditError(
            f"{count} {'wall is' if count == 1 else 'walls are'} built up so; give them another"
            " one first."
        )
    return checked(project, wall_build_ups=tuple(b for b in project.wall_build_ups if b.id != key))


def with_layer(build_up: WallBuildUp, index: int, layer: Layer | None) -> tuple[Layer, ...]:
    """Layers with one replaced, taken out (None), or added at the end (index past it)."""
    layers = list(build_up.layers)
    if layer is None:
        del layers[index]
    elif index >= len(layers):
        layers.append(layer)
    else:
        layers[index] = replace(layer)
    return tuple(layers)
