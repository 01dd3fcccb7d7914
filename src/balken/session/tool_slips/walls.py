"""The slips of the tools for walls and openings."""

from balken.drawing.wall_figure import build_up_figure
from balken.model.edits.build_ups import add_build_up
from balken.model.edits.openings import FIRST, rough
from balken.model.project import level
from balken.model.walls import WallBuildUp, name_of
from balken.session.desk import Desk
from balken.session.rows import Fact, Field, Figure, Heading, Line, Options, Rows
from balken.session.things.fields import level_options
from balken.session.things.walls import PLACES, build_up_options
from balken.units import format_run, parse_length


def wall_fields(desk: Desk) -> Rows:
    """How new walls are drawn and built up."""
    project, kit = desk.project, desk.kit
    shapes = [("a chain", "chain"), ("a rectangle", "rectangle"), ("a curve", "arc")]

    yield Options("drawn as", shapes, kit.shape, lambda v: desk.set_kit(again=True, shape=v))

    def take(v: str | WallBuildUp) -> None:
        if isinstance(v, WallBuildUp):
            body = v
            made = desk.edit(
                "take a wall build-up", lambda p: add_build_up(p, body.layers, body.module)[0]
            )
            if not made:
                return
            v = add_build_up(desk.project, body.layers, body.module)[1]
        desk.set_kit(build_up=v)

    yield build_up_options(desk, kit.build_up, take)
    body = next((b for b in project.wall_build_ups if b.id == kit.build_up), None)
    if body:
        yield Line(name_of(body, project.system), quiet=True, small=True)
        yield Figure(build_up_figure(body, project.system))
    yield Options("line marks", [(p, p) for p in PLACES], kit.by, lambda v: desk.set_kit(by=v))
    sides = [("right of its way", "right"), ("left of its way", "left")]
    yield Options("outer face", sides, kit.outside, lambda v: desk.set_kit(outside=v))
    yield Line("X turns the wall to the other side of its line.", quiet=True, small=True)
    yield Heading("Levels")
    yield Fact("stands on", level(project, desk.base).name)

    def top(v: str) -> None:
        desk.tops[desk.base] = v
        desk.refresh()

    yield level_options(desk.project, "reaches", desk.top, top)


def opening_fields(desk: Desk) -> Rows:
    """What kind of opening is put in, and its sizes."""
    system, kit = desk.system, desk.kit
    first = FIRST[system][kit.opening]
    unit = kit.unit if kit.unit[0] > 0 else (first[0], first[1])
    kinds = [("door", "door"), ("window", "window"), ("plain opening", "opening")]
    yield Options(
        "is a", kinds, kit.opening, lambda v: desk.set_kit(opening=v, unit=(0.0, 0.0), sill=None)
    )
    yield Field(
        "width",
        format_run(unit[0], system),
        lambda t: desk.set_kit(unit=(parse_length(t, system), unit[1])),
    )
    yield Field(
        "height",
        format_run(unit[1], system),
        lambda t: desk.set_kit(unit=(unit[0], parse_length(t, system))),
    )
    sill = first[2] if kit.sill is None else kit.sill
    yield Field(
        "sill",
        format_run(sill, system),
        lambda t: desk.set_kit(sill=parse_length(t, system, negative=True)),
    )
    wide, high = rough(kit.opening, unit, system)
    yield Fact("rough opening", f"{format_run(wide, system)} × {format_run(high, system)}")
