"""The slip of beams and bays: how they are made and set, how a bay is filled, what they are chosen
from."""

from functools import partial
from typing import TYPE_CHECKING, Any

from msgspec.structs import replace

from balken.design.sizing import Choice
from balken.desk.diagram import BeamFigure
from balken.drawing.beam_figure import beam_figure
from balken.drawing.words import pretty
from balken.framing.member import Member
from balken.model.beams import SET_WORDS, Beam, BeamBay
from balken.model.catalogue import sections_of
from balken.model.edits.beams import set_beams
from balken.model.edits.common import EditError
from balken.model.floors import RULE_WORDS
from balken.model.names import HostName
from balken.model.project import host_record, level
from balken.model.sections import FAMILY_WORDS
from balken.units import (
    format_area_load,
    format_line_load,
    format_run,
    parse_area_load,
    parse_length,
    parse_line_load,
)

if TYPE_CHECKING:
    from balken.desk.window import Window


def add_figure(w: "Window", m: Member) -> bool:
    """Add the figure of a member that carries others; tell whether it is one."""
    checked = w.building.checked
    if m.id not in checked.carrying:
        return False
    drawing, diagram = beam_figure(checked, m)
    if diagram is None:
        w.slip.figure(drawing)
        return True
    w.slip.column.addSpacing(6)
    w.slip.column.addWidget(
        BeamFigure(w.slip.theme, drawing, m, diagram, w.building.project.system)
    )
    return True


def hold(w: "Window", host: HostName, choice: Choice) -> None:
    """Hold a section for a beam or a bay."""
    w.edit(
        f"hold {pretty(choice.section)}", partial(set_beams, hosts=(host,), section=choice.section)
    )


def fields(w: "Window", host: HostName) -> None:
    """Add the fields of a beam or a bay."""
    slip, project = w.slip, w.building.project
    record = host_record(project, host)
    if not isinstance(record, Beam | BeamBay):
        return
    system = project.system

    def edit(words: str, **values: Any) -> object:
        return w.edit(words, partial(set_beams, hosts=(host,), **values))

    slip.heading(
        "All of this bay" if isinstance(record, BeamBay) else "This beam",
        level(project, record.level).name,
    )
    sections = sections_of(system, project.products)
    names = [n for n, s in sections.items() if s.plies > 1 or s.product or min(s.nominal) >= 4]
    options: list[tuple[str, Any]] = [("by calculation", None)]
    options += [
        (
            f"{pretty(n)} "
            f" {'' if sections[n].family == 'sawn' else FAMILY_WORDS[sections[n].family]}".rstrip(),
            n,
        )
        for n in names
    ]
    slip.options(
        "section", options, record.kind.section, lambda v: edit("section of beam", section=v)
    )
    slip.options(
        "set",
        [(words, key) for key, words in SET_WORDS.items()],
        record.kind.set,
        lambda v: edit("set of beam", set=v),
    )
    slip.field(
        "top raised by",
        format_run(record.kind.offset, system),
        lambda t: edit("height of beam", offset=parse_length(t, system, negative=True)),
    )
    slip.field(
        "camber",
        format_run(record.kind.camber, system),
        lambda t: edit("camber", camber=parse_length(t, system, negative=True)),
    )
    if isinstance(record, Beam):
        _beam(w, record, edit)
    else:
        _bay(w, record, edit)


def _beam(w: "Window", record: Beam, edit: Any) -> None:
    slip, system = w.slip, w.building.project.system
    through: list[tuple[str, Any]] = [("in one piece over them", True), ("cut over each", False)]
    slip.options(
        "inner supports", through, record.through, lambda v: edit("pieces of beam", through=v)
    )
    for i, name in enumerate(("out at start", "out at end")):

        def out(t: str, i: int = i) -> object:
            value = parse_length(t, system, negative=True)
            return edit(
                "reach of beam", out=(value, record.out[1]) if i == 0 else (record.out[0], value)
            )

        slip.field(name, format_run(record.out[i], system), out)
    slip.field(
        "hinges at",
        ", ".join(format_run(h, system) for h in record.hinges) or "none",
        lambda t: edit("hinges of beam", hinges=_hinges(t, system)),
    )
    for case in ("dead", "live", "snow"):

        def load(t: str, case: str = case) -> object:
            loads = replace(record.loads, **{case: parse_line_load(t, system)})
            return edit("load on beam", loads=loads)

        amount = getattr(record.loads, case)
        slip.field(f"typed {case}", format_line_load(amount, system), load)


