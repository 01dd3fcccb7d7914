"""Every choice of size for a floor, a roof or a beam, side by side: as a chart, as steps, as a table; what is
clicked is held, and the model follows."""

from functools import partial
from typing import Final

from balken.design.sizing import Choice, Sized, alternatives
from balken.drawing.choice_chart import choice_chart, next_steps
from balken.drawing.words import pretty
from balken.model.aims import AIM_WORDS
from balken.model.beams import Beam, BeamBay
from balken.model.catalogue import SOFTWOOD
from balken.model.edits import set_floor
from balken.model.edits.beams import set_beams
from balken.model.edits.floors import build_floor_otherwise
from balken.model.edits.roofs import set_roof
from balken.model.names import HostName
from balken.model.project import Project, host_record
from balken.session.desk import Desk, page
from balken.session.rows import Button, Figure, Heading, Line, Link, Options, Rows, Title
from balken.session.things.wood import woods
from balken.units import format_run

MOST: Final = 14
"""So many choices stand in the table."""


def compare_button(desk: Desk, host: HostName) -> Rows:
    """Lead from a slip to all choices of a floor or a roof."""
    sized = desk.checked.sizes.get(host)
    if sized is not None and len(sized.choices) > 1:
        yield Button("All choices, drawn", partial(_open, desk, host))


def _open(desk: Desk, host: HostName) -> None:
    desk.compared = host
    desk.select(page("choices"))


def compared(desk: Desk) -> Rows:
    """The page of all choices of one host."""
    host = desk.compared
    sized = desk.checked.sizes.get(host) if host else None
    if host is None or sized is None:
        yield Title("Choices", "of nothing")
        yield Line("Choose a floor, a roof or a beam first.", quiet=True)
        return
    record = host_record(desk.project, host)
    yield Title("Choices", f"for {getattr(record, 'name', host.key)}")
    aimed = record.kind.aim if isinstance(record, Beam | BeamBay) else getattr(record, "aim", None)
    if aimed is not None:
        yield Options(
            "chosen for",
            [(words, aim) for aim, words in AIM_WORDS.items()],
            aimed,
            lambda v: desk.edit("what is chosen for", partial(_aim, host=host, aim=v)),
        )
    found = alternatives(sized, _woods(desk, sized)) if sized.task else sized.choices
    now = _now(sized, found)
    drawing = choice_chart(found, now, sized.allowed, desk.system)
    if drawing:
        yield Figure(drawing)
        yield Line("Full dots pass. The line joins those that none beats.", quiet=True, small=True)
    if now is not None:
        yield Heading("What the next step buys")
        for words, c in next_steps(found, now):
            more = c.cost - now.cost
            text = f"{_words(desk, c)}, {'+' if more >= 0 else '−'}{abs(more):,.0f}"
            yield Link(words, text, partial(_hold, desk, host, c))
    yield Heading("Those that pass", f"{sum(c.passes for c in found)} of {len(found)}")
    yield Line("How far used, cost, pieces; a click holds one.", quiet=True, small=True)
    for c in [c for c in found if c.passes][:MOST]:
        pieces = f" · {c.pieces} pcs" if c.pieces else ""
        told = f"{c.worst:.2f} · {c.cost:,.0f}{pieces}"
        yield Link(told, _words(desk, c), partial(_hold, desk, host, c))
    yield Button("Leave the size to the calculation", partial(_let_go, desk, host))


def _woods(desk: Desk, sized: Sized) -> tuple[tuple[str, str], ...]:
    """Every species and grade that the code has values for; the host's own where it knows it
    not."""
    assert sized.task is not None
    own = (sized.task.species, sized.task.grade)
    every = [wood for _, wood in woods(desk)]
    return tuple(every) if own in every else (own, *every)


def _now(sized: Sized, found: tuple[Choice, ...]) -> Choice | None:
    task, size = sized.task, sized.size
    wood = (task.species, task.grade) if task else ("", "")
    same = (c for c in found if (c.section, c.wood) == (size.section, wood))
    return next((c for c in same if abs(c.spacing - size.spacing) < 0.1), None)


def _words(desk: Desk, c: Choice) -> str:
    species = "" if c.wood[0] == SOFTWOOD else f"{c.wood[0]} "
    at = f" at {format_run(c.spacing, desk.system)}, {species}{c.wood[1]}" if c.spacing else ""
    return f"{pretty(c.section)}{at}"


def _aim(project: Project, host: HostName, aim: str) -> Project:
    if host.kind in ("beam", "bay"):
        return set_beams(project, (host,), aim=aim)
    edit = set_floor if host.kind == "floor" else set_roof
    return edit(project, host.key, aim=aim)


def _hold(desk: Desk, host: HostName, c: Choice) -> None:
    words = f"hold {_words(desk, c)}"
    desk.edit(words, partial(held_as, host=host, choice=c))


def held_as(project: Project, host: HostName, choice: Choice) -> Project:
    """A project with a choice held for a floor or a roof, its wood too."""
    if host.kind in ("beam", "bay"):
        return set_beams(project, (host,), section=choice.section)
    species, grade = choice.wood
    size = {"section": choice.section, "spacing": choice.spacing}
    if host.kind == "roof" and not grade:  # trusses: of the wood they are of
        return set_roof(project, host.key, **size)
    if host.kind == "roof":
        return set_roof(project, host.key, **size, species=species, grade=grade)
    project = set_floor(project, host.key, **size)
    floor = next(f for f in project.floors if f.id == host.key)
    body = next(b for b in project.build_ups if b.id == floor.build_up)
    if (body.species, body.grade) == choice.wood:
        return project
    return build_floor_otherwise(project, floor.id, species=species, grade=grade)


def _let_go(desk: Desk, host: HostName) -> None:
    if host.kind in ("beam", "bay"):
        desk.edit("leave the size", partial(set_beams, hosts=(host,), section=None))
        return
    edit = set_floor if host.kind == "floor" else set_roof
    desk.edit("leave the size", partial(edit, key=host.key, section=None, spacing=None))
