"""A door, window or plain opening of a wall."""

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any

from balken.drawing.wall_figure import opening_figure
from balken.framing.kinds import LINTEL
from balken.geometry.plane import Point
from balken.model.edits.common import EditError
from balken.model.edits.openings import copy_opening, find_opening, mirror_opening, set_opening
from balken.model.edits.transform import move
from balken.model.names import HostName, MemberName, Name, ThingName, as_thing, things_of
from balken.model.project import Project, wall, wall_build_up
from balken.model.walls import Opening, Wall, called, direction_of, wall_length
from balken.session.desk import Desk, DragWay, Pull, Thing
from balken.session.rows import Button, Field, Figure, Heading, Link, Options, Rows, Title
from balken.session.things import opening_frames
from balken.session.things.fields import various
from balken.session.things.walls import walls_on_base
from balken.site.wall_weights import is_masonry
from balken.units import System, format_length, format_run, parse_length
from balken.works.building import Checked


def _one(desk: Desk, thing: Name) -> Rows:
    name = as_thing(thing)
    project, system = desk.project, desk.system
    item, hole = find_opening(project, name)
    yield Title(hole.kind.capitalize(), f"in {called(item)}")
    yield Figure(opening_figure(project, item, hole.id))

    def edit(words: str, **fields: Any) -> object:
        return desk.edit(words, partial(set_opening, name=name, **fields))

    def length(
        words: str, make: Callable[[float], dict[str, Any]], *, negative: bool = False
    ) -> Callable[[str], object]:
        return lambda t: edit(words, **make(parse_length(t, system, negative=negative)))

    kinds = [("door", "door"), ("window", "window"), ("plain opening", "opening")]
    yield Options("is a", kinds, hole.kind, lambda v: edit("kind of opening", kind=v))
    rest = wall_length(item) - hole.at - hole.width
    yield Field(
        "from start", format_length(hole.at, system), length("move opening", lambda v: {"at": v})
    )
    yield Field(
        "from end",
        format_length(rest, system),
        length("move opening", lambda v: {"at": wall_length(item) - v - hole.width}),
    )
    if hole.unit[0] > 0 and hole.unit[1] > 0:
        yield Heading("Door or window")
        yield Field(
            "width",
            format_run(hole.unit[0], system),
            length("width", lambda v: {"unit": (v, hole.unit[1])}),
        )
        yield Field(
            "height",
            format_run(hole.unit[1], system),
            length("height", lambda v: {"unit": (hole.unit[0], v)}),
        )
    yield Heading("Rough opening")
    yield Field(
        "rough width", format_run(hole.width, system), length("rough width", lambda v: {"width": v})
    )
    yield Field(
        "rough height",
        format_run(hole.height, system),
        length("rough height", lambda v: {"height": v}),
    )
    yield Field(
        "sill", format_run(hole.sill, system), length("sill", lambda v: {"sill": v}, negative=True)
    )
    yield Field(
        "head",
        format_run(hole.sill + hole.height, system),
        length("head", lambda v: {"sill": v - hole.height}),
    )
    yield Field(
        "round head, rise",
        format_run(hole.rise, system) if hole.rise else "none",
        lambda t: edit("round head", rise=length_or_none(t, system)),
    )
    yield from _over_it(desk, item, hole, edit)
    yield Heading("Again")

    def copy(text: str) -> object:
        by = parse_length(text, system, negative=True)
        return desk.edit("copy opening", partial(copy_opening, name=name, by=by))

    yield Field("copy by", format_run(0.0, system), copy)
    yield Button(
        "Mirror about the wall’s middle",
        lambda: desk.edit("mirror opening", partial(mirror_opening, name=name)),
    )