def _hinges(text: str, system: Any) -> tuple[float, ...]:
    if text.strip().lower() in ("", "none"):
        return ()
    return tuple(parse_length(part, system) for part in text.split(","))


def _bay(w: "Window", record: BeamBay, edit: Any) -> None:
    slip, system = w.slip, w.building.project.system
    slip.options(
        "spacing",
        [(words, key) for key, words in RULE_WORDS.items()],
        record.rule,
        lambda v: edit(
            "rule of bay", rule=v, **({"count": record.count or 3} if v == "count" else {})
        ),
    )
    if record.rule == "count":
        slip.field("how many", str(record.count), lambda t: edit("beams in bay", count=_count(t)))
    else:
        slip.field(
            "distance",
            format_run(record.spacing, system),
            lambda t: edit("spacing of bay", spacing=parse_length(t, system)),
        )
    slip.field(
        "first from side",
        format_run(record.begin, system),
        lambda t: edit("start of bay", begin=parse_length(t, system)),
    )
    sides = [("along the first pair of lines", 0), ("along the second pair", 1)]
    if not record.grid:
        sides = [(f"along side {i + 1}", i) for i in range(len(record.corners))]
    slip.options(
        "beams run", sides, record.along, lambda v: edit("turn the beams of a bay", along=v)
    )
    slip.field(
        "dead load",
        format_area_load(record.dead, system),
        lambda t: edit("load on bay", dead=parse_area_load(t, system)),
    )
    slip.field(
        "live load",
        format_area_load(record.live, system),
        lambda t: edit("load on bay", live=parse_area_load(t, system)),
    )


def _count(text: str) -> int:
    if not text.strip().isdigit() or not 1 <= int(text) <= 400:
        raise EditError(f"“{text}” is no count; a bay holds 1 to 400 beams.")
    return int(text)


def tool_fields(w: "Window", put: Any) -> None:
    """Add what the beam tools remember."""
    from balken.session.tools.beams import BAYS_FROM, FROM, SPACING

    slip, system, kit = w.slip, w.building.project.system, w.tools.kit
    sections = sections_of(system, w.building.project.products)
    if w.tools.name == "Beam":
        slip.options(
            "from", [(x, x) for x in FROM], kit.beam_from, lambda v: put(again=True, beam_from=v)
        )
    else:
        where = kit.where if kit.where in BAYS_FROM else BAYS_FROM[0]
        slip.options("fill", [(x, x) for x in BAYS_FROM], where, lambda v: put(again=True, where=v))
    names = [n for n, s in sections.items() if s.plies > 1 or s.product or min(s.nominal) >= 4]
    slip.options(
        "section",
        [("by calculation", ""), *((pretty(n), n) for n in names)],
        kit.beam_section,
        lambda v: put(beam_section=v),
    )
    slip.options(
        "set",
        [(words, key) for key, words in SET_WORDS.items()],
        kit.beam_set,
        lambda v: put(beam_set=v),
    )
    if w.tools.name == "Beam":
        return
    slip.options(
        "spacing",
        [(words, key) for key, words in RULE_WORDS.items()],
        kit.bay_rule,
        lambda v: put(bay_rule=v),
    )
    if kit.bay_rule == "count":
        slip.field("how many", str(kit.bay_count), lambda t: put(bay_count=_count(t)))
    else:
        now = kit.bay_spacing or SPACING[system]
        slip.field(
            "distance",
            format_run(now, system),
            lambda t: put(bay_spacing=_some(parse_length(t, system))),
        )
    slip.field(
        "first from side",
        format_run(kit.bay_begin, system),
        lambda t: put(bay_begin=parse_length(t, system)),
    )
    ways = [("along the first pair of lines", 0), ("along the second pair", 1)]
    slip.options("beams run", ways, kit.bay_along, lambda v: put(bay_along=v))
    turns: list[tuple[str, Any]] = [("all alike", False), ("every second one turned", True)]
    slip.options("bays", turns, kit.bay_alternate, lambda v: put(bay_alternate=v))


def _some(length: float) -> float:
    if length < 1.0:
        raise EditError("A spacing of nothing sets nothing out; type the distance between beams.")
    return length
