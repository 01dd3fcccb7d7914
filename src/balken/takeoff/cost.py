"""What a building costs: material by its unit, and labour by hours and wage; by storey, by what it belongs
to, by item."""

from collections.abc import Iterable, Iterator
from typing import Final, NamedTuple

from balken.framing.member import Member
from balken.model.catalogue import sections_of
from balken.model.fasteners import IN_ROWS
from balken.model.names import Name
from balken.model.prices import UNIT_MEASURE, Estimate, Price
from balken.model.project import host_records, level
from balken.takeoff.concrete import poured
from balken.takeoff.cutting import cutting_list
from balken.takeoff.listing import Column, Listing, Row
from balken.takeoff.sheets import sheets_of
from balken.takeoff.weights import called_host
from balken.works.building import Checked
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
    by_mark = {m.mark: m for m in checked.structure.members}
    return [
        *_lumber(checked, by_mark),
        *_sheets(checked),
        *_concrete(checked),
        *_fasteners(checked),
    ]


def _lumber(checked: Checked, by_mark: dict[str, Member]) -> Iterator[Amount]:
    sections = sections_of(checked.project.system, checked.project.products)
    hosts = host_records(checked.built)
    for x in cutting_list(checked):
        members = [by_mark[m] for m in x.marks if m in by_mark]
        section = sections.get(x.section)
        length = x.bought or x.count * x.blank
        yield Amount(
            _level(checked, members[0].level) if members else "",
            called_host(hosts.get(x.host), x.host.key),
            tuple(m.id for m in members),
            (f"{x.section} {x.material}", x.section),
            float(x.count),
            length,
            0.0,
            length * section.breadth * section.depth if section else 0.0,
            x.cost,
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


def _concrete(checked: Checked) -> Iterator[Amount]:
    by_id = {m.id: m for m in checked.structure.members}
    for p in poured(checked):
        here = _level(checked, by_id[p.id].level)
        yield Amount(here, p.host.key, (p.id,), ("concrete",), 1.0, volume=p.volume)
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
            return Priced(much * price.price, much * price.hours, price.date or "of no date")
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
    rows.sort(key=lambda r: -float(r.cells[-2] or 0.0))
    money = estimate.currency or "cost"
    columns = (
        Column("level", "storey"),
        Column("of", "of"),
        Column("item", "item"),
        Column("material", f"material, {money}", "money", sums=True),
        Column("hours", "hours", "money", sums=True),
        Column("labour", f"labour, {money}", "money", sums=True),
        Column("cost", f"in all, {money}", "money", sums=True),
        Column("price", "price"),
    )
    return Listing("cost", "Cost", columns, tuple(rows))


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
    return Row((where, of, item, material, hours, labour, material + labour, by), names)