def _over_it(desk: Desk, item: Wall, hole: Opening, edit: Callable[..., object]) -> Rows:
    """What carries over an opening: its frame, or its lintel in a wall of masonry."""
    project, system = desk.project, desk.system
    yield from opening_frames.rows(desk, item, hole)
    body = wall_build_up(project, item)
    if body is not None and is_masonry(body):
        yield Heading("Over it")
        yield Field(
            "lintel, deep",
            format_run(hole.lintel, system) if hole.lintel else "by rule",
            lambda t: edit(
                "depth of lintel",
                lintel=0.0 if t.strip().lower() in ("", "by rule") else parse_length(t, system),
            ),
        )
        lintel = MemberName(HostName("wall", item.id), LINTEL.role, hole.id, "")
        if any(m.id == lintel for m in desk.checked.structure.of(LINTEL)):
            yield Link("lintel", "its bars and checks", partial(desk.select, lintel))


def length_or_none(text: str, system: System) -> float:
    """A length as typed; nothing for “none”."""
    return 0.0 if text.strip().lower() in ("", "none") else parse_length(text, system)


def _several(desk: Desk, things: tuple[Name, ...]) -> Rows:
    """The fields that selected openings share."""
    names = tuple(things_of(things, "opening"))
    project, system = desk.project, desk.system
    holes = [find_opening(project, n)[1] for n in names]

    def change(words: str, field: str, text: str) -> object:
        value = parse_length(text, system, negative=field == "sill")
        return desk.edit(words, lambda p: _each(p, names, **{field: value}))

    kinds = [("door", "door"), ("window", "window"), ("plain opening", "opening")]
    kind = various(h.kind for h in holes)
    yield Options(
        "are",
        kinds if kind else [("various", ""), *kinds],
        kind or "",
        lambda v: desk.edit("kind of openings", lambda p: _each(p, names, kind=v)) if v else None,
    )
    for word, field in (("rough width", "width"), ("rough height", "height"), ("sill", "sill")):
        value = various(getattr(h, field) for h in holes)
        yield Field(
            word,
            "various" if value is None else format_run(value, system),
            partial(change, word, field),
        )


def _each(project: Project, names: tuple[ThingName, ...], **fields: Any) -> Project:
    for name in names:
        project = set_opening(project, name, **fields)
    return project


def _found(project: Project, name: Name) -> tuple[Wall, Opening] | None:
    try:
        return find_opening(project, as_thing(name))
    except EditError:
        return None


def _called(project: Project, name: Name) -> str:
    found = _found(project, name)
    if found is None:
        return ""
    item, hole = found
    return f"{hole.kind} in {called(item)}, {format_run(hole.width, project.system)} wide"


def _alike(checked: Checked, name: Name) -> Sequence[Name]:
    """Openings of one kind and size in the walls of a level."""
    found = _found(checked.project, name)
    return [
        ThingName("opening", w.id, o.id)
        for w in checked.project.walls
        for o in w.openings
        if found
        and w.base == found[0].base
        and (o.kind, o.width, o.height) == (found[1].kind, found[1].width, found[1].height)
    ]


def _here(desk: Desk) -> Sequence[Name]:
    walls = [w for w in desk.project.walls if w.base == desk.base]
    return [ThingName("opening", w.id, o.id) for w in walls for o in w.openings]


def _along(checked: Checked, name: Name, at: Point) -> DragWay | None:
    """An opening is dragged along its wall."""
    return DragWay(direction_of(wall(checked.project, as_thing(name).key)))


def _moved(checked: Checked, base: Project, name: Name, pull: Pull) -> Project:
    moved = move(base, (name,), pull.by) if any(pull.by) else base
    if not pull.up:
        return moved
    _, hole = find_opening(base, as_thing(name))
    return set_opening(moved, as_thing(name), sill=round(hole.sill + pull.up, 3))


OPENING = Thing(
    "opening",
    "opening",
    _one,
    there=lambda project, name: _found(project, name) is not None,
    called=_called,
    tier=walls_on_base,
    alike=_alike,
    here=_here,
    ways=_along,
    moved=_moved,
    several=_several,
)
