"""What the slip says for each kind of thing: a member, a tier, a wall, a level."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from balken.design.sizing import Choice
from balken.desk import (
    slip_beams,
    slip_floors,
    slip_grids,
    slip_ground,
    slip_levels,
    slip_many,
    slip_piece,
    slip_products,
    slip_roofs,
    slip_sources,
    slip_tools,
    slip_trusses,
    slip_walls,
)
from balken.drawing.figure import figure
from balken.drawing.layout_figure import layout_figure
from balken.drawing.roof_words import kind_word, square_facts
from balken.drawing.tiers import Tier
from balken.drawing.words import pretty
from balken.framing import kinds
from balken.framing.member import Member
from balken.model.catalogue import catalogue_of, price_per_mm, sections_of
from balken.model.edits import set_floor, set_roof
from balken.model.floors import FloorArea
from balken.model.names import HostName, Rest, ThingName, in_words, keys_of, kind_of
from balken.model.project import level
from balken.model.roofs import RoofArea
from balken.model.sections import FAMILY_WORDS
from balken.model.walls import called
from balken.units import (
    PCF,
    format_area_load,
    format_force,
    format_length,
    format_run,
    format_volume,
    parse_area_load,
)
from balken.works.building import checks_of, is_over

if TYPE_CHECKING:
    from balken.desk.window import Window

WOOD_WEIGHT = 32 * PCF
"""Weight of framing lumber for the line on the slip only, N/mm³; common practice, no source."""


def fill(w: "Window") -> None:
    """Fill the slip for what is selected. Keys that were in a field of it go on to the board, not
    to whatever is next."""
    held = w.focusWidget()
    inside = held is not None and w.slip.isAncestorOf(held)
    w.slip.clear()
    member = w.member()
    if w.tools.at_work:
        slip_tools.fill(w)
    elif len(w.selected) > 1 and all(kind_of(k) in THINGS for k in w.selected):
        slip_many.fill(w, w.selected)
    elif supports := keys_of(w.selected[:1], "support"):
        slip_many.one_support(w, supports[0])
    elif member:
        _member(w, member)
    elif isinstance(w.selection, ThingName):
        _thing(w, w.selection)
    elif isinstance(w.selection, HostName) and w.selection.kind in _HOSTS:
        _HOSTS[w.selection.kind](w, w.selection.key)
    elif tier := w.current_tier():
        _tier(w, tier)
    else:
        w.slip.title(w.building.project.name, "")
        w.slip.line(
            "Nothing is framed yet. Place a foundation, floors or a roof with the words at the"
            " left.",
            quiet=True,
        )
    w.slip.done()
    if inside:
        w.board.stack.currentWidget().setFocus()


def _thing(w: "Window", thing: ThingName) -> None:
    """Fill the slip for something that is no member and no host of members."""
    if thing.kind == "page":
        _PAGES[thing.key](w)
    elif thing.kind in _BY_KEY:
        _BY_KEY[thing.kind](w, thing.key)
    else:
        _THINGS[thing.kind](w, thing)


def _storey_page(w: "Window", base: str) -> None:
    w.slip.title("Copy a storey", level(w.building.project, base).name)
    slip_walls.copying(w, base)


THINGS = ("wall", "opening", "grid", "support")
_HOSTS: dict[str, Callable[["Window", str], None]] = {
    "wall": slip_walls.one_wall,
    "run": slip_ground.one,
    "floor": lambda w, key: _one_floor(w, key),
    "roof": lambda w, key: _one_roof(w, key),
}
_BY_KEY: dict[str, Callable[["Window", str], None]] = {
    "level": slip_levels.fill,
    "build-up": slip_walls.build_up,
    "storey": _storey_page,
    "product": slip_products.one,
    "span": lambda w, key: _one_floor(w, key),
}
_THINGS: dict[str, Callable[["Window", ThingName], None]] = {
    "opening": slip_walls.one_opening,
    "grid": slip_grids.one,
    "step": slip_ground.step,
    "side": slip_roofs.one_side,
    "skylight": slip_roofs.one_opening,
    "hole": lambda w, thing: _one_hole(w, thing),
}
_PAGES: dict[str, Callable[["Window"], None]] = {
    "build-ups": slip_walls.build_ups,
    "module": slip_walls.module,
    "unread": slip_sources.unread,
    "by hand": slip_piece.by_hand,
    "products": slip_products.products,
    "sources": slip_sources.sources,
    "update": slip_sources.update,
}


def _member(w: "Window", m: Member) -> None:
    slip, checked = w.slip, w.building.checked
    project, system = w.building.project, w.building.project.system
    alike = [
        x
        for x in checked.structure.members
        if (x.role, x.host, x.section, round(x.length))
        == (m.role, m.host, m.section, round(m.length))
    ]
    slip.title(m.mark, kind_word(m), f"{len(alike)} alike" if len(alike) > 1 else "")
    sized = checked.sizes.get(m.host)
    gap = (
        f" at {format_run(sized.size.spacing, system)}"
        if sized and m.carrier.area and sized.size.spacing
        else ""
    )
    weight = (
        format_force(m.solid.volume * WOOD_WEIGHT, system)
        if not m.kind.concrete
        else format_volume(checked.structure.volume(m), system)
    )
    product = sections_of(system, project.products).get(m.section)
    made_of = FAMILY_WORDS[product.family] if product and product.product else m.material
    slip.line(f"{pretty(m.section)} {made_of}{gap} · {format_length(m.length, system)} · {weight}")
    if not slip_beams.add_figure(w, m) and not slip_trusses.add_figure(w, m):
        slip.figure(figure(checked, m))
    checks = checks_of(checked, m)
    if checks:
        slip.heading("Checks", checks[0].combination)
        slip.checks(checks, system, lambda: fill(w))
    if sized and sized.choices and m.carrier.supports:
        name = _host_name(w, m.host)
        slip.heading(f"Other choices for {name}")
        slip.choices(sized, system, lambda c: _hold(w, m.host, c))
    slip.heading("Facts")
    if m.carrier.supports:
        names: dict[Rest | None, str] = {HostName("wall", x.id): called(x) for x in project.walls}
        marks: dict[Rest | None, str] = {x.id: x.mark for x in checked.structure.members}
        on = [
            f"{names.get(s.on) or marks.get(s.on) or 'nothing'}, {format_run(s.length, system)}"
            for s in m.carrier.supports
        ]
        slip.fact("sits on", " · ".join(on))
        if m.carrier.area:
            slip.fact("carries", _area(m.carrier.area, system))
    if m.cuts:
        slip.fact("cuts", ", ".join(m.cuts))
    change = slip_piece.change_of(w, m.id)
    slip.fact("by hand", "nothing changed" if change is None else slip_piece.words_of(w, change))
    if m.host in checked.structure.roofs:
        square = square_facts(project, checked.structure.roofs[m.host], m)
        if square:
            slip.heading("Laid out with the square")
            slip.figure(layout_figure(m, system))
        for name, words in square:
            slip.fact(name, words)
    if m.host.kind == "run":
        slip_ground.under_wall(w, m)
    slip_trusses.joints(w, m)
    if m.kind is kinds.BEAM:
        slip_beams.fields(w, m.host)
    if m.kind.movable or (m.kind is kinds.RAFTER and m.carrier.supports):
        slip_piece.fields(w, m)


def _area(mm2: float, system: str) -> str:
    return (
        f"{mm2 / 304.8**2:.1f} sq ft of plan" if system == "us" else f"{mm2 / 1e6:.2f} m² of plan"
    )


def _hold(w: "Window", host: HostName, choice: Choice) -> None:
    if host.kind in ("beam", "bay"):
        slip_beams.hold(w, host, choice)
        return
    edit = set_floor if host.kind == "floor" else set_roof
    words = (
        f"hold {pretty(choice.section)} at {format_run(choice.spacing, w.building.project.system)}"
    )
    w.edit(words, partial(edit, key=host.key, section=choice.section, spacing=choice.spacing))


def _host_name(w: "Window", host: HostName) -> str:
    if host.kind in ("beam", "bay"):
        return in_words(host)
    roof = next((r for r in w.building.project.roofs if HostName("roof", r.id) == host), None)
    if roof is not None:
        return f"roof {roof.name}"
    tier = next((t for t in w.tiers if t.id == host), None)
    return tier.name.replace(" joists", "") if tier else in_words(host)


def _tier(w: "Window", tier: Tier) -> None:
    kind, key = kind_of(tier.id), tier.key
    checked = w.building.checked
    project = w.building.project
    mine = [m for m in checked.structure.members if m.host == tier.id]
    if kind == "ground":
        slip_ground.points_alone(w)
        return
    if kind == "run":
        slip_ground.fill_tier(w)
        return
    w.slip.title(tier.name, "")
    if kind == "floor":
        floors = slip_floors.parts_of_tier(w, tier)
        if len(floors) > 1:
            slip_floors.list_of(w, floors)
        _floor(w, next(f for f in project.floors if f.id == key), mine)
    elif kind == "beams":
        w.slip.line("Beams alone: click one for its loads and checks.", quiet=True)
    elif kind == "roof":
        roofs = slip_roofs.parts_of_tier(w, tier)
        if len(roofs) > 1:
            slip_roofs.list_of(w, roofs)
        _roof(w, next(r for r in project.roofs if r.id == key), mine)
    else:
        slip_walls.storey(w, key)


def _summary(w: "Window", host: HostName, mine: list[Member]) -> None:
    slip, checked, system = w.slip, w.building.checked, w.building.project.system
    sized = checked.sizes.get(host)
    slab = next((m for m in mine if m.kind is kinds.FLOOR_SLAB), None)
    if slab is not None:
        slip.line(
            f"{slab.section} of concrete, {format_volume(checked.structure.volume(slab), system)}",
            bold=True,
        )
        checks = checks_of(checked, slab)
        if checks:
            slip.heading("Checks", slab.mark)
            slip.checks(checks, system, lambda: fill(w))
        return
    if sized is None:
        slip.line("Not framed: the walls it stands on enclose nothing.", quiet=True)
        return
    why = next((text for h, text in checked.structure.unframed if h == host), None)
    if why is not None:
        slip.line(f"Not framed: {why}.", quiet=True)
        return
    spanning = [m for m in mine if m.carrier.area > 0]
    slip.line(
        f"{pretty(sized.size.section)} at {format_run(sized.size.spacing, system)} ·"
        f" {len(spanning)} pieces",
        bold=True,
    )
    # A ridge board carries nothing: only how deep it must be is checked, which tells little of a
    # roof.
    shown = [
        m.id
        for m in mine
        if m.id in checked.used and (m.kind is not kinds.RIDGE or is_over(checked.used[m.id][0]))
    ]
    name = max(shown, key=lambda x: checked.used[x], default=None)
    sections = sections_of(system, w.building.project.products)
    cost = sum(
        m.blank * price_per_mm(sections[m.section], m.material.partition(" ")[2])
        for m in mine
        if m.section in sections
    )
    slip.line(f"span {format_length(sized.span, system)} · cost {cost:,.0f}", quiet=True)
    worst = next((m for m in mine if m.id == name), None)
    if worst:
        if not slip_beams.add_figure(w, worst):
            slip.figure(figure(checked, worst))
        slip.heading("Checks of the most used", worst.mark)
        slip.checks(checks_of(checked, worst), system, lambda: fill(w))
    if sized.choices:
        slip.heading(
            "Other choices",
            "" if sized.allowed > 1e6 else f"depth allowed {format_run(sized.allowed, system)}",
        )
        slip.choices(sized, system, lambda c: _hold(w, host, c))


def _held_fields(w: "Window", host: HostName, section: str | None, spacing: float | None) -> None:
    system = w.building.project.system
    catalogue = catalogue_of(system)
    key = host.key
    edit = set_floor if host.kind == "floor" else set_roof
    sections = [("by calculation", None)] + [
        (pretty(n), n) for n, s in catalogue.sections.items() if s.nominal[0] <= 4
    ]
    w.slip.options(
        "section",
        sections,
        section,
        lambda v: w.edit("hold section", partial(edit, key=key, section=v)),
    )
    gaps = [("by calculation", None)] + [(format_run(s, system), s) for s in catalogue.spacings]
    w.slip.options(
        "spacing",
        gaps,
        spacing,
        lambda v: w.edit("hold spacing", partial(edit, key=key, spacing=v)),
    )


def _load_field(w: "Window", name: str, value: float, apply: Callable[[float], object]) -> None:
    system = w.building.project.system
    w.slip.field(
        name, format_area_load(value, system), lambda text: apply(parse_area_load(text, system))
    )


def _floor(w: "Window", floor: FloorArea, mine: list[Member]) -> None:
    host = HostName("floor", floor.id)
    _summary(w, host, mine)
    slip_floors.fields(w, floor)


def _one_floor(w: "Window", key: str) -> None:
    floor = next((f for f in w.building.project.floors if f.id == key), None)
    if floor is None:
        w.slip.title("Floor", "", "gone")
        return
    w.slip.title(floor.name, "floor", floor.id)
    _floor(
        w,
        floor,
        [m for m in w.building.checked.structure.members if m.host == HostName("floor", key)],
    )


def _one_roof(w: "Window", key: str) -> None:
    roof = next((r for r in w.building.project.roofs if r.id == key), None)
    if roof is None:
        w.slip.title("Roof", "", "gone")
        return
    w.slip.title(roof.name, "roof", roof.id)
    _roof(
        w,
        roof,
        [m for m in w.building.checked.structure.members if m.host == HostName("roof", key)],
    )


def _one_hole(w: "Window", name: ThingName) -> None:
    slip_floors.one_hole(w, name)


def _roof(w: "Window", roof: RoofArea, mine: list[Member]) -> None:
    host = HostName("roof", roof.id)
    _summary(w, host, mine)
    slip_roofs.fields(w, roof)
    _held_fields(w, host, roof.section, roof.spacing)
    _load_field(
        w, "snow", roof.snow, lambda v: w.edit("snow load", partial(set_roof, key=roof.id, snow=v))
    )
    _load_field(
        w,
        "roof live",
        roof.live,
        lambda v: w.edit("roof live load", partial(set_roof, key=roof.id, live=v)),
    )
    _load_field(
        w,
        "dead load",
        roof.dead,
        lambda v: w.edit("dead load", partial(set_roof, key=roof.id, dead=v)),
    )
