"""The slip while a tool is at work: what it does, its keys, and how what it places is made."""

from functools import partial
from typing import TYPE_CHECKING

from balken.desk.slip_many import level_options
from balken.desk.slip_walls import PLACES, build_up_options
from balken.drawing.wall_figure import build_up_figure
from balken.model.edits.build_ups import add_build_up
from balken.model.edits.openings import FIRST, rough
from balken.model.edits.supports import SIZES
from balken.model.project import level
from balken.model.walls import WallBuildUp, name_of
from balken.session.tools.supports import WHERE
from balken.units import format_run, parse_length

if TYPE_CHECKING:
    from balken.desk.window import Window

KEYS = (
    ("type", "a length in the units of the project"), ("Tab", "the next number, such as an angle"),
    ("arrows", "lock a direction; once more lets go"), ("Enter", "takes what is typed, or ends"),
    ("Ctrl+Z", "takes back the last"), ("Esc", "leaves the tool"),
)  # fmt: skip


def fill(w: "Window") -> None:
    """Fill the slip for the tool that is at work."""
    w.slip.title(w.tools.name, "tool")
    if w.tools.name == "Wall":
        _wall(w)
    elif w.tools.name == "Opening":
        _opening(w)
    elif w.tools.name == "Posts, pads":
        _support(w)
    w.slip.heading("Keys")
    for key, words in KEYS:
        w.slip.fact(key, words)


def _set(w: "Window", **fields: object) -> None:
    w.tools.set_kit(**fields)
    w.refresh()


def _wall(w: "Window") -> None:
    slip, project, kit = w.slip, w.building.project, w.tools.kit
    shapes = [("a chain", "chain"), ("a rectangle", "rectangle"), ("a curve", "arc")]

    def shape(v: str) -> None:
        w.tools.set_kit(shape=v)
        w.tools.again()

    slip.options("drawn as", shapes, kit.shape, shape)

    def take(v: str | WallBuildUp) -> None:
        if isinstance(v, WallBuildUp):
            made: list[str] = []

            def add(p: object) -> object:
                after, key = add_build_up(p, v.layers, v.module)  # type: ignore[arg-type]
                made.append(key)
                return after

            w.edit("take a wall build-up", add)  # type: ignore[arg-type]
            v = made[-1]
        _set(w, build_up=v)

    build_up_options(w, kit.build_up, take)
    body = next((b for b in project.wall_build_ups if b.id == kit.build_up), None)
    if body:
        slip.line(name_of(body, project.system), quiet=True, small=True)
        slip.figure(build_up_figure(body, project.system))
    slip.options("line marks", [(p, p) for p in PLACES], kit.by, lambda v: _set(w, by=v))
    sides = [("right of its way", "right"), ("left of its way", "left")]
    slip.options("outer face", sides, kit.outside, lambda v: _set(w, outside=v))
    slip.line("X turns the wall to the other side of its line.", quiet=True, small=True)
    slip.heading("Levels")
    slip.fact("stands on", level(project, w.tools.base).name)

    def top(v: str) -> None:
        w.tools.tops[w.tools.base] = v
        w.refresh()

    level_options(w, "reaches", w.tools.top, top)


def _opening(w: "Window") -> None:
    slip, system, kit = w.slip, w.building.project.system, w.tools.kit
    first = FIRST[system][kit.opening]
    unit = kit.unit if kit.unit[0] > 0 else (first[0], first[1])
    kinds = [("door", "door"), ("window", "window"), ("plain opening", "opening")]
    slip.options("is a", kinds, kit.opening, lambda v: _set(w, opening=v, unit=(0.0, 0.0), sill=None))
    slip.field("width", format_run(unit[0], system), lambda t: _set(w, unit=(parse_length(t, system), unit[1])))
    slip.field("height", format_run(unit[1], system), lambda t: _set(w, unit=(unit[0], parse_length(t, system))))
    sill = first[2] if kit.sill is None else kit.sill
    slip.field("sill", format_run(sill, system), lambda t: _set(w, sill=parse_length(t, system, negative=True)))
    wide, high = rough(kit.opening, unit, system)
    slip.fact("rough opening", f"{format_run(wide, system)} × {format_run(high, system)}")


def _support(w: "Window") -> None:
    slip, system, kit = w.slip, w.building.project.system, w.tools.kit

    def again(**fields: object) -> None:
        w.tools.set_kit(**fields)
        w.tools.again()

    kinds = [("posts", "post"), ("pads", "pad"), ("piers", "pier")]
    slip.options("which", kinds, kit.support, lambda v: again(support=v, size=None))
    slip.options("do", [("put", False), ("take away", True)], kit.taking, lambda v: again(taking=v))
    slip.options("where", [(x, x) for x in WHERE], kit.where, lambda v: again(where=v))
    size = kit.size or SIZES[system][kit.support]
    slip.field("width", format_run(size[0], system), lambda t: _set(w, size=(parse_length(t, system), size[1])))
    slip.field("depth", format_run(size[1], system), lambda t: _set(w, size=(size[0], parse_length(t, system))))
    if kit.where in ("every crossing", "chosen lines"):
        words = "Take them away" if kit.taking else "Put them"
        slip.button(words, partial(w.tools.go_on))
