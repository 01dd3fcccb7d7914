"""A section: where the building is cut, drawn on the plan."""

from collections.abc import Sequence
from functools import partial
from typing import Any

from balken.errors import BalkenError
from balken.geometry.plane import distance
from balken.model.edits.paper import turn_section
from balken.model.edits.paper_rows import set_row
from balken.model.names import Name, ThingName
from balken.model.paper import Jog, SectionLine
from balken.session.desk import Desk
from balken.session.rows import Button, Field, Line, Rows, Title
from balken.session.things.on_paper import on_paper
from balken.units import System, format_length, parse_length
from balken.works.building import Checked

ALL = "all of it"


def _slip(desk: Desk, line: SectionLine) -> Rows:
    system = desk.system
    yield Title(f"Section {line.id}", "cut on the plan")
    yield Line("It is drawn among the elevations; each of its marks names the sheet.", quiet=True)

    def put(**fields: Any) -> object:
        return desk.edit("section", partial(set_row, rows="sections", key=line.id, **fields))

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
    return desk.edit("section", partial(set_row, rows="sections", key=line.id, **changed))


def _alike(checked: Checked, name: Name) -> Sequence[Name]:
    return [ThingName("section", s.id) for s in checked.project.paper.sections]


SECTION = on_paper("section", "sections", _slip, lambda s: f"section {s.id}", _alike)
