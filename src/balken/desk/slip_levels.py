"""The slip of a level: its name, height and role, whether it is held, what moves with it, the sum
up to it."""

from functools import partial
from typing import TYPE_CHECKING

from balken.model.edits import (
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
from balken.model.project import ROLE_WORDS, Level, Project, column, level
from balken.units import format_length, format_run, parse_length, parse_runs
from balken.works.column import ColumnSum, column_sums, storey_sums

if TYPE_CHECKING:
    from balken.desk.window import Window


def fill(w: "Window", key: str) -> None:
    """Fill the slip for a level."""
    slip, project, system = w.slip, w.building.project, w.building.project.system
    item = level(project, key)
    slip.title(item.name, "level")
    slip.field(
        "name", item.name, lambda t: w.edit("rename level", partial(rename_level, key=key, name=t))
    )

    def height(text: str) -> object:
        value = parse_length(text, system, negative=True)
        return w.edit("move level", partial(move_level, key=key, elevation=value))

    slip.field("height", format_length(item.elevation, system), height)
    roles = [(word, role) for role, word in ROLE_WORDS.items()]
    slip.options(
        "is",
        roles,
        item.role,
        lambda v: w.edit("role of level", partial(set_level_role, key=key, role=v)),
    )
    _held(w, item)
    _sums(w, key)
    slip.heading("Copy")
    slip.field(
        "copy up by",
        format_run(0.0, system),
        lambda t: w.edit("copy level", partial(copies, key=key, text=t)),
    )
    slip.line(
        "A minus copies down; 9' x 3 makes three, 9' 10' 9' makes three at their own distances.",
        quiet=True,
        small=True,
    )
    _hosted(w, item)


def copies(project: Project, key: str, text: str) -> Project:
    """Copy a level by typed distances, one above the other; a minus in front goes down.

    Raises:
        BalkenError: a distance cannot be read.
    """
    plain = text.strip().replace("−", "-")
    sign = -1.0 if plain.startswith("-") else 1.0
    total = 0.0
    for run in parse_runs(plain.lstrip("+-"), project.system):
        total += run
        project = copy_level(project, key, sign * total)
    return project


def _held(w: "Window", item: Level) -> None:
    slip, project = w.slip, w.building.project
    ways = [("held where it is", True), ("follows what is built", False)]
    slip.options(
        "place",
        ways,
        item.held,
        lambda v: w.edit("hold level", partial(hold_level, key=item.id, held=v)),
    )
    others = [("nothing", "")] + [(x.name, x.id) for x in column(project) if x.id != item.id]
    mate = next(
        (x.id for x in project.levels if item.lock and x.lock == item.lock and x.id != item.id), ""
    )

    def lock(v: str) -> object:
        if not v:
            return w.edit("unlock level", partial(unlock_level, key=item.id))
        return w.edit("lock levels", partial(lock_levels, key=item.id, other=v))

    slip.options("moves with", others, mate, lock)


def _sums(w: "Window", key: str) -> None:
    """Show what is built up from one level to the next, against the distance there is."""
    project, system = w.building.project, w.building.project.system
    for item in (*column_sums(project), *storey_sums(project)):
        if key not in (item.under, item.top):
            continue
        w.slip.heading(f"{level(project, item.under).name} to {level(project, item.top).name}")
        for part in item.parts:
            if part.name == "studs":
                w.slip.field(
                    "studs", format_run(part.depth, system), partial(_studs, w, item, part.depth)
                )
            else:
                w.slip.fact(format_run(part.depth, system), part.name)
        w.slip.line(sum_words(project, item), bold=True)


def _studs(w: "Window", item: ColumnSum, old: float, text: str) -> object:
    """Let the plate stand where studs of a typed length bring it; it stays held or free as it
    is."""
    project = w.building.project
    longer = parse_length(text, project.system) - old
    to = level(project, item.top).elevation + longer
    return w.edit("stud length", partial(move_level, key=item.top, elevation=to, hold=False))


def sum_words(project: Project, item: ColumnSum) -> str:
    """A sum against its levels in words."""
    system = project.system
    total = format_run(sum(p.depth for p in item.parts), system)
    between = format_run(
        level(project, item.top).elevation - level(project, item.under).elevation, system
    )
    if not item.floor:
        return f"{total} from floor to plate."
    if abs(item.over) <= 1.0:
        return f"{total} in all: it adds up."
    word = "gap" if item.over > 0 else "overlap"
    return (
        f"{total} in all, {between} between the levels: {format_run(abs(item.over), system)}"
        f" {word}."
    )


def _hosted(w: "Window", item: Level) -> None:
    slip, project = w.slip, w.building.project
    slip.heading("Hangs here")
    there = hanging(project, item.id)
    slip.line(", ".join(there) or "nothing yet", quiet=not there)
    if not there:
        slip.button("Take the level away", lambda: _remove(w, item, None))
        return
    others = [(x.name, x.id) for x in column(project) if x.id != item.id]
    near = min(
        others, key=lambda o: abs(level(project, o[1]).elevation - item.elevation), default=("", "")
    )
    chosen = [near[1]]
    slip.options("goes over to", others, near[1], lambda v: chosen.__setitem__(0, v))
    slip.button("Take the level away", lambda: _remove(w, item, chosen[0]))


def _remove(w: "Window", item: Level, to: str | None) -> None:
    if w.edit(f"take {item.name} away", partial(remove_level, key=item.id, to=to)):
        w.select(None)
        w.say(f"{item.name}: taken away. Ctrl+Z brings it back.")
