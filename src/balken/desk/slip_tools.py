"""The slip while a tool is at work: what it does, its keys, and how what it places is made."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from msgspec.structs import replace

from balken.desk import slip_beams, slip_floors, slip_roofs
from balken.desk.slip_ground import sill_sections
from balken.desk.slip_many import level_options
from balken.desk.slip_walls import PLACES, build_up_options
from balken.drawing.foundation_figure import chosen_figure
from balken.drawing.wall_figure import build_up_figure
from balken.errors import BalkenError
from balken.model.edits.build_ups import add_build_up
from balken.model.edits.openings import FIRST, rough
from balken.model.edits.supports import SIZES
from balken.model.foundations import (
    KIND_WORDS,
    PART_WORDS,
    PARTS,
    WITH_STEM,
    Chosen,
    Part,
    parts_missing,
)
from balken.model.project import column, level
from balken.model.walls import WallBuildUp, name_of
from balken.session.tools import foundations
from balken.session.tools.supports import WHERE
from balken.units import System, format_run, parse_length

if TYPE_CHECKING:
    from balken.desk.window import Window

KEYS = (
    ("type", "a length in the units of the project"),
    ("Tab", "the next number, such as an angle"),
    ("arrows", "lock a direction; once more lets go"),
    ("Enter", "takes what is typed, or ends"),
    ("Ctrl+Z", "takes back the last"),
    ("Esc", "leaves the tool"),
)


def fill(w: "Window") -> None:
    """Fill the slip for the tool that is at work."""
    w.slip.title(w.tools.name, "tool")
    if w.tools.name == "Wall":
        _wall(w)
    elif w.tools.name == "Opening":
        _opening(w)
    elif w.tools.name == "Posts, pads":
        _support(w)
    elif w.tools.name == "Foundation":
        _foundation(w)
    elif w.tools.name in ("Floor", "Opening in floor"):
        slip_floors.tool_fields(w, partial(_put, w))
    elif w.tools.name in ("Beam", "Beam bays"):
        slip_beams.tool_fields(w, partial(_put, w))
    elif w.tools.name in ("Roof", "Skylight"):
        slip_roofs.tool_fields(w, partial(_put, w))
    w.slip.heading("Keys")
    for key, words in KEYS:
        w.slip.fact(key, words)


def _set(w: "Window", **fields: object) -> None:
    w.tools.set_kit(**fields)
    w.refresh()


def _put(w: "Window", *, again: bool = False, **fields: object) -> None:
    """Remember something; where it changes what is asked, the tool begins anew."""
    w.tools.set_kit(**fields)
    if again:
        w.tools.again()
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
    slip.options(
        "is a", kinds, kit.opening, lambda v: _set(w, opening=v, unit=(0.0, 0.0), sill=None)
    )
    slip.field(
        "width",
        format_run(unit[0], system),
        lambda t: _set(w, unit=(parse_length(t, system), unit[1])),
    )
    slip.field(
        "height",
        format_run(unit[1], system),
        lambda t: _set(w, unit=(unit[0], parse_length(t, system))),
    )
    sill = first[2] if kit.sill is None else kit.sill
    slip.field(
        "sill",
        format_run(sill, system),
        lambda t: _set(w, sill=parse_length(t, system, negative=True)),
    )
    wide, high = rough(kit.opening, unit, system)
    slip.fact("rough opening", f"{format_run(wide, system)} × {format_run(high, system)}")


def _foundation(w: "Window") -> None:
    """Ask for the parts of the kind, and only those, and draw what is chosen so far."""
    slip, project, kit = w.slip, w.building.project, w.tools.kit
    system, kind = project.system, w.tools.kit.foundation
    chosen = foundations.chosen_parts(w.tools, kind)

    def again(**fields: object) -> None:
        w.tools.set_kit(**fields)
        w.tools.again()

    slip.options(
        "kind", [(words, k) for k, words in KIND_WORDS.items()], kind, lambda v: again(foundation=v)
    )
    slip.options("runs", [(x, x) for x in foundations.WHERE], kit.along, lambda v: again(along=v))
    slip.figure(chosen_figure(kind, chosen, system))

    def take(**parts: object) -> None:
        again(chosen=foundations.with_parts(w.tools, kind, replace(chosen, **parts)))

    for part in PARTS[kind]:
        _part(w, part, chosen, take)
    missing = parts_missing(kind, chosen)
    if missing:
        slip.line(
            "Still to be chosen: " + ", ".join(PART_WORDS[p] for p in missing) + ".", bold=True
        )
        slip.button(
            "Usual sizes for the rest",
            lambda: take(**_only(foundations.usual(w.tools, kind, chosen), missing)),
        )
    elif kit.along != "drawn freely":
        slip.button("Place it", w.tools.go_on)
    slip.heading("Levels")
    levels = [("usual", ""), *((x.name, x.id) for x in reversed(column(project)))]
    if kind in WITH_STEM:
        slip.options("wall begins at", levels, kit.found_base, lambda v: again(found_base=v))
    slip.options("top at", levels, kit.found_top, lambda v: again(found_top=v))
    if kind == "basement":
        slip.options("slab at", levels, kit.found_slab, lambda v: again(found_slab=v))
    slip.field(
        "face moved out",
        format_run(kit.face, system),
        lambda t: again(face=parse_length(t, system, negative=True)),
    )


def _only(chosen: Chosen, parts: tuple[Part, ...]) -> dict[str, object]:
    return {part: getattr(chosen, part) for part in parts}


def _part(w: "Window", part: Part, chosen: Chosen, take: Callable[..., None]) -> None:
    """Add the field of one part; what is not chosen yet stands empty."""
    system = w.building.project.system
    now = getattr(chosen, part)
    if part == "sill":
        values: list[tuple[str, str | None]] = [] if now is not None else [("choose", None)]
        values += [("none", ""), *((s.replace("x", "×"), s) for s in sill_sections(system))]
        w.slip.options("sill plate", values, now, lambda v: take(sill=v))
        return
    if part in ("wall", "slab"):
        shown = "" if now is None else format_run(now, system)
        w.slip.field(f"{part} thickness", shown, lambda t: take(**{part: positive(t, system)}))
        return
    words = {
        "footing": "footing width x thickness",
        "edge": "edge width x depth",
        "beam": "beam width x depth",
    }[part]
    shown = "" if now is None else f"{format_run(now[0], system)} x {format_run(now[1], system)}"
    w.slip.field(words, shown, lambda t: take(**{part: two_sizes(t, system)}))


def positive(text: str, system: System) -> float:
    """Read a size that must be there.

    Raises:
        BalkenError: it is no length, or nothing.
    """
    size = parse_length(text, system)
    if size <= 0:
        raise BalkenError("A part of no size is not there; type more than zero.")
    return size


def two_sizes(text: str, system: System) -> tuple[float, float]:
    """Read a width and a thickness with an x between.

    Raises:
        BalkenError: they are not two sizes.
    """
    first, _, second = text.lower().replace("×", "x").partition("x")
    if not second.strip():
        example = '20" x 10"' if system == "us" else "500 x 250"
        raise BalkenError(f"Write both sizes, such as {example}.")
    return positive(first, system), positive(second, system)


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
    slip.field(
        "width",
        format_run(size[0], system),
        lambda t: _set(w, size=(parse_length(t, system), size[1])),
    )
    slip.field(
        "depth",
        format_run(size[1], system),
        lambda t: _set(w, size=(size[0], parse_length(t, system))),
    )
    if not kit.taking:
        shapes = [("rectangle", False), ("round", True)]
        slip.options("section", shapes, kit.round, lambda v: _set(w, round=v))
        values = [("usual", ""), *((x.name, x.id) for x in reversed(column(w.building.project)))]
        slip.options("from", values, kit.levels[0], lambda v: _set(w, levels=(v, kit.levels[1])))
        slip.options("to", values, kit.levels[1], lambda v: _set(w, levels=(kit.levels[0], v)))
        if kit.support != "pad":
            pads = [("no pad", False), ("a pad under each", True)]
            slip.options("with", pads, kit.pad_too, lambda v: _set(w, pad_too=v))
    if kit.where in ("every crossing", "chosen lines"):
        words = "Take them away" if kit.taking else "Put them"
        slip.button(words, partial(w.tools.go_on))
