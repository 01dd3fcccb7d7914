"""What fills a tier, where nothing in it is selected."""

from collections.abc import Callable
from typing import Final

from balken.drawing.tiers import Tier
from balken.model.names import Name, as_thing, in_words, kind_of
from balken.model.project import Project
from balken.session.desk import Desk, Thing
from balken.session.rows import Fact, Line, Rows, Title
from balken.session.things import floors, roofs
from balken.session.things.runs import all_runs
from balken.session.things.site import points_alone
from balken.session.things.storeys import storey
from balken.units import format_length


def tier_slip(desk: Desk, tier: Tier) -> Rows:
    """What the slip says of a tier."""
    return _SLIPS[kind_of(tier.id)](desk, tier)


def _floors(desk: Desk, tier: Tier) -> Rows:
    yield Title(tier.name)
    there = floors.parts_of_tier(desk, tier)
    if len(there) > 1:
        yield from floors.list_of(desk, there)
    yield from floors.floor_slip(desk, next(f for f in desk.project.floors if f.id == tier.key))


def _roofs(desk: Desk, tier: Tier) -> Rows:
    yield Title(tier.name)
    there = roofs.parts_of_tier(desk, tier)
    if len(there) > 1:
        yield from roofs.list_of(desk, there)
    yield from roofs.roof_slip(desk, next(r for r in desk.project.roofs if r.id == tier.key))


def _beams(desk: Desk, tier: Tier) -> Rows:
    yield Title(tier.name)
    yield Line("Beams alone: click one for its loads and checks.", quiet=True)


def _walls(desk: Desk, tier: Tier) -> Rows:
    yield Title(tier.name)
    yield from storey(desk, tier.key)


_SLIPS: Final[dict[str, Callable[[Desk, Tier], Rows]]] = {
    "ground": lambda desk, tier: points_alone(desk),
    "run": lambda desk, tier: all_runs(desk),
    "floor": _floors,
    "roof": _roofs,
    "beams": _beams,
    "walls": _walls,
}


def _slip(desk: Desk, name: Name) -> Rows:
    tier = desk.tier_of(name)
    return tier_slip(desk, tier) if tier else nothing_yet(desk)


def nothing_yet(desk: Desk) -> Rows:
    """What the slip says where nothing is framed."""
    yield Title(desk.project.name)
    yield Line(
        "Nothing is framed yet. Place a foundation, floors or a roof with the words at the left.",
        quiet=True,
    )


def _reference(desk: Desk, name: Name) -> Rows:
    """A slab or roof of the architect's, which is only looked at."""
    item = next((r for r in desk.project.references if r.id == as_thing(name).key), None)
    if item is None:
        return
    yield Title(item.name, f"architect’s {item.kind}")
    yield Fact("from", format_length(item.bottom, desk.system))
    yield Fact("to", format_length(item.top, desk.system))
    yield Line("It is looked at, and carries nothing. The page of sources drops it.", quiet=True)


def _tier(project: Project, name: Name) -> Name | None:
    return name


TIERS = tuple(
    Thing(kind, word, _slip, called=lambda project, name: in_words(name), tier=_tier)
    for kind, word in (("walls", "walls of a storey"), ("beams", "beams"), ("ground", "ground"))
)
REFERENCE = Thing(
    "reference",
    "reference",
    _reference,
    called=lambda project, name: f"architect’s {as_thing(name).key}",
)
