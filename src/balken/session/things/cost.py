"""The page of what the building costs by the prices of the catalogue: by floor, roof and beam, and
what that holds."""

from functools import partial
from typing import Any, Final

from msgspec.structs import replace

from balken.exchange.prices_in import read_prices
from balken.framing.member import Member
from balken.model.edits import set_site
from balken.model.edits.prices import drop_prices, set_estimate, take_prices
from balken.model.names import HostName, in_words
from balken.session.desk import Desk
from balken.session.rows import Button, Fact, Field, Heading, Line, Link, Rows, Title
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
    yield Button("Take prices from a table …", partial(_take, desk))
    if count:
        forget = partial(desk.edit, "forget prices", drop_prices)
        yield Button("Forget them", forget)


def _take(desk: Desk) -> None:
    path = desk.face.file_to_open("Prices", "Tables (*.csv *.xlsx)")
    if path is not None:
        prices = read_prices(path)
        desk.edit(f"take {len(prices)} prices", partial(take_prices, prices=prices))


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
