"""What a building costs: material by its unit, and labour by hours and wage; by storey, by what it belongs
to, by item."""

from collections.abc import Iterable, Iterator
from datetime import date
from typing import Final, NamedTuple

from balken.model.catalogue import sections_of
from balken.model.fasteners import IN_ROWS
from balken.model.names import Name
from balken.model.prices import UNIT_MEASURE, Estimate, Price
from balken.model.project import host_records, level
from balken.takeoff.bars import bars_of
from balken.takeoff.concrete import poured
from balken.takeoff.cutting import cutting_list
from balken.takeoff.listing import Column, Listing, Row
from balken.takeoff.sheets import deck_panels, sheets_of
from balken.takeoff.weights import called_host
from balken.works.building import Checked
from balken.works.costs import carbon_of, volumes_among
from balken.works.fasteners import demands_of

SHIPPED: Final = "shipped with the program"
"""The invented prices of lumber, used where a person has none."""
LACKING: Final = "no price"


class Amount(NamedTuple):
    """How much of an item belongs to one thing; what of it is not known is nothing."""

    level: str
    of: str
    names: tuple[Name, ...]
    items: tuple[str, ...]
    """What it may be called in a list of prices, the nearest first."""
    pieces: float = 0.0
    length: float = 0.0
    area: float = 0.0
    volume: float = 0.0
    shipped: float | None = None
    """What it costs by the shipped prices; None where these have none."""
    carbon: float = 0.0
    """Embodied in what is built of it, by typed factors, kg."""

    def of_measure(self, measure: str) -> float:
        """How much there is by a measure of a price."""
        return {
            "count": self.pieces,
            "length": self.length,
            "area": self.area,
            "volume": self.volume,
        }[measure]


def amounts_of(checked: Checked) -> list[Amount]:
    """All there is to pay for: lumber as it is bought, sheets, concrete and its forms, fasteners."""
    return [
        *_lumber(checked),
        *_sheets(checked),
        *_decks(checked),
        *_concrete(checked),
        *_bars(checked),
        *_fasteners(checked),
    ]


def _lumber(checked: Checked) -> Iterator[Amount]:
    by_id = {m.id: m for m in checked.structure.members}
    sections = sections_of(checked.project.system, checked.project.products)
    hosts = host_records(checked.built)
    counted: set[Name] = set()
    for x in cutting_list(checked):
        members = [by_id[n] for n in x.names]
        # A member that is joined of several pieces stands in several lines; its carbon once.
        first = [m for m in members if m.id not in counted]
        counted.update(x.names)
        section = sections.get(x.section)
        length = x.bought or x.count * x.blank
        yield Amount(
            _level(checked, members[0].level) if members else "",
            called_host(hosts.get(x.host), x.host.key),
            x.names,
            (f"{x.section} {x.material}", x.section),
            float(x.count),
            length,
            0.0,
            length * section.breadth * section.depth if section else 0.0,
            x.cost,
            carbon_of(volumes_among(checked, first), checked.project.site.carbon),
        )


def _level(checked: Checked, key: str) -> str:
    return next((x.name for x in checked.project.levels if x.id == key), "")


def _sheets(checked: Checked) -> Iterator[Amount]:
    waste = 1.0 + checked.project.estimate.waste
    walls = {w.id: w for w in checked.built.walls}
    for x in sheets_of(checked):
        base = level(checked.built, walls[x.wall].base).name
        # Sheets are counted whole, with what is cut off; batts by their bays.
        count = x.sheets * (waste if x.layer < 0 else 1.0)
        yield Amount(base, x.name, (), (x.material,), count, 0.0, x.area * waste, 0.0)


def _decks(checked: Checked) -> Iterator[Amount]:
    """The panels of decks: whole sheets, and what waste takes."""
    hosts = host_records(checked.built)
    waste = 1.0 + checked.project.estimate.waste
    for d in deck_panels(checked):
        m = d.member
        carbon = carbon_of(volumes_among(checked, [m]), checked.project.site.carbon)
        items = ("subfloor", f"subfloor {m.section}")
        where = _level(checked, m.level)
        yield Amount(
            where,
            called_host(hosts.get(m.host), m.host.key),
            (m.id,),
            items,
            d.sheets * waste,
            area=d.area * waste,
            volume=checked.structure.volume(m) * waste,
            carbon=carbon,
        )


def _bars(checked: Checked) -> Iterator[Amount]:
    hosts = host_records(checked.built)
    for x in bars_of(checked):
        m = x.member
        items = (f"bar {x.bar.name}", "bars")
        yield Amount(
            _level(checked, m.level),
            called_host(hosts.get(m.host), m.host.key),
            (m.id,),
            items,
            float(x.number),
            x.number * x.length,
            volume=x.number * x.length * x.bar.area,
        )


