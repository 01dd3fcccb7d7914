"""What a floor is built up of; changing it asks how far the change goes."""

from functools import partial
from typing import Any

from balken.drawing.floor_words import build_up_name, floor_depth
from balken.drawing.words import pretty
from balken.errors import BalkenError
from balken.model.catalogue import catalogue_of, sections_of
from balken.model.edits import set_floor
from balken.model.edits.build_ups import Scope
from balken.model.edits.common import checked
from balken.model.edits.floors import change_floor_build_up, first_build_up, floors_with
from balken.model.floors import RULE_WORDS, BuildUp, FloorArea
from balken.model.project import Project
from balken.model.sections import BY_CAPACITY
from balken.session.desk import Desk
from balken.session.rows import Field, Heading, Line, Options, Rows
from balken.session.things.wood import wood_row
from balken.units import format_run, parse_length


def build_up(desk: Desk, floor: FloorArea) -> Rows:
    """Add the build-up of a floor; changing it asks how far the change goes."""
    project = desk.project
    system = project.system
    body = next(b for b in project.build_ups if b.id == floor.build_up)
    count = len(floors_with(project, body.id))
    yield Heading("Build-up", f"{floor_depth(desk.checked, floor)} deep")
    yield Line(build_up_name(desk.checked, floor), bold=True)
    others: list[tuple[str, Any]] = [
        (short_build_up(desk, b), b.id) for b in project.build_ups if b.use == body.use
    ]
    if body.use == "floor":
        others += [("joists (new)", "joists"), ("solid slab (new)", "slab")]
    yield Options(
        "built up as",
        others,
        body.id,
        lambda v: desk.edit("build-up of floor", partial(_give, key=floor.id, chosen=v)),
    )
    scope: Scope = desk.floor_scope
    words = "all floors with it" if count == 1 else f"all {count} floors with it"
    scopes = [(words, "all"), ("only this one", "these"), ("a copy, for none yet", "copy")]
    yield Options("a change touches", scopes, scope, lambda v: setattr(desk, "floor_scope", v))
    if count > 1:
        names = ", ".join(f.name for f in project.floors if f.build_up == body.id)
        yield Line(f"{count} floors are built up so: {names}.", quiet=True, small=True)

    def change(words_: str, **values: Any) -> object:
        scope_: Scope = desk.floor_scope
        return desk.edit(
            words_, lambda p: change_floor_build_up(p, body.id, scope_, (floor.id,), **values)[0]
        )

    def length(name: str, field: str) -> Rows:
        yield Field(
            name,
            format_run(getattr(body, field), system),
            lambda t: change(f"{name} of build-up", **{field: parse_length(t, system)}),
        )

    if body.kind == "slab":
        yield from length("slab", "slab")
        return
    yield from wood_row(desk, body, change)
    for name, field in (
        ("subfloor", "subfloor"),
        ("ceiling", "ceiling"),
        ("insulation", "insulation"),
    ):
        yield from length(name, field)
    rules = [(text, key) for key, text in RULE_WORDS.items() if key not in ("count",)]
    yield Options("spacing kept", rules, body.rule, lambda v: change("rule of spacing", rule=v))
    blocks = [
        ("none", "none"),
        ("over bearings", "bearings"),
        ("and at mid-span", "bearings and middle"),
    ]
    yield Options("blocking", blocks, body.blocking, lambda v: change("blocking", blocking=v))
    (board,) = catalogue_of(system).boards
    rows = [("none", "none"), (f"crossed, {pretty(board)}", "crossed")]
    yield Options("bridging", rows, body.bridging, lambda v: change("bridging", bridging=v))
    for name, field in (
        ("lap over beams", "lap"),
        ("splice if butted", "splice"),
        ("gap for one more", "end_gap"),
        ("least clear", "least_clear"),
    ):
        yield from length(name, field)
    yield Field(
        "offered sizes",
        ", ".join(body.sizes),
        lambda t: change("sizes offered", sizes=_sizes(desk, t)),
    )


def _sizes(desk: Desk, text: str) -> tuple[str, ...]:
    known = set(joist_sections(desk))
    names = tuple(x.strip() for x in text.replace(";", ",").split(",") if x.strip())
    wrong = [n for n in names if n not in known]
    if wrong or not names:
        raise BalkenError(
            f"“{wrong[0] if wrong else text}” is no section joists are cut from here; such as"
            f" {', '.join(sorted(known)[:4])}."
        )
    return names


def short_build_up(desk: Desk, body: BuildUp) -> str:
    system = desk.system
    if body.kind == "slab":
        return f"{body.id}: slab {format_run(body.slab, system)}"
    return f"{body.id}: {' or '.join(body.sizes[:3])}" + (" …" if len(body.sizes) > 3 else "")


def _give(project: Project, key: str, chosen: str) -> Project:
    if chosen in ("joists", "slab"):
        made = first_build_up(project, chosen)  # type: ignore[arg-type]
        project = checked(project, build_ups=(*project.build_ups, made))
        chosen = made.id
    return set_floor(project, key, build_up=chosen, section=None)


def joist_sections(desk: Desk) -> list[str]:
    """The sections joists can be cut from."""
    sections = sections_of(desk.system, desk.project.products)
    return [
        n
        for n, s in sections.items()
        if s.plies == 1
        and (
            (s.family == "sawn" and s.nominal[0] <= 4)
            or s.family == "lvl"
            or s.family in BY_CAPACITY
        )
    ]
