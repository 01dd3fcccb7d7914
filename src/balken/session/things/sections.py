"""A section: where the building is cut, drawn on the plan."""

from collections.abc import Sequence
from functools import partial
from typing import Any

from balken.errors import BalkenError
from balken.geometry.plane import distance
from balken.model.edits.paper import drop_section, move_section, set_section, turn_section
from balken.model.names import Name, ThingName, as_thing
from balken.model.paper import Jog, SectionLine
from balken.model.project import Project
from balken.session.desk import Desk, DragWay, Pull, Thing
from balken.session.rows import Button, Field, Line, Rows, Title
from balken.units import System, format_length, parse_length
from balken.works.building import Checked

ALL = "all of it"


def _slip(desk: Desk, name: Name) -> Rows:
    line = _found(desk.project, name)
    if line is None:
        return
    system = desk.system
    yield Title(f"Section {line.id}", "cut on the plan")
    yield Line("It is drawn among the elevations; each of its marks names the sheet.", quiet=True)

    def put(**fields: Any) -> object:
        return desk.edit("section", partial(set_section, key=line.id, **fields))

    for word, end, place in (("begins", "start", line.start), ("ends", "end", line.end)):
        for way, axis in (("east", 0), ("north", 1)):
            now = format_length(place[axis], system)
            yield Field(f"{word}, {way}", now, partial(_put_end, desk, line, end, axis))
    yield Field(
        "shows behind it",
        format_length(line.depth, system) if line.depth else ALL,
        lambda t: put(depth=0.0 if t.strip().lower() in ("", ALL) else parse_length(t, system)),
    )
    yield Field(
        "steps aside",
        _jogs_text(line, system),
        lambda t: put(jogs=_jogs(line, t, system)),
        example="12', 3'; 20', 0'",
    )
    yield Line("Each: how far along it, and how far ahead it goes on from there.", quiet=True)
    yield Button(
        "Look the other way", lambda: desk.edit("turn section", partial(turn_section, key=line.id))
    )
    yield Button("Take it away", lambda: _take_away(desk, name))


NONE = "nowhere"


def _jogs_text(line: SectionLine, system: System) -> str:
    both = (f"{format_length(j.at, system)}, {format_length(j.ahead, system)}" for j in line.jogs)
    return "; ".join(both) or NONE


def _jogs(line: SectionLine, text: str, system: System) -> tuple[Jog, ...]:
    """Steps of a section as they are typed, in their order along it.

    Raises:
        BalkenError: they cannot be read, or one lies past the ends of the section.
    """
    if text.strip().lower() in ("", NONE):
        return ()
    long = distance(line.start, line.end)
    found: list[Jog] = []
    for part in text.split(";"):
        at, comma, ahead = part.partition(",")
        if not comma:
            raise BalkenError("Write how far along and how far ahead: 12', 3'; 20', 0'.")
        jog = Jog(parse_length(at, system), parse_length(ahead, system, negative=True))
        if not 0.0 < jog.at < long:
            raise BalkenError(
                f"A step lies between the ends of the section, {format_length(long, system)}."
            )
        found.append(jog)
    return tuple(sorted(found, key=lambda j: j.at))


def _put_end(desk: Desk, line: SectionLine, end: str, axis: int, text: str) -> object:
    """Put one end of a section somewhere else along one axis."""
    place = list(getattr(line, end))
    place[axis] = parse_length(text, desk.system, negative=True)
    changed: dict[str, Any] = {end: (place[0], place[1])}
    return desk.edit("section", partial(set_section, key=line.id, **changed))


def _found(project: Project, name: Name) -> SectionLine | None:
    return next((s for s in project.paper.sections if s.id == as_thing(name).key), None)


def _called(project: Project, name: Name) -> str:
    line = _found(project, name)
    return f"section {line.id}" if line else ""


def _moved(checked: Checked, base: Project, name: Name, pull: Pull) -> Project:
    return move_section(base, as_thing(name).key, pull.by)


def _take_away(desk: Desk, name: Name) -> None:
    if desk.edit("take the section away", partial(drop_section, key=as_thing(name).key)):
        desk.select(None)


def _alike(checked: Checked, name: Name) -> Sequence[Name]:
    return [ThingName("section", s.id) for s in checked.project.paper.sections]


SECTION = Thing(
    "section",
    "section",
    _slip,
    there=lambda project, name: _found(project, name) is not None,
    called=_called,
    alike=_alike,
    ways=lambda checked, name, at: DragWay(),
    moved=_moved,
    take_away=_take_away,
)
