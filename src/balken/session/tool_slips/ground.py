"""The slips of the tools for foundations, and for posts, pads and piers."""

from collections.abc import Callable
from functools import partial

from msgspec.structs import replace

from balken.drawing.foundation_figure import chosen_figure
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
from balken.model.project import column
from balken.session.desk import Desk
from balken.session.rows import Button, Field, Figure, Heading, Line, Options, Rows
from balken.session.things.fields import positive, two_sizes
from balken.session.things.runs import sill_sections
from balken.session.tools import foundations
from balken.session.tools.supports import WHERE
from balken.units import format_run, parse_length


def foundation_fields(desk: Desk) -> Rows:
    """Ask for the parts of the kind, and only those, and draw what is chosen so far."""
    project, kit = desk.project, desk.kit
    system, kind = project.system, desk.kit.foundation
    chosen = foundations.chosen_parts(desk, kind)

    again = partial(desk.set_kit, again=True)

    yield Options(
        "kind", [(words, k) for k, words in KIND_WORDS.items()], kind, lambda v: again(foundation=v)
    )
    yield Options("runs", [(x, x) for x in foundations.WHERE], kit.along, lambda v: again(along=v))
    yield Figure(chosen_figure(kind, chosen, system))

    def take(**parts: object) -> None:
        again(chosen=foundations.with_parts(desk, kind, replace(chosen, **parts)))

    for part in PARTS[kind]:
        yield from _part(desk, part, chosen, take)
    missing = parts_missing(kind, chosen)
    if missing:
        yield Line(
            "Still to be chosen: " + ", ".join(PART_WORDS[p] for p in missing) + ".", bold=True
        )
        yield Button(
            "Usual sizes for the rest",
            lambda: take(**_only(foundations.usual(desk, kind, chosen), missing)),
        )
    elif kit.along != "drawn freely":
        yield Button("Place it", desk.go_on)
    yield Heading("Levels")
    levels = [("usual", ""), *((x.name, x.id) for x in reversed(column(project)))]
    if kind in WITH_STEM:
        yield Options("wall begins at", levels, kit.found_base, lambda v: again(found_base=v))
    yield Options("top at", levels, kit.found_top, lambda v: again(found_top=v))
    if kind == "basement":
        yield Options("slab at", levels, kit.found_slab, lambda v: again(found_slab=v))
    yield Field(
        "face moved out",
        format_run(kit.face, system),
        lambda t: again(face=parse_length(t, system, negative=True)),
    )


def _only(chosen: Chosen, parts: tuple[Part, ...]) -> dict[str, object]:
    return {part: getattr(chosen, part) for part in parts}


def _part(desk: Desk, part: Part, chosen: Chosen, take: Callable[..., None]) -> Rows:
    """Add the field of one part; what is not chosen yet stands empty."""
    system = desk.system
    now = getattr(chosen, part)
    if part == "sill":
        values: list[tuple[str, str | None]] = [] if now is not None else [("choose", None)]
        values += [("none", ""), *((s.replace("x", "×"), s) for s in sill_sections(system))]
        yield Options("sill plate", values, now, lambda v: take(sill=v))
        return
    if part in ("wall", "slab"):
        shown = "" if now is None else format_run(now, system)
        yield Field(f"{part} thickness", shown, lambda t: take(**{part: positive(t, system)}))
        return
    words = {
        "footing": "footing width x thickness",
        "edge": "edge width x depth",
        "beam": "beam width x depth",
    }[part]
    shown = "" if now is None else f"{format_run(now[0], system)} x {format_run(now[1], system)}"
    yield Field(words, shown, lambda t: take(**{part: two_sizes(t, system)}))


def support_fields(desk: Desk) -> Rows:
    """Which of posts, pads and piers are put or taken away, where, and their sizes."""
    system, kit = desk.system, desk.kit

    again = partial(desk.set_kit, again=True)

    kinds = [("posts", "post"), ("pads", "pad"), ("piers", "pier")]
    yield Options("which", kinds, kit.support, lambda v: again(support=v, size=None))
    yield Options(
        "do", [("put", False), ("take away", True)], kit.taking, lambda v: again(taking=v)
    )
    yield Options("where", [(x, x) for x in WHERE], kit.where, lambda v: again(where=v))
    size = kit.size or SIZES[system][kit.support]
    yield Field(
        "width",
        format_run(size[0], system),
        lambda t: desk.set_kit(size=(parse_length(t, system), size[1])),
    )
    yield Field(
        "depth",
        format_run(size[1], system),
        lambda t: desk.set_kit(size=(size[0], parse_length(t, system))),
    )
    if not kit.taking:
        shapes = [("rectangle", False), ("round", True)]
        yield Options("section", shapes, kit.round, lambda v: desk.set_kit(round=v))
        values = [("usual", ""), *((x.name, x.id) for x in reversed(column(desk.project)))]
        yield Options(
            "from", values, kit.levels[0], lambda v: desk.set_kit(levels=(v, kit.levels[1]))
        )
        yield Options(
            "to", values, kit.levels[1], lambda v: desk.set_kit(levels=(kit.levels[0], v))
        )
        if kit.support != "pad":
            pads = [("no pad", False), ("a pad under each", True)]
            yield Options("with", pads, kit.pad_too, lambda v: desk.set_kit(pad_too=v))
    if kit.where in ("every crossing", "chosen lines"):
        words = "Take them away" if kit.taking else "Put them"
        yield Button(words, partial(desk.go_on))
