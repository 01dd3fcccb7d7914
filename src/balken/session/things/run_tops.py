"""What is cut into or built out of the top of a foundation wall, and how it differs under one wall."""

from collections.abc import Callable
from functools import partial

from balken.design.footing_loads import wall_over
from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.member import Member
from balken.model.edits.foundations import (
    add_pocket,
    add_shelf,
    remove_pocket,
    remove_shelf,
    set_part,
)
from balken.model.foundations import WITH_STEM, FoundationRun, RunPart, Shelf, TopStep, walls_on
from balken.model.names import HostName
from balken.model.walls import called
from balken.session.desk import Desk
from balken.session.rows import Field, Heading, Line, Link, Rows
from balken.units import format_length, format_run, parse_length

SHELF_WORDS = {"ledge": "ledge for brick", "seat": "seat for a slab", "corbel": "corbel"}


def shelves(desk: Desk, run: FoundationRun) -> Rows:
    project = desk.project
    system = project.system
    yield Heading("Top of the wall")
    names = {x.id: called(x) for x in project.walls}
    for number, s in enumerate(run.shelves):
        words = f"{format_run(s.width, system)} × {format_run(s.depth, system)}"
        on = "all outside walls" if not s.walls else ", ".join(names.get(k, k) for k in s.walls[:2])
        lose = partial(
            desk.edit, "take shelf away", partial(remove_shelf, key=run.id, number=number)
        )
        yield Link(SHELF_WORDS[s.kind], f"{words} · take away", lose)
        yield Line(f"on {on}", quiet=True, small=True)
    for pocket in run.pockets:
        size = " × ".join(
            format_run(x, system) for x in (pocket.width, pocket.height, pocket.depth)
        )
        words = f"{size} · fill"
        fill = partial(
            desk.edit, "fill pocket", partial(remove_pocket, key=run.id, pocket=pocket.id)
        )
        yield Link("pocket", words, fill)
        place = f"{format_length(pocket.at, system)} along {names.get(pocket.wall, pocket.wall)}"
        yield Line(place, quiet=True, small=True)

    def add(kind: str) -> Callable[[str], object]:
        def change(text: str) -> object:
            width, _, depth = text.lower().replace("×", "x").partition("x")
            if not depth:
                raise BalkenError(f"Write width x depth, such as {_example(system)}.")
            sizes = parse_length(width, system), parse_length(depth, system)
            shelf = Shelf(kind, *sizes)  # type: ignore[arg-type]
            return desk.edit(
                f"add {SHELF_WORDS[kind]}", partial(add_shelf, key=run.id, shelf=shelf)
            )

        return change

    for kind, words in SHELF_WORDS.items():
        yield Field(f"add {words}", "", add(kind), example=f"width x depth, {_example(system)}")


def _example(system: str) -> str:
    return '5" x 8"' if system == "us" else "120 x 200"


def under_wall(desk: Desk, m: Member) -> Rows:
    """Add to a member's slip how its foundation differs under its wall, and what can be cut into it
    there."""
    project, system = desk.project, desk.system
    run = next((r for r in project.runs if HostName("run", r.id) == m.host), None)
    key = wall_over(m)
    if run is None:
        return
    yield Link("part of", f"foundation {run.name}", partial(desk.select, HostName("run", run.id)))
    if key not in walls_on(run) or run.kind not in WITH_STEM:
        return
    part = next((p for p in run.parts if p.wall == key), RunPart(key))
    yield Heading("Under this wall only")

    def field(name: str, field_: str, now: float) -> Rows:
        def change(text: str) -> object:
            value = parse_length(text, system)
            return desk.edit(f"{name} here", lambda p: set_part(p, run.id, key, **{field_: value}))

        yield Field(name, format_run(now, system), change)

    yield from field("stem thickness", "stem_thickness", part.stem_thickness or run.stem_thickness)
    yield from field("footing width", "footing_width", part.footing_width or run.footing_width)
    yield from field("top lowered by", "top_drop", part.top_drop)
    yield from _steps(desk, run.id, part)
    if m.kind is kinds.STEM:

        def pocket(text: str) -> object:
            sizes = [parse_length(t, system) for t in text.lower().replace("×", "x").split("x")]
            if len(sizes) != 4:
                raise BalkenError(
                    "Write where from the wall’s start, width, height and depth: " + _pocket(system)
                )
            at, width, height, depth = sizes
            return desk.edit(
                "pocket for a beam",
                partial(add_pocket, key=run.id, wall=key, at=at, size=(width, height, depth)),
            )

        yield Field("add a pocket", "", pocket, example=_pocket(system))


def _steps(desk: Desk, key: str, part: RunPart) -> Rows:
    """Where the top steps down under a wall of studs."""
    system = desk.system

    def put(steps: tuple[TopStep, ...]) -> object:
        kept = tuple(sorted(steps, key=lambda s: s.at))
        return desk.edit(
            "steps of the top", partial(set_part, key=key, wall=part.wall, top_steps=kept)
        )

    for step in part.top_steps:
        rest = tuple(s for s in part.top_steps if s is not step)
        words = f"{format_length(step.at, system)} on, {format_run(step.down, system)} lower · take away"
        yield Link("top from", words, partial(put, rest))

    def add(text: str) -> object:
        at, _, down = text.lower().replace("×", "x").partition("x")
        if not down:
            raise BalkenError(
                f"Write from where x how much lower, such as {_example_step(system)}."
            )
        made = TopStep(parse_length(at, system), parse_length(down, system))
        return put((*part.top_steps, made))

    yield Field("step its top down", "", add, example=f"from x down, {_example_step(system)}")


def _example_step(system: str) -> str:
    return "6' x 2'" if system == "us" else "1800 x 600"


def _pocket(system: str) -> str:
    return '6\' x 6" x 10" x 4"' if system == "us" else "1800 x 150 x 250 x 100"
