"""Rafters: how they are set out, tied and propped, and what each kind of piece is cut from."""

from functools import partial
from typing import Any, get_args

from msgspec.structs import replace

from balken.drawing.words import pretty
from balken.framing.roofs.parts import part_of
from balken.model.catalogue import sections_of
from balken.model.edits.roofs import set_part, set_roof
from balken.model.names import HostName
from balken.model.roofs import RafterPart, RoofArea
from balken.session.desk import Desk
from balken.session.rows import Field, Heading, Options, Rows
from balken.units import format_run, parse_length

PAIRS = [
    ("none", "none"),
    ("each pair", "each"),
    ("every second", "every second"),
    ("by distance", "by distance"),
]


USUAL, OUT = "usual", "out"


def fields(desk: Desk, roof: RoofArea) -> Rows:
    """Add how the rafters of a roof are framed."""
    system, rule = desk.system, roof.rafters

    def put(words: str, **what: Any) -> object:
        return desk.edit(words, partial(set_roof, key=roof.id, rafters=replace(rule, **what)))

    def length(name: str, field: str, words: str, *, none: bool = False) -> Rows:
        yield Field(
            name,
            format_run(getattr(rule, field), system),
            lambda t: put(words, **{field: parse_length(t, system)}),
        )

    yield Options(
        "ridge",
        [("board, pairs lean together", "board"), ("beam that carries", "beam")],
        rule.ridge,
        lambda v: put("ridge", ridge=v),
    )
    yield Options(
        "hips",
        [("backed to both planes", "backed"), ("dropped", "dropped")],
        rule.hips,
        lambda v: put("hips", hips=v),
    )
    yield Options(
        "where they meet",
        [("mitred", "mitred"), ("butt", "butt"), ("one through", "one through")],
        rule.joints,
        lambda v: put("joints of the roof", joints=v),
    )
    yield Heading("Setting out")
    yield Options(
        "rafters",
        [("from the first edge", "edge"), ("from the middle", "middle")],
        rule.layout,
        lambda v: put("layout", layout=v),
    )
    yield Options(
        "stand over", _under(desk, roof), rule.line_up, lambda v: put("layout", line_up=v)
    )
    yield Options(
        "pairs",
        [("head to head", False), ("side by side", True)],
        rule.stagger,
        lambda v: put("pairs of rafters", stagger=v),
    )
    yield from length("begin after", "begin", "layout")
    yield from length("extra in gaps over", "end_gap", "layout", none=True)
    yield from length("least clear", "least_clear", "layout")
    yield Heading("Ties and props")
    yield Options("collar ties", PAIRS, rule.collar, lambda v: put("collar ties", collar=v))
    yield Options("ties", PAIRS, rule.ties, lambda v: put("ties", ties=v))
    if rule.ties != "none":
        yield from length("ties over plate", "tie_up", "ties")
    if "by distance" in (rule.collar, rule.ties):
        yield from length("between ties", "tie_gap", "ties")
    yield from length("purlin over plate", "purlin_up", "purlins", none=True)
    if rule.purlin_up:
        yield from length("between struts", "strut_gap", "struts")
    yield from _pieces(desk, roof)


def _under(desk: Desk, roof: RoofArea) -> list[tuple[str, Any]]:
    """What rafters can stand over."""
    project = desk.project
    found: list[tuple[str, Any]] = [("nothing", None)]
    found += [(f"joists of {f.name}", HostName("floor", f.id)) for f in project.floors]
    return found + [
        (f"{r.framing} of {r.name}", HostName("roof", r.id))
        for r in project.roofs
        if r.id != roof.id
    ]


def _pieces(desk: Desk, roof: RoofArea) -> Rows:
    """Add for each kind of piece what it is cut from, or that it is left out."""
    project, rule = desk.project, roof.rafters
    host = HostName("roof", roof.id)
    there = {part_of(m.id, m.kind) for m in desk.checked.structure.members if m.host == host}
    typed = dict(rule.sections)
    names = [
        n
        for n, s in sections_of(project.system, ()).items()
        if s.family == "sawn" or s.family in ("lvl", "glulam")
    ]
    sizes: list[tuple[str, Any]] = [(pretty(n), n) for n in names]
    yield Heading("Pieces")
    for part in get_args(RafterPart):
        if part == "fascia":
            yield Options(part, [("none", None), *sizes], rule.fascia, partial(_fascia, desk, roof))
        elif part in there or part in rule.left_out or part in typed:
            now = OUT if part in rule.left_out else typed.get(part, USUAL)
            first = "by calculation" if part in CALCULATED else "usual"
            yield Options(
                f"{part} from",
                [(first, USUAL), ("left out", OUT), *sizes],
                now,
                partial(_part, desk, roof.id, part),
            )


CALCULATED: tuple[RafterPart, ...] = ("hips", "valleys", "purlins", "struts", "headers")


def _part(desk: Desk, key: str, part: RafterPart, choice: str) -> object:
    section = None if choice in (USUAL, OUT) else choice
    return desk.edit(
        f"{part} of the roof",
        partial(set_part, key=key, part=part, section=section, there=choice != OUT),
    )


def _fascia(desk: Desk, roof: RoofArea, section: str | None) -> object:
    rule = replace(roof.rafters, fascia=section)
    return desk.edit("fascia", partial(set_roof, key=roof.id, rafters=rule))
