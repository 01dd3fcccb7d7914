"""The slip of a roof: its shape, its sides, what frames it, its measures; of one side, and of a
skylight."""

import math
from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, Any

from balken.desk import slip_rafters, slip_trusses
from balken.drawing.tiers import Tier
from balken.framing.hosts.divided_roofs import can_divide, divided
from balken.framing.roofs.shape import Edge, RoofShape, soffit_area
from balken.geometry.roof_lines import measures
from balken.model.edits.roofs import (
    hip_or_gable,
    remove_roof_opening,
    set_roof,
    set_roof_opening,
    set_side,
)
from balken.model.named import named
from balken.model.names import HostName, ThingName
from balken.model.project import level
from balken.model.roofs import SIDE_WORDS, RoofArea
from balken.session.tools.roofs import FROM
from balken.units import format_length, format_run, parse_length
from balken.units.pitch import format_pitch, parse_pitch

if TYPE_CHECKING:
    from balken.desk.window import Window


def parts_of_tier(w: "Window", tier: Tier) -> list[RoofArea]:
    """The roofs that lie in a tier."""
    return [r for r in w.building.project.roofs if tier.holds(HostName("roof", r.id))]


def list_of(w: "Window", roofs: list[RoofArea]) -> None:
    """Add the list of roofs on a plate level, to go to each."""
    w.slip.heading("Roofs here", str(len(roofs)))
    for roof in roofs:
        w.slip.link(
            roof.id, f"{roof.name}, {roof.framing}", partial(w.select, HostName("roof", roof.id))
        )


def fields(w: "Window", roof: RoofArea) -> None:
    """Fill in what can be changed of a roof, its sides and its measures."""
    slip, system = w.slip, w.building.project.system
    shape = w.building.checked.structure.roofs.get(HostName("roof", roof.id))

    def put(words: str, **what: Any) -> object:
        return w.edit(words, partial(set_roof, key=roof.id, **what))

    slip.heading("Shape")
    slip.field(
        "pitch",
        format_pitch(roof.rise, system),
        lambda t: put("pitch", rise=parse_pitch(t, system), ridge=None),
    )
    if shape is not None:
        plate = level(w.building.project, roof.plate).elevation
        over = format_length(shape.roof.top - plate, system)
        slip.field(
            "ridge over plate",
            over if roof.ridge else f"{over}, by the pitch",
            lambda t: put("ridge height", ridge=slip_trusses.length_or_none(t, system)),
        )
        slip.field(
            "heel",
            format_run(shape.heel, system) + ("" if roof.heel else ", by the seat"),
            lambda t: put("heel", heel=slip_trusses.length_or_none(t, system)),
        )
    slip.field(
        "overhang",
        format_run(roof.overhang, system),
        lambda t: put("overhang", overhang=parse_length(t, system)),
    )
    rake = roof.overhang if roof.rake is None else roof.rake
    slip.field(
        "at gables",
        format_run(rake, system),
        lambda t: put("overhang at gables", rake=parse_length(t, system)),
    )
    slip.options(
        "eave cut",
        [("plumb", "plumb"), ("square", "square")],
        roof.eave_cut,
        lambda v: put("eave cut", eave_cut=v),
    )
    slip.options(
        "soffit",
        [("open", "open"), ("level", "level"), ("along the rafters", "sloped")],
        roof.soffit,
        lambda v: put("soffit", soffit=v),
    )
    if shape is not None:
        _sides(w, roof, shape)
        _framing(w, roof)
        _measures(w, roof, shape)


def _sides(w: "Window", roof: RoofArea, shape: RoofShape) -> None:
    slip = w.slip
    slip.heading("Sides", f"{len(shape.edges)}")
    for edge in shape.edges:
        slip.options(
            _called(w, edge),
            [(words, kind) for kind, words in SIDE_WORDS.items()],
            edge.rule.kind,
            partial(_set_kind, w, roof.id, edge.name),
        )
    if any(e.rule != type(e.rule)(e.name, kind=e.rule.kind) for e in shape.edges):
        slip.line(
            "Some sides have a pitch, an overhang or a plate of their own: click an eave to see"
            " it.",
            quiet=True,
        )


def _set_kind(w: "Window", key: str, side: str, kind: str) -> object:
    return w.edit("side of the roof", partial(set_side, key=key, side=side, kind=kind))


def _called(w: "Window", edge: Edge) -> str:
    wall = next((x for x in w.building.project.walls if x.id == edge.name), None)
    return wall.name if wall and wall.name else f"side {edge.name}"


def _framing(w: "Window", roof: RoofArea) -> None:
    slip = w.slip
    slip.heading("Framing")
    slip.options(
        "of",
        [("rafters", "rafters"), ("trusses", "trusses")],
        roof.framing,
        lambda v: w.edit("framing of the roof", partial(set_roof, key=roof.id, framing=v)),
    )
    if roof.framing == "trusses":
        shape = w.building.checked.structure.roofs.get(HostName("roof", roof.id))
        if shape is not None and can_divide(shape):
            slip.button(
                "Divide over rectangles",
                lambda: w.edit("divide the roof", partial(divided, key=roof.id, shape=shape)),
            )
        slip_trusses.fields(w, roof)
        return
    slip_rafters.fields(w, roof)


