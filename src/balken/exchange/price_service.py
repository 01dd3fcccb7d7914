"""Prices of items from a service that knows them: a small stand-in here, behind the face a real one would
have. It may be slow, not answer, know some items only, or answer nonsense; and prices rise."""

import math
import time
from collections.abc import Mapping, Sequence
from typing import Final, Literal, NamedTuple, Protocol, get_args

from balken.errors import BalkenError
from balken.model.prices import Price, Unit


class PriceError(BalkenError):
    """The service did not answer, or nothing that can be used."""


class PriceService(Protocol):
    """Knows prices."""

    def quote(self, items: Sequence[str]) -> Mapping[str, Mapping[str, object]]:
        """What it knows of items: of each its ``unit`` and its ``price``; nothing of those it does not know.

        Raises:
            OSError: it cannot be reached.
        """


class Quoted(NamedTuple):
    """What a service answered, looked over."""

    prices: tuple[Price, ...]
    missing: tuple[str, ...]
    """What it does not know."""
    refused: tuple[str, ...]
    """What it answers that cannot be meant, in words."""


MOST_ASKED: Final = 5000
DEAREST: Final = 1e7


def ask_prices(
    service: PriceService, items: Sequence[str], hours: Mapping[str, float], date: str
) -> Quoted:
    """The prices of items by a service. What it says wrongly of one is told, and not taken.

    Args:
        service: who is asked.
        items: their names.
        hours: what each takes to put in, which a service does not know.
        date: of today, kept with each price.

    Raises:
        PriceError: it cannot be reached, or what it answers is no list of prices.
    """
    if not items:
        raise PriceError("There is nothing to ask prices of: nothing is built yet.")
    if len(items) > MOST_ASKED:
        raise PriceError(f"{len(items)} items cannot be asked at once; {MOST_ASKED} can.")
    try:
        answer = service.quote(items)
    except OSError as error:
        raise PriceError(
            f"The price service does not answer ({error}). Take prices from a table, or keep those"
            " you have."
        ) from error
    if not isinstance(answer, Mapping):
        raise PriceError("The price service answers no list of prices. Nothing was taken.")
    prices: list[Price] = []
    refused: list[str] = []
    for item in items:
        if item in answer:
            one = _meant(item, answer[item])
            if isinstance(one, str):
                refused.append(one)
            else:
                prices.append(Price(item, *one, hours.get(item, 0.0), date))
    missing = tuple(i for i in items if i not in answer)
    return Quoted(tuple(prices), missing, tuple(refused))


def _meant(item: str, told: object) -> tuple[Unit, float] | str:
    """Unit and price of an answer, or what is wrong with it."""
    if not isinstance(told, Mapping):
        return f"{item}: “{told}”"
    price = told.get("price")
    unit: Unit | None = next((u for u in get_args(Unit) if u == told.get("unit")), None)
    if unit is None:
        return f"{item}: by the “{told.get('unit')}”"
    if isinstance(price, bool) or not isinstance(price, int | float):
        return f"{item}: “{price}”"
    if not math.isfinite(price) or not 0 <= price <= DEAREST:
        return f"{item}: {price:g}"
    return unit, float(price)


MADE_UP: Final[tuple[tuple[str, Unit, float], ...]] = (
    ("concrete", "m3", 145.0),
    ("formwork", "m2", 32.0),
    ("2x4", "m", 1.6),
    ("2x6", "m", 2.4),
    ("2x8", "m", 3.3),
    ("2x10", "m", 4.4),
    ("2x12", "m", 5.9),
    ("38x", "m", 3.1),
    ("45x", "m", 3.4),
    ("sheathing", "piece", 19.0),
    ("subfloor", "piece", 31.0),
    ("gypsum", "piece", 12.0),
    ("hanger", "piece", 2.7),
    ("joist", "piece", 2.7),
    ("hold", "piece", 24.0),
    ("strap", "piece", 1.9),
)
"""What items begin with, and made-up prices of them."""


class MadeUpPrices:
    """Knows made-up prices of the usual items; each asking is a little dearer than the last."""

    def __init__(
        self,
        answers: Literal["well", "nothing", "nonsense"] = "well",
        delay: float = 0.0,
        rise: float = 0.02,
    ) -> None:
        self.answers, self.delay, self.rise = answers, delay, rise
        self.asked = 0

    def quote(self, items: Sequence[str]) -> Mapping[str, Mapping[str, object]]:
        """What it knows of items."""
        time.sleep(self.delay)
        if self.answers == "nothing":
            raise OSError("no answer")
        times = (1.0 + self.rise) ** self.asked
        self.asked += 1
        found: dict[str, Mapping[str, object]] = {}
        for item in items:
            known = next((k for k in MADE_UP if item.lower().startswith(k[0])), None)
            if known is not None:
                price: object = round(known[2] * times, 2)
                found[item] = {
                    "unit": known[1],
                    "price": "dear" if self.answers == "nonsense" else price,
                }
        return found
