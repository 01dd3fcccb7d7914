"""How walls are framed, as rows: of a build-up, and of single walls."""

from collections.abc import Callable
from functools import partial
from typing import Any

from msgspec.structs import replace

from balken.drawing.words import pretty
from balken.model.catalogue import sections_of
from balken.model.edits.wall_frames import (
    EDGES,
    USUAL,
    as_build_up,
    frame_walls,
    leave_unframed,
    rule_studs,
    rule_studs_of,
)
from balken.model.edits.wall_frames import OFFERED as PANELS
from balken.model.wall_frames import Panels, StudRule
from balken.model.walls import Wall, WallBuildUp
from balken.session.desk import Desk
from balken.session.rows import Button, Field, Heading, Line, Options, Rows
from balken.site.wall_weights import is_masonry
from balken.units import (
    System,
    format_force,
    format_length,
    format_run,
    format_spacing,
    parse_length,
)
from balken.units.quantity import parse_force
from balken.works.headers import OF_KIND

Put = Callable[..., object]


def of_build_up(desk: Desk, body: WallBuildUp) -> Rows:
    """The rows of a build-up; nothing of masonry."""
    if is_masonry(body):
        return

    def put(**fields: Any) -> object:
        return desk.edit("studs of build-up", partial(rule_studs, body=body.id, **fields))

    yield from _rows(desk, body.studs, put)


def of_wall(desk: Desk, item: Wall) -> Rows:
    """The rows of one wall, which may have a rule of its own."""
    body = next((b for b in desk.project.wall_build_ups if b.id == item.build_up), None)
    if (body is not None and is_masonry(body)) or item.bulge:
        return

    def put(**fields: Any) -> object:
        return desk.edit("studs of wall", partial(rule_studs_of, keys=(item.id,), **fields))

    own = item.studs is not None
    yield from _rows(desk, item.studs or (body.studs if body else None), put)
    if own and body is not None:
        yield Line("This wall has a rule of its own.", quiet=True, small=True)
        yield Button(
            "Frame it as its build-up says",
            lambda: desk.edit("studs as build-up", partial(as_build_up, keys=(item.id,))),
        )


def _rows(desk: Desk, rule: StudRule | None, put: Put) -> Rows:
    system = desk.system
    framed = rule is not None and rule.framed
    yield Heading("Studs")
    yield Options("framed", [("yes", True), ("no", False)], framed, lambda v: put(framed=v))
    if rule is None or not framed:
        return
    sections = sections_of(system, desk.project.products)
    single = [
        n for n, s in sections.items() if s.plies == 1 and s.nominal[0] == 2 and not s.product
    ]
    yield Options(
        "cut from",
        [("what fits the core", ""), *((pretty(n), n) for n in single)],
        rule.section,
        lambda v: put(section=v),
    )
    yield Field(
        "studs apart",
        format_spacing(rule.spacing, system),
        lambda t: put(spacing=parse_length(t, system)),
        example=format_spacing(USUAL[system].spacing, system),
    )
    yield Options(
        "layout from",
        [
            ("the wall’s start", "start"),
            ("its end", "end"),
            ("joists or trusses on it", "under joists"),
        ],
        rule.begins,
        lambda v: put(begins=v),
    )
    yield Options(
        "top plates", [("two", 2), ("one", 1)], rule.top_plates, lambda v: put(top_plates=v)
    )
    yield Options(
        "corners",
        [("three studs", "three studs"), ("two and clips", "two studs")],
        rule.corner,
        lambda v: put(corner=v),
    )
    yield Options(
        "studs at ends",
        [("one", 1), ("two", 2), ("three", 3), ("four", 4)],
        rule.end_studs,
        lambda v: put(end_studs=v),
    )
    yield from _over_openings(desk, rule, put)
    yield from _panels(desk, rule, put)
    yield Field(
        "laid between studs",
        rule.batts or "nothing",
        lambda t: put(batts="" if t.strip().lower() in ("", "nothing") else t.strip()),
        example="mineral wool",
    )
    yield Options(
        "let in, slantwise",
        [("nothing", ""), ("a board", "board"), ("a strap of steel", "strap")],
        rule.let_in,
        lambda v: put(let_in=v),
    )
    yield from _lifted(desk, rule, put)
    yield Field(
        "blocks every",
        format_run(rule.blocking, system) if rule.blocking else "none",
        lambda t: put(
            blocking=0.0 if t.strip().lower() in ("", "none") else parse_length(t, system)
        ),
    )


def _lifted(desk: Desk, rule: StudRule, put: Put) -> Rows:
    """What is lifted in one, and what one may weigh."""
    system = desk.system

    def no_more(field: str, read: Callable[[str, System], float]) -> Callable[[str], object]:
        return lambda t: put(**{field: 0.0 if t.strip().lower() in ("", ANY) else read(t, system)})

    yield Field(
        "lifted, no longer than",
        format_length(rule.lift_length, system) if rule.lift_length else ANY,
        no_more("lift_length", parse_length),
    )
    yield Field(
        "lifted, no heavier than",
        format_force(rule.lift_weight, system) if rule.lift_weight else ANY,
        no_more("lift_weight", parse_force),
    )


ANY = "framed in place"


def _over_openings(desk: Desk, rule: StudRule, put: Put) -> Rows:
    """Headers and sills."""
    sections = sections_of(desk.system, desk.project.products)
    yield Options(
        "headers",
        [
            ("built up", "built up"),
            ("of one piece", "solid"),
            ("box of plates and panels", "box"),
            ("flat, nothing carried", "flat"),
        ],
        rule.header,
        lambda v: put(header=v, header_section=""),
    )
    if rule.header != "flat":
        offered = [n for n in OF_KIND[rule.header][desk.system] if n in sections]
        yield Options(
            "header cut from",
            [("by calculation", ""), *((pretty(n), n) for n in offered)],
            rule.header_section,
            lambda v: put(header_section=v),
        )
    yield Options("sills", [("one", 1), ("two", 2)], rule.sills, lambda v: put(sills=v))


def _panels(desk: Desk, rule: StudRule, put: Put) -> Rows:
    """Panels against wind and earthquake."""
    system, now = desk.system, rule.panels
    offered = [(f"{p.panel}, {p.nail} nails", p) for p in PANELS[system]]
    same = next((p for _, p in offered if now and (p.panel, p.nail) == (now.panel, now.nail)), None)

    def choose(panels: Panels | None) -> object:
        if panels is not None and now is not None:
            panels = replace(panels, edges=now.edges, faces=now.faces)
        return put(panels=panels)

    yield Options("braced by panels", [("none", None), *offered], same, choose)
    if now is None:
        return
    edges = [(format_run(e, system), e) for e in EDGES[system]]
    yield Options("nails at edges", edges, now.edges, lambda v: put(panels=replace(now, edges=v)))
    yield Options(
        "on",
        [("one face", 1), ("both faces", 2)],
        now.faces,
        lambda v: put(panels=replace(now, faces=v)),
    )


def frame_all(desk: Desk) -> object:
    """Frame all stud walls of the building."""
    if desk.edit("frame the stud walls", partial(frame_walls, is_solid=is_masonry)):
        studs = sum(m.role == "wall stud" for m in desk.checked.structure.members)
        desk.say(f"Framed: {studs} studs.")
    return None


def frame_none(desk: Desk) -> object:
    """Take all frames away."""
    return desk.edit("walls unframed", leave_unframed)