def _concrete(checked: Checked) -> Iterator[Amount]:
    by_id = {m.id: m for m in checked.structure.members}
    for p in poured(checked):
        here = _level(checked, by_id[p.id].level)
        carbon = carbon_of(volumes_among(checked, [by_id[p.id]]), checked.project.site.carbon)
        yield Amount(here, p.host.key, (p.id,), ("concrete",), 1.0, volume=p.volume, carbon=carbon)
        if p.formed > 0:
            yield Amount(here, p.host.key, (p.id,), ("formwork",), 1.0, area=p.formed)


def _fasteners(checked: Checked) -> Iterator[Amount]:
    waste = 1.0 + checked.project.estimate.waste
    by_id = {m.id: m for m in checked.structure.members}
    chosen = {f.use: f.name for f in checked.project.fasteners}
    for d in demands_of(checked):
        if d.use in IN_ROWS:
            continue
        m = by_id.get(d.what)
        items = (*((chosen[d.use],) if d.use in chosen else ()), d.use)
        where = _level(checked, m.level) if m else ""
        yield Amount(where, d.what.host.key, (d.what,), items, waste)


class Priced(NamedTuple):
    """What an amount costs."""

    material: float
    hours: float
    by: str
    """Whose price it is: its date, that it was shipped, or that there is none."""


def priced(amount: Amount, prices: dict[str, Price]) -> Priced:
    """What an amount costs by a list of prices; by what is shipped where that has none."""
    price = next((prices[i.lower()] for i in amount.items if i.lower() in prices), None)
    if price is not None:
        measure, one = UNIT_MEASURE[price.unit]
        much = amount.of_measure(measure) / one
        if much > 0:
            when = price.date or "of no date"
            old = is_old(price, max(p.date for p in prices.values()))
            return Priced(much * price.price, much * price.hours, f"{when}, old" if old else when)
        return Priced(0.0, 0.0, f"no price by the {price.unit} it has")
    if amount.shipped is not None:
        return Priced(amount.shipped, 0.0, SHIPPED)
    return Priced(0.0, 0.0, LACKING)


def cost_list(checked: Checked) -> Listing:
    """The cost of a building: equal items of one thing in a line, dearest first."""
    estimate = checked.project.estimate
    prices = {p.item.lower(): p for p in estimate.prices}
    alike: dict[tuple[str, str, str, str], list[tuple[Amount, Priced]]] = {}
    for amount in amounts_of(checked):
        told = priced(amount, prices)
        key = (amount.level, amount.of, amount.items[0], told.by)
        alike.setdefault(key, []).append((amount, told))
    rows = [_row(key, found, estimate) for key, found in alike.items()]
    rows.sort(key=lambda r: -float(r.cells[6] or 0.0))
    money = estimate.currency or "cost"
    columns = (
        Column("level", "storey"),
        Column("of", "of"),
        Column("item", "item"),
        Column("material", f"material, {money}", "money", sums=True),
        Column("hours", "hours", "money", sums=True),
        Column("labour", f"labour, {money}", "money", sums=True),
        Column("cost", f"in all, {money}", "money", sums=True),
        Column("carbon", "carbon, kg", "money", sums=True),
        Column("price", "price"),
    )
    return Listing("cost", "Cost", columns, tuple(rows))


def whole_cost(checked: Checked) -> float:
    """Material and labour of all there is."""
    estimate = checked.project.estimate
    prices = {p.item.lower(): p for p in estimate.prices}
    told = (priced(amount, prices) for amount in amounts_of(checked))
    return sum(p.material + p.hours * estimate.wage for p in told)


def items_of(checked: Checked) -> list[str]:
    """What prices are asked of, by the nearest name of each."""
    return list(dict.fromkeys(a.items[0] for a in amounts_of(checked)))


STALE: Final = 180
"""A price so many days older than the newest, or than today, is old (common practice, no source)."""


def is_old(price: Price, than: str) -> bool:
    """Whether a price was told long before a date; one without a date is not known to be."""
    try:
        return (date.fromisoformat(than) - date.fromisoformat(price.date)).days > STALE
    except ValueError:
        return False


def _row(
    key: tuple[str, str, str, str],
    found: Iterable[tuple[Amount, Priced]],
    estimate: Estimate,
) -> Row:
    where, of, item, by = key
    pairs = list(found)
    material = sum(p.material for _, p in pairs)
    hours = sum(p.hours for _, p in pairs)
    names = tuple(dict.fromkeys(n for a, _ in pairs for n in a.names))
    labour = hours * estimate.wage
    carbon = sum(a.carbon for a, _ in pairs)
    cells = (where, of, item, material, hours, labour, material + labour, carbon, by)
    return Row(cells, names)
