"""The page of what the building costs by the prices of the catalogue: by floor, roof and beam, and
what that holds."""

from datetime import date
from functools import partial
from typing import Any, Final

from msgspec.structs import replace

from balken.exchange.price_service import Quoted, ask_prices
from balken.exchange.prices_in import read_prices
from balken.framing.member import Member
from balken.model.edits import set_site
from balken.model.edits.prices import drop_prices, set_estimate, take_prices
from balken.model.names import HostName, in_words
from balken.session.desk import Desk
from balken.session.rows import Button, Fact, Field, Heading, Line, Link, Rows, Title
from balken.takeoff.cost import is_old, items_of
from balken.units.number import parse_number
from balken.works.costs import carbon_of, cost_of, volumes_of

HOLDS = (
    "Members that are sawn or bought by length, by the invented prices that ship with the program"
    " or were typed for products. No labour, no waste, no concrete, no fasteners."
)


def cost_of_here(desk: Desk, members: list[Member]) -> float:
    """What members of the building that is shown cost."""
    return cost_of(members, desk.system, desk.project.products)


def cost(desk: Desk) -> Rows:
    """The cost of all that is framed, by what it belongs to."""
    by_host: dict[HostName, list[Member]] = {}
    for m in desk.checked.structure.members:
        by_host.setdefault(m.host, []).append(m)
    costs = {host: cost_of_here(desk, members) for host, members in by_host.items()}
    yield Title("Cost", "of material", f"{sum(costs.values()):,.0f}")
    yield Line(HOLDS, quiet=True)
    yield Heading("By what it belongs to")
    for host, amount in sorted(costs.items(), key=lambda c: -c[1]):
        if amount >= 0.5:
            yield Link(in_words(host), f"{amount:,.0f}", partial(desk.select, host))
    yield from _estimate(desk)
    yield from _carbon(desk)


def _estimate(desk: Desk) -> Rows:
    """Prices a person keeps, wage, waste and currency: what the list of costs is reckoned by."""
    estimate = desk.project.estimate

    def put(words: str, **fields: Any) -> object:
        return desk.edit(words, partial(set_estimate, **fields))

    yield Heading("Whole estimate", estimate.currency)
    yield Line("The list Cost (5) has it by storey, item and hours, with labour.", quiet=True)
    yield Field("currency", estimate.currency, lambda t: put("currency", currency=t.strip()))
    yield Field(
        "wage of an hour", f"{estimate.wage:g}", lambda t: put("wage", wage=parse_number(t or "0"))
    )
    yield Field(
        "waste, %",
        f"{estimate.waste * 100:g}",
        lambda t: put("waste", waste=parse_number(t.replace("%", "") or "0") / 100),
    )
    count = len(estimate.prices)
    yield Fact("prices of yours", f"{count}" if count else "none: those shipped are invented")
    today = date.today().isoformat()
    if old := sum(is_old(p, today) for p in estimate.prices):
        yield Fact("older than half a year", f"{old} of {count}")
    yield Button("Take prices from a table …", partial(_take, desk))
    yield Button("Ask the price service", partial(_ask, desk))
    if count:
        forget = partial(desk.edit, "forget prices", drop_prices)
        yield Button("Forget them", forget)


def _take(desk: Desk) -> None:
    path = desk.face.file_to_open("Prices", "Tables (*.csv *.xlsx)")
    if path is not None:
        prices = read_prices(path)
        desk.edit(f"take {len(prices)} prices", partial(take_prices, prices=prices))


def _ask(desk: Desk) -> None:
    """Ask the service for the prices of all there is, apart from the window."""
    items = items_of(desk.checked)
    hours = {p.item: p.hours for p in desk.project.estimate.prices}
    today = date.today().isoformat()
    desk.say(f"Asking the prices of {len(items)} items …  Esc leaves it.")
    desk.under_way = desk.face.apart(
        partial(ask_prices, desk.price_service, items, hours, today),
        partial(_take_quoted, desk),
        desk.say,
    )


def _take_quoted(desk: Desk, quoted: Quoted) -> None:
    """Take what a service answered, and say what changed and what it does not know. A price without a date
    was typed, or agreed with somebody: it stays."""
    kept = desk.project.estimate.prices
    typed = {p.item.lower() for p in kept if not p.date}
    before = {p.item.lower(): p.price for p in kept}
    taken = tuple(p for p in quoted.prices if p.item.lower() not in typed)
    changed = [p for p in taken if before.get(p.item.lower(), p.price) != p.price]
    told = [f"{len(taken)} prices taken"]
    if changed:
        told.append(f"{len(changed)} changed")
    if stay := len(quoted.prices) - len(taken):
        told.append(f"{stay} of yours stay as typed")
    if quoted.missing:
        told.append(f"not known: {_some(quoted.missing)}")
    if quoted.refused:
        told.append(f"not taken, since it cannot be meant: {_some(quoted.refused)}")
    if taken:
        desk.edit("take prices of the service", partial(take_prices, prices=taken))
    desk.say(f"{'; '.join(told)}.")


def _some(words: tuple[str, ...]) -> str:
    shown = ", ".join(words[:4])
    return f"{shown} and {len(words) - 4} more" if len(words) > 4 else shown


CARBON_WORDS: Final = {
    "timber": "timber",
    "glued": "glulam, LVL",
    "concrete": "concrete",
    "steel": "steel",
}


def _carbon(desk: Desk) -> Rows:
    """Embodied carbon by factors that are typed."""
    factors, amounts = desk.project.site.carbon, volumes_of(desk.checked)
    whole = carbon_of(amounts, factors)
    yield Heading("Embodied carbon", f"{whole:,.0f} kg" if whole else "")
    for material, words in CARBON_WORDS.items():

        def put(text: str, material: str = material) -> object:
            value = parse_number(text.lower().replace("kg/m³", "").replace("kg/m3", "") or "0")
            carbon = replace(factors, **{material: value})
            return desk.edit("carbon of a material", partial(set_site, carbon=carbon))

        now = getattr(factors, material)
        yield Field(f"{words}, kg/m³", f"{now:g}" if now else "0", put)
