"""The slips of the tools for floors, beams and roofs."""

from typing import Any

from balken.drawing.load_marks import SHOW
from balken.drawing.words import pretty
from balken.model.beams import SET_WORDS
from balken.model.catalogue import sections_of
from balken.model.edits.common import EditError
from balken.model.floors import RULE_WORDS
from balken.session.desk import Desk
from balken.session.rows import Field, Line, Options, Rows
from balken.session.things.beam_fields import count_of
from balken.session.things.drawn_loads import READ, case_options
from balken.session.things.floor_build_ups import short_build_up
from balken.session.tools import beams, floors, loads, roofs
from balken.units import format_run, parse_length


def floor_fields(desk: Desk) -> Rows:
    """What a new floor covers, and what it is built up of."""
    system, kit = desk.system, desk.kit
    over = [(x, x) for x in floors.FROM]
    yield Options("over", over, kit.floor_from, lambda v: desk.set_kit(again=True, floor_from=v))
    ups: list[tuple[str, Any]] = [("the first there is", "")]
    ups += [(short_build_up(desk, b), b.id) for b in desk.project.build_ups if b.use == "floor"]
    yield Options("built up as", ups, kit.floor_build_up, lambda v: desk.set_kit(floor_build_up=v))
    yield Field(
        "out past walls",
        format_run(kit.edge, system),
        lambda t: desk.set_kit(edge=parse_length(t, system, negative=True)),
    )


def hole_fields(desk: Desk) -> Rows:
    """What an opening in a floor is for, and its size."""
    system, kit = desk.system, desk.kit
    yield Options(
        "is for",
        [(text.removeprefix("a ").removeprefix("an "), k) for k, text in floors.HOLES.items()],
        kit.hole,
        lambda v: desk.set_kit(again=True, hole=v),
    )
    for i, word in enumerate(("length", "width")):

        def sized(t: str, i: int = i) -> None:
            value = parse_length(t, system) if t.strip() else 0.0
            size = (value, kit.hole_size[1]) if i == 0 else (kit.hole_size[0], value)
            desk.set_kit(again=True, hole_size=size)

        yield Field(word, format_run(kit.hole_size[i], system), sized)
    yield Line(
        "With a length and a width one click places it; without, click two corners.",
        quiet=True,
        small=True,
    )


def beam_fields(desk: Desk) -> Rows:
    """Where a new beam comes from, its section and how it is set."""
    ways = [(x, x) for x in beams.FROM]
    yield Options("from", ways, desk.kit.beam_from, lambda v: desk.set_kit(again=True, beam_from=v))
    yield from _made_of(desk)


def bay_fields(desk: Desk) -> Rows:
    """What is filled with beams, their section, and how they are spaced."""
    system, kit = desk.system, desk.kit
    where = kit.where if kit.where in beams.BAYS_FROM else beams.BAYS_FROM[0]
    fills = [(x, x) for x in beams.BAYS_FROM]
    yield Options("fill", fills, where, lambda v: desk.set_kit(again=True, where=v))
    yield from _made_of(desk)
    rules = [(words, key) for key, words in RULE_WORDS.items()]
    yield Options("spacing", rules, kit.bay_rule, lambda v: desk.set_kit(bay_rule=v))
    if kit.bay_rule == "count":
        yield Field("how many", str(kit.bay_count), lambda t: desk.set_kit(bay_count=count_of(t)))
    else:
        now = kit.bay_spacing or beams.SPACING[system]
        yield Field(
            "distance",
            format_run(now, system),
            lambda t: desk.set_kit(bay_spacing=_some(parse_length(t, system))),
        )
    yield Field(
        "first from side",
        format_run(kit.bay_begin, system),
        lambda t: desk.set_kit(bay_begin=parse_length(t, system)),
    )
    ways = [("along the first pair of lines", 0), ("along the second pair", 1)]
    yield Options("beams run", ways, kit.bay_along, lambda v: desk.set_kit(bay_along=v))
    turns = [("all alike", False), ("every second one turned", True)]
    yield Options("bays", turns, kit.bay_alternate, lambda v: desk.set_kit(bay_alternate=v))


def _made_of(desk: Desk) -> Rows:
    """The section of new beams, and how they are set."""
    kit, sections = desk.kit, sections_of(desk.system, desk.project.products)
    names = [n for n, s in sections.items() if s.plies > 1 or s.product or min(s.nominal) >= 4]
    yield Options(
        "section",
        [("by calculation", ""), *((pretty(n), n) for n in names)],
        kit.beam_section,
        lambda v: desk.set_kit(beam_section=v),
    )
    sets = [(words, key) for key, words in SET_WORDS.items()]
    yield Options("set", sets, kit.beam_set, lambda v: desk.set_kit(beam_set=v))


def _some(length: float) -> float:
    if length < 1.0:
        raise EditError("A spacing of nothing sets nothing out; type the distance between beams.")
    return length


def roof_fields(desk: Desk) -> Rows:
    """What a new roof covers."""
    over = [(x, x) for x in roofs.FROM]
    yield Options("over", over, desk.kit.roof_from, lambda v: desk.set_kit(again=True, roof_from=v))
    yield Line(
        "It slopes up from every side. Click an eave afterwards to give that side a gable.",
        quiet=True,
    )


def skylight_fields(desk: Desk) -> Rows:
    """The size of a new skylight."""
    system, (across, up) = desk.system, desk.kit.skylight
    yield Field(
        "across the slope",
        format_run(across, system),
        lambda t: desk.set_kit(skylight=(parse_length(t, system), up)),
    )
    yield Field(
        "up the slope",
        format_run(up, system),
        lambda t: desk.set_kit(skylight=(across, parse_length(t, system))),
    )
    yield Line("Rafters beside it are doubled; headers carry those it cuts.", quiet=True)


def load_fields(desk: Desk) -> Rows:
    """What shape a new load has, what causes it, and how much it is."""
    kit, system = desk.kit, desk.system
    yield Options(
        "shape",
        [(x, x) for x in loads.SHAPES],
        kit.load_shape,
        lambda v: desk.set_kit(again=True, load_shape=v, load_amount=0.0),
    )
    yield case_options(kit.load_case, lambda v: desk.set_kit(load_case=v))
    yield Field(
        "amount",
        SHOW[kit.load_shape](loads.amount_of(desk), system),
        lambda t: desk.set_kit(load_amount=READ[kit.load_shape](t, system)),
    )
