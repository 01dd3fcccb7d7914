"""A step of a footing."""

from functools import partial

from balken.framing.hosts.runs import Step
from balken.geometry.plane import Point, direction_or, dot, left, sub
from balken.model.edits.foundations import hold_step, let_step_go
from balken.model.names import HostName, Name, as_thing, whole
from balken.model.project import Project
from balken.model.walls import called
from balken.session.desk import Desk, DragWay, Pull, Thing
from balken.session.rows import Button, Field, Line, Link, Rows, Title
from balken.units import format_length, format_run, parse_length
from balken.works.building import Checked


def _slip(desk: Desk, name: Name) -> Rows:
    found: Step | None = next((s for s in desk.checked.structure.steps if s.key == name), None)
    project, system = desk.project, desk.system
    if found is None:
        yield Title("Step", "")
        yield Line("This step is solved away: the ground asks for none here any more.", quiet=True)
        return
    s = found
    names = {x.id: called(x) for x in project.walls}
    yield Title("Step", f"footing {s.run} under {names.get(whole(s.line), 'a path')}")
    rule = project.site.steps
    yield Line(
        f"{format_run(abs(s.drop), system)} {'down' if s.drop > 0 else 'up'} in the wall’s way,"
        f" lap {format_run(max(rule.lap, abs(s.drop)), system)}"
    )
    yield Line(
        "Held by hand: the others are solved round it."
        if s.held
        else "By calculation; moving it holds it.",
        quiet=True,
    )

    def put(at: float, drop: float) -> object:
        made = desk.edit(
            "hold step",
            partial(
                hold_step,
                key=s.run,
                wall=s.line,
                at=at,
                drop=drop,
                instead=s.at if s.held else None,
            ),
        )
        if made:
            near = [
                x
                for x in desk.checked.structure.steps
                if x.run == s.run and x.line == s.line and abs(x.at - at) < 1
            ]
            desk.select(near[0].key if near else HostName("run", s.run))
        return made

    yield Field(
        "from the wall’s start",
        format_length(s.at, system),
        lambda t: put(parse_length(t, system), s.drop),
    )
    yield Field(
        "goes down",
        format_run(s.drop, system),
        lambda t: put(s.at, parse_length(t, system, negative=True)),
    )
    if s.held:
        yield Button(
            "Let it go",
            lambda: desk.edit("let step go", partial(let_step_go, key=s.run, wall=s.line, at=s.at)),
        )
    else:
        yield Button("Hold it here", lambda: put(s.at, s.drop))
    yield Link("part of", f"foundation {s.run}", partial(desk.select, HostName("run", s.run)))


def _across(checked: Checked, name: Name, at: Point) -> DragWay | None:
    """A step is dragged along its wall."""
    found = next((s for s in checked.structure.steps if s.key == name), None)
    if found is None:
        return None
    a, b = found.across
    return DragWay(left(direction_or(sub(b, a), (1.0, 0.0))))


def _moved(checked: Checked, base: Project, name: Name, pull: Pull) -> Project:
    """Hold a step where it is dragged to."""
    found = next((s for s in checked.structure.steps if s.key == name), None)
    if found is None:
        return base
    a, b = found.across
    way = direction_or((b[1] - a[1], a[0] - b[0]), (1.0, 0.0))
    at = found.at + dot(pull.by, way)
    return hold_step(base, found.run, found.line, at, found.drop, instead=found.at)


def _take_away(desk: Desk, name: Name) -> None:
    """Let a held step go; one by calculation is there because the ground asks for it."""
    found = next((s for s in desk.checked.structure.steps if s.key == name), None)
    if found is None or not found.held:
        desk.say(
            "This step is not held: the ground asks for it. Move it, or change the rule of steps."
        )
    elif desk.edit(
        "let step go", partial(let_step_go, key=found.run, wall=found.line, at=found.at)
    ):
        desk.select(HostName("run", found.run))


STEP = Thing(
    "step",
    "step",
    _slip,
    called=lambda project, name: f"step of footing {as_thing(name).key}",
    ways=_across,
    moved=_moved,
    take_away=_take_away,
)
