"""A level: its name, height and role, whether it is held, what moves with it, the sum up to it."""

from functools import partial

from balken.model.edits import move_level
from balken.model.edits.levels import (
    copy_level,
    hanging,
    hold_level,
    lock_levels,
    remove_level,
    rename_level,
    set_level_role,
    unlock_level,
)
from balken.model.names import Name, as_thing
from balken.model.project import ROLE_WORDS, Level, Project, column, level
from balken.session.desk import Desk, Thing
from balken.session.rows import Button, Fact, Field, Heading, Line, Options, Rows, Title
from balken.units import format_length, format_run, parse_length
from balken.units.runs import parse_runs
from balken.works.column import ColumnSum, column_sums, storey_sums


def _slip(desk: Desk, name: Name) -> Rows:
    key = as_thing(name).key
    project, system = desk.project, desk.system
    item = level(project, key)
    yield Title(item.name, "level")
    yield Field(
        "name",
        item.name,
        lambda t: desk.edit("rename level", partial(rename_level, key=key, name=t)),
    )

    def height(text: str) -> object:
        value = parse_length(text, system, negative=True)
        return desk.edit("move level", partial(move_level, key=key, elevation=value))

    yield Field("height", format_length(item.elevation, system), height)
    roles = [(word, role) for role, word in ROLE_WORDS.items()]
    yield Options(
        "is",
        roles,
        item.role,
        lambda v: desk.edit("role of level", partial(set_level_role, key=key, role=v)),
    )
    yield from _held(desk, item)
    yield from _sums(desk, key)
    yield Heading("Copy")
    yield Field(
        "copy up by",
        format_run(0.0, system),
        lambda t: desk.edit("copy level", partial(copies, key=key, text=t)),
    )
    yield Line(
        "A minus copies down; 9' x 3 makes three, 9' 10' 9' makes three at their own distances.",
        quiet=True,
        small=True,
    )
    yield from _hosted(desk, item)


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


def _held(desk: Desk, item: Level) -> Rows:
    project = desk.project
    ways = [("held where it is", True), ("follows what is built", False)]
    yield Options(
        "place",
        ways,
        item.held,
        lambda v: desk.edit("hold level", partial(hold_level, key=item.id, held=v)),
    )
    others = [("nothing", "")] + [(x.name, x.id) for x in column(project) if x.id != item.id]
    mate = next(
        (x.id for x in project.levels if item.lock and x.lock == item.lock and x.id != item.id), ""
    )

    def lock(v: str) -> object:
        if not v:
            return desk.edit("unlock level", partial(unlock_level, key=item.id))
        return desk.edit("lock levels", partial(lock_levels, key=item.id, other=v))

    yield Options("moves with", others, mate, lock)


def _sums(desk: Desk, key: str) -> Rows:
    """Show what is built up from one level to the next, against the distance there is."""
    project, system = desk.project, desk.system
    for item in (*column_sums(project), *storey_sums(project)):
        if key not in (item.under, item.top):
            continue
        yield Heading(f"{level(project, item.under).name} to {level(project, item.top).name}")
        for part in item.parts:
            if part.name == "studs":
                yield Field(
                    "studs", format_run(part.depth, system), partial(_studs, desk, item, part.depth)
                )
            else:
                yield Fact(format_run(part.depth, system), part.name)
        yield Line(sum_words(project, item), bold=True)


def _studs(desk: Desk, item: ColumnSum, old: float, text: str) -> object:
    """Let the plate stand where studs of a typed length bring it; it stays held or free as it
    is."""
    project = desk.project
    longer = parse_length(text, project.system) - old
    to = level(project, item.top).elevation + longer
    return desk.edit("stud length", partial(move_level, key=item.top, elevation=to, hold=False))


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


def _hosted(desk: Desk, item: Level) -> Rows:
    project = desk.project
    yield Heading("Hangs here")
    there = hanging(project, item.id)
    yield Line(", ".join(there) or "nothing yet", quiet=not there)
    if not there:
        yield Button("Take the level away", lambda: _remove(desk, item, None))
        return
    others = [(x.name, x.id) for x in column(project) if x.id != item.id]
    near = min(
        others, key=lambda o: abs(level(project, o[1]).elevation - item.elevation), default=("", "")
    )
    chosen = [near[1]]
    yield Options("goes over to", others, near[1], lambda v: chosen.__setitem__(0, v))
    yield Button("Take the level away", lambda: _remove(desk, item, chosen[0]))


def _remove(desk: Desk, item: Level, to: str | None) -> None:
    if desk.edit(f"take {item.name} away", partial(remove_level, key=item.id, to=to)):
        desk.select(None)
        desk.say(f"{item.name}: taken away. Ctrl+Z brings it back.")


def _found(project: Project, name: Name) -> Level | None:
    return next((x for x in project.levels if x.id == as_thing(name).key), None)


def _called(project: Project, name: Name) -> str:
    found = _found(project, name)
    return f"level {found.name}" if found else ""


def _take_away(desk: Desk, name: Name) -> None:
    """Take a level away that nothing hangs on; what hangs on another goes over in its slip."""
    item = level(desk.project, as_thing(name).key)
    if hanging(desk.project, item.id):
        desk.say(
            f"{', '.join(hanging(desk.project, item.id))} hang on {item.name}. Choose in the slip"
            " where they go over to, and take the level away there."
        )
    else:
        _remove(desk, item, None)


LEVEL = Thing(
    "level",
    "level",
    _slip,
    there=lambda project, name: _found(project, name) is not None,
    called=_called,
    take_away=_take_away,
)
