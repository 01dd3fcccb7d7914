"""The stand-in price service: late, silent, knowing some only, answering nonsense, dearer than last time."""

from collections.abc import Mapping, Sequence

import pytest

from balken.exchange.price_service import MadeUpPrices, PriceError, ask_prices
from balken.model.edits.prices import set_estimate, take_prices
from balken.model.prices import Price
from balken.model.project import Project
from balken.takeoff.cost import cost_list, is_old, items_of, whole_cost
from balken.takeoff.listing import totals
from balken.works.building import work_out
from balken.works.costs import carbon_of, volumes_of

TODAY = "2026-11-30"


def test_it_answers_what_it_knows_and_says_what_it_does_not() -> None:
    quoted = ask_prices(MadeUpPrices(), ["concrete", "moon dust"], {"concrete": 0.4}, TODAY)
    assert quoted.prices == (Price("concrete", "m3", 145.0, 0.4, TODAY),)
    assert quoted.missing == ("moon dust",)


def test_prices_change_from_one_asking_to_the_next() -> None:
    service = MadeUpPrices(rise=0.1)
    first, second = (ask_prices(service, ["concrete"], {}, TODAY).prices[0] for _ in range(2))
    assert second.price == pytest.approx(first.price * 1.1)


def test_silence_is_said() -> None:
    with pytest.raises(PriceError, match="does not answer"):
        ask_prices(MadeUpPrices("nothing"), ["concrete"], {}, TODAY)


def test_nonsense_is_not_taken() -> None:
    quoted = ask_prices(MadeUpPrices("nonsense"), ["concrete"], {}, TODAY)
    assert quoted.prices == ()
    assert "dear" in quoted.refused[0]


@pytest.mark.parametrize(
    "answer",
    [
        {"unit": "barrel", "price": 3.0},
        {"unit": "m3", "price": -1.0},
        {"unit": "m3", "price": float("nan")},
        {"unit": "m3", "price": True},
        {"unit": "m3"},
        "145",
        None,
    ],
)
def test_what_cannot_be_meant_is_told_and_not_taken(answer: object) -> None:
    class Odd:
        def quote(self, items: Sequence[str]) -> Mapping[str, Mapping[str, object]]:
            return {"concrete": answer}  # type: ignore[dict-item]

    quoted = ask_prices(Odd(), ["concrete"], {}, TODAY)
    assert not quoted.prices
    assert len(quoted.refused) == 1


def test_nothing_to_ask_is_said() -> None:
    with pytest.raises(PriceError, match="nothing to ask"):
        ask_prices(MadeUpPrices(), [], {}, TODAY)


def test_the_service_knows_most_of_the_demo_and_old_prices_are_marked(demo: Project) -> None:
    checked = work_out(demo)
    quoted = ask_prices(MadeUpPrices(), items_of(checked), {}, TODAY)
    assert any(p.item.startswith("2x10") for p in quoted.prices)
    prices = tuple(
        Price(p.item, p.unit, p.price, 0.0, "2026-01-01") if p.item == "concrete" else p
        for p in quoted.prices
    )
    listing = cost_list(work_out(take_prices(demo, prices)))
    told = {row.cells[2]: row.cells[-1] for row in listing.rows}
    assert told["concrete"] == "2026-01-01, old"
    assert TODAY in told.values()


def test_old_is_half_a_year() -> None:
    price = Price("x", "m", 1.0, 0.0, "2026-01-01")
    assert not is_old(price, "2026-06-30")
    assert is_old(price, "2026-07-01")
    assert not is_old(Price("x", "m", 1.0), TODAY), "of no date it is not known"


def test_a_price_doubled_shows_where_it_counts(demo: Project) -> None:
    def costs(price: float) -> dict[str, float]:
        priced = take_prices(demo, (Price("concrete", "m3", price),))
        listing = cost_list(work_out(set_estimate(priced, wage=0.0)))
        found: dict[str, float] = {}
        for row in listing.rows:
            found[str(row.cells[2])] = found.get(str(row.cells[2]), 0.0) + float(row.cells[6] or 0)
        return found

    once, twice = costs(100.0), costs(200.0)
    assert twice["concrete"] == pytest.approx(2 * once["concrete"])
    assert {k for k in once if once[k] != twice[k]} == {"concrete"}


def test_the_list_comes_to_the_whole_cost_and_carbon(demo: Project) -> None:
    from balken.model.edits import set_site
    from balken.model.foundations import Carbon

    checked = work_out(set_site(demo, carbon=Carbon(timber=260.0, concrete=300.0)))
    listing = cost_list(checked)
    sums = totals(listing)
    assert sums[listing.at("cost")] == pytest.approx(whole_cost(checked))
    whole = carbon_of(volumes_of(checked), checked.project.site.carbon)
    assert sums[listing.at("carbon")] == pytest.approx(whole, rel=1e-9)