def _measures(w: "Window", roof: RoofArea, shape: RoofShape) -> None:
    slip, system = w.slip, w.building.project.system
    found = measures(shape.roof)
    slip.heading("Measures")
    slip.fact("on the slope", _area(found.true, system))
    slip.fact("in plan", _area(found.plan, system))
    for kind, words in (
        ("ridge", "ridges"),
        ("hip", "hips"),
        ("valley", "valleys"),
        ("eave", "eaves, fascia and gutter"),
        ("rake", "rakes"),
    ):
        if found.lengths.get(kind):
            slip.fact(words, format_length(found.lengths[kind], system))
    if roof.soffit != "open":
        slip.fact("soffit", _area(soffit_area(shape, sloped=roof.soffit == "sloped"), system))


def _area(mm2: float, system: str) -> str:
    return f"{mm2 / 304.8**2:,.0f} sq ft" if system == "us" else f"{mm2 / 1e6:,.1f} m²"


AS_ROOF = ", as the roof"


def _said(text: str) -> bool:
    """Whether a field of a side says anything of its own."""
    return bool(text.strip()) and AS_ROOF not in text


def one_side(w: "Window", name: ThingName) -> None:
    """Fill the slip of one side of a roof, named like ``R1/W201``."""
    key, side = name.key, name.part
    roof = next((r for r in w.building.project.roofs if r.id == key), None)
    shape = w.building.checked.structure.roofs.get(HostName("roof", key))
    edge = next((e for e in shape.edges if e.name == side), None) if shape else None
    slip, system = w.slip, w.building.project.system
    if roof is None or edge is None:
        slip.title("Side of a roof", "", "gone")
        return

    def put(words: str, **what: Any) -> object:
        return w.edit(words, partial(set_side, key=key, side=side, **what))

    length = math.dist(edge.a, edge.b)
    slip.title(_called(w, edge), f"side of roof {roof.name}", format_length(length, system))
    slip.options(
        "the roof",
        [(words, kind) for kind, words in SIDE_WORDS.items()],
        edge.rule.kind,
        lambda v: put("side of the roof", kind=v),
    )
    slip.button(
        "Turn into a gable" if edge.rule.kind == "slope" else "Turn into a hip",
        lambda: w.edit("hip or gable", partial(hip_or_gable, key=key, side=side)),
    )
    if edge.slope is not None:
        own = edge.rule.rise
        slip.field(
            "pitch",
            format_pitch(edge.slope * 12, system) + ("" if own else AS_ROOF),
            lambda t: put("pitch of a side", rise=parse_pitch(t, system) if _said(t) else None),
        )
    own_out = edge.rule.overhang is not None
    slip.field(
        "overhang",
        format_run(edge.out, system) + ("" if own_out else AS_ROOF),
        lambda t: put("overhang of a side", overhang=parse_length(t, system) if _said(t) else None),
    )
    slip.field(
        "plate, up",
        format_run(edge.rule.plate, system),
        lambda t: put("plate of a side", plate=parse_length(t, system)),
    )
    slip.line("Empty a field to let it follow the roof.", quiet=True)


def one_opening(w: "Window", name: ThingName) -> None:
    """Fill the slip of a skylight, named like ``R1/S1``."""
    key, opening = name.key, name.part
    roof = next((r for r in w.building.project.roofs if r.id == key), None)
    if roof is None or all(o.id != opening for o in roof.openings):
        w.slip.title("Skylight", "", "gone")
        return
    item = named(roof.openings, opening, "opening")
    slip, system = w.slip, w.building.project.system
    slip.title(f"{item.use.capitalize()} {item.id}", f"in roof {roof.name}", "")

    def put(**what: Any) -> object:
        return w.edit("skylight", partial(set_roof_opening, key=key, opening=opening, **what))

    slip.options(
        "for", [(x, x) for x in ("skylight", "dormer", "chimney")], item.use, lambda v: put(use=v)
    )

    slip.field(
        "across the slope",
        format_run(item.size[0], system),
        lambda t: put(size=(parse_length(t, system), item.size[1])),
    )
    slip.field(
        "up the slope",
        format_run(item.size[1], system),
        lambda t: put(size=(item.size[0], parse_length(t, system))),
    )
    slip.field(
        "middle, east",
        format_length(item.at[0], system),
        lambda t: put(at=(parse_length(t, system), item.at[1])),
    )
    slip.field(
        "middle, north",
        format_length(item.at[1], system),
        lambda t: put(at=(item.at[0], parse_length(t, system))),
    )
    slip.button(
        "Take it away",
        lambda: w.edit(
            "take the skylight away", partial(remove_roof_opening, key=key, opening=opening)
        ),
    )


def tool_fields(w: "Window", put: Callable[..., object]) -> None:
    """Fill in how the tools for roofs and skylights make what they place."""
    slip, system, kit = w.slip, w.building.project.system, w.tools.kit
    if w.tools.name == "Roof":
        slip.options(
            "over", [(x, x) for x in FROM], kit.roof_from, lambda v: put(again=True, roof_from=v)
        )
        slip.line(
            "It slopes up from every side. Click an eave afterwards to give that side a gable.",
            quiet=True,
        )
        return
    slip.field(
        "across the slope",
        format_run(kit.skylight[0], system),
        lambda t: put(skylight=(parse_length(t, system), kit.skylight[1])),
    )
    slip.field(
        "up the slope",
        format_run(kit.skylight[1], system),
        lambda t: put(skylight=(kit.skylight[0], parse_length(t, system))),
    )
    slip.line("Rafters beside it are doubled; headers carry those it cuts.", quiet=True)
