"""The slip of rafters: how they are set out, tied and propped, and what each kind of piece is cut
from."""

from functools import partial
from typing import TYPE_CHECKING, Any, get_args

from msgspec.structs import replace

from balken.drawing.words import pretty
from balken.framing.roofs.parts import part_of
from balken.model.catalogue import sections_of
from balken.model.edits.roofs import set_part, set_roof
from balken.model.names import HostName
from balken.model.roofs import RafterPart, RoofArea
from balken.units import format_run, parse_length

if TYPE_CHECKING:
    from balken.desk.window import Window

PAIRS = [
    ("none", "none"),
    ("each pair", "each"),
    ("every second", "every second"),
    ("by distance", "by distance"),
]
USUAL, OUT = "usual", "out"


def fields(w: "Window", roof: RoofArea) -> None:
    """Add how the rafters of a roof are framed."""
    slip, system, rule = w.slip, w.building.project.system, roof.rafters

    def put(words: str, **what: Any) -> object:
        return w.edit(words, partial(set_roof, key=roof.id, rafters=replace(rule, **what)))

    def length(name: str, field: str, words: str, *, none: bool = False) -> None:
        slip.field(
            name,
            format_run(getattr(rule, field), system),
            lambda t: put(words, **{field: parse_length(t, system)}),
        )

    slip.options(
        "ridge",
        [("board, pairs lean together", "board"), ("beam that carries", "beam")],
        rule.ridge,
        lambda v: put("ridge", ridge=v),
    )
    slip.options(
        "hips",
        [("backed to both planes", "backed"), ("dropped", "dropped")],
        rule.hips,
        lambda v: put("hips", hips=v),
    )
    slip.options(
        "where they meet",
        [("mitred", "mitred"), ("butt", "butt"), ("one through", "one through")],
        rule.joints,
        lambda v: put("joints of the roof", joints=v),
    )
    slip.heading("Setting out")
    slip.options(
        "rafters",
        [("from the first edge", "edge"), ("from the middle", "middle")],
        rule.layout,
        lambda v: put("layout", layout=v),
    )
    slip.options("stand over", _under(w, roof), rule.line_up, lambda v: put("layout", line_up=v))
    slip.options(
        "pairs",
        [("head to head", False), ("side by side", True)],
        rule.stagger,
        lambda v: put("pairs of rafters", stagger=v),
    )
    length("begin after", "begin", "layout")
    length("extra in gaps over", "end_gap", "layout", none=True)
    length("least clear", "least_clear", "layout")
    slip.heading("Ties and props")
    slip.options("collar ties", PAIRS, rule.collar, lambda v: put("collar ties", collar=v))
    slip.options("ties", PAIRS, rule.ties, lambda v: put("ties", ties=v))
    if rule.ties != "none":
        length("ties over plate", "tie_up", "ties")
    if "by distance" in (rule.collar, rule.ties):
        length("between ties", "tie_gap", "ties")
    length("purlin over plate", "purlin_up", "purlins", none=True)
    if rule.purlin_up:
        length("between struts", "strut_gap", "struts")
    _pieces(w, roof)


def _under(w: "Window", roof: RoofArea) -> list[tuple[str, Any]]:
    """What rafters can stand over."""
    project = w.building.project
    found: list[tuple[str, Any]] = [("nothing", None)]
    found += [(f"joists of {f.name}", HostName("floor", f.id)) for f in project.floors]
    return found + [
        (f"{r.framing} of {r.name}", HostName("roof", r.id))
        for r in project.roofs
        if r.id != roof.id
    ]


def _pieces(w: "Window", roof: RoofArea) -> None:
    """Add for each kind of piece what it is cut from, or that it is left out."""
    slip, project, rule = w.slip, w.building.project, roof.rafters
    host = HostName("roof", roof.id)
    there = {part_of(m.id, m.kind) for m in w.building.checked.structure.members if m.host == host}
    typed = dict(rule.sections)
    names = [
        n
        for n, s in sections_of(project.system, ()).items()
        if s.family == "sawn" or s.family in ("lvl", "glulam")
    ]
    sizes: list[tuple[str, Any]] = [(pretty(n), n) for n in names]
    slip.heading("Pieces")
    for part in get_args(RafterPart):
        if part == "fascia":
            slip.options(part, [("none", None), *sizes], rule.fascia, partial(_fascia, w, roof))
        elif part in there or part in rule.left_out or part in typed:
            now = OUT if part in rule.left_out else typed.get(part, USUAL)
            first = "by calculation" if part in CALCULATED else "usual"
            slip.options(
                f"{part} from",
                [(first, USUAL), ("left out", OUT), *sizes],
                now,
                partial(_part, w, roof.id, part),
            )


CALCULATED: tuple[RafterPart, ...] = ("hips", "valleys", "purlins", "struts", "headers")


def _part(w: "Window", key: str, part: RafterPart, choice: str) -> object:
    section = None if choice in (USUAL, OUT) else choice
    return w.edit(
        f"{part} of the roof",
        partial(set_part, key=key, part=part, section=section, there=choice != OUT),
    )


def _fascia(w: "Window", roof: RoofArea, section: str | None) -> object:
    rule = replace(roof.rafters, fascia=section)
    return w.edit("fascia", partial(set_roof, key=roof.id, rafters=rule))
