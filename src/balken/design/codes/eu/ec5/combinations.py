"""Combinations for timber: (6.10) of EN 1990 for strength, each with kmod of the shortest load in it,
and beside each what sags at once and with creep (EN 1995-1-1 2.2.3, 3.1.3)."""

from functools import cache
from typing import Final

from balken.design.codes.eu.ec5.factors import Duration, kdef, kmod
from balken.loads.cases import Combination, Sums
from balken.loads.codes.eu.combinations import Category, psi_of
from balken.model.cases import Cases
from balken.model.left_open import RECOMMENDED, LeftOpen
from balken.model.record import ServiceClass

STORAGE: Final = "E"


def _category(case: str, on_floors: Category) -> Category:
    """Of EN 1990 table A1.1."""
    return {"live": on_floors, "roof_live": "H", "snow": "snow<=1000m", "wind": "wind"}[case]


def _lasts(case: str, on_floors: Category) -> Duration:
    """How long a load stays (EN 1995-1-1 table 2.2); maintenance of roofs is short (common
    practice)."""
    if case == "wind":
        return "instantaneous"
    if case != "live":
        return "short"
    return "long" if on_floors == STORAGE else "medium"


LETTERS: Final = {"live": "L", "roof_live": "H", "snow": "S", "wind": "W"}
SETS: Final = (
    (),
    ("live",),
    ("roof_live",),
    ("snow",),
    ("live", "snow"),
    ("snow", "live"),
    ("roof_live", "live"),
    ("wind",),
    ("snow", "wind"),
    ("wind", "snow"),
    ("live", "snow", "wind"),
    ("snow", "live", "wind"),
    ("wind", "live", "snow"),
)
"""What stands beside the permanent load, the leading one first; a live load on a roof has nothing
beside another (ψ0 of H is 0)."""


@cache
def sums(service: ServiceClass, on_floors: Category = "A", by: LeftOpen = RECOMMENDED) -> Sums:
    """The combinations of what comes down, in a service class, where floors are used by a
    category."""
    return _sums(service, on_floors, kdef(service), by)


@cache
def elastic(on_floors: Category = "A", by: LeftOpen = RECOMMENDED) -> Sums:
    """Those of what comes down on what does not creep."""
    return _sums(1, on_floors, 0.0, by)


def _sums(service: ServiceClass, on_floors: Category, creep: float, by: LeftOpen) -> Sums:
    found = [_sum(there, service, on_floors, creep, by.permanent, by) for there in SETS]
    found += [
        _sum(there, service, on_floors, creep, by.holding, by) for there in (("live",), ("snow",))
    ]
    return Sums(tuple(found))


def _sum(
    there: tuple[str, ...],
    service: ServiceClass,
    on_floors: Category,
    creep: float,
    permanent: float,
    by: LeftOpen,
) -> Combination:
    strong = {"dead": permanent}
    at_once, with_creep = {"dead": 1.0}, {"dead": 1.0 + creep}
    for case in there:
        psi, leads = psi_of(_category(case, on_floors), by), case == there[0]
        counts = 1.0 if leads else psi.combination
        strong[case] = by.variable * counts
        at_once[case] = counts
        with_creep[case] = counts + psi.quasi_permanent * creep
    name = " + ".join(
        [f"{permanent:g}G", *(f"{strong[case]:.4g}{LETTERS[case]}" for case in there)]
    )
    lasts = max((kmod(service, _lasts(case, on_floors), by) for case in there), default=0.0)
    duration = max(kmod(service, "permanent", by), lasts)
    return Combination(name, Cases(**strong), duration, (Cases(**at_once), Cases(**with_creep)))
