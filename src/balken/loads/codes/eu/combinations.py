"""Combinations of actions by EN 1990:2002 with amendment 1: 6.4.3 and 6.5.3, ψ of table A1.1."""

from collections.abc import Sequence
from typing import Final, Literal, NamedTuple

import msgspec

from balken.loads.cases import Combination
from balken.model.cases import Cases
from balken.model.left_open import RECOMMENDED as RECOMMENDED_VALUES
from balken.model.left_open import LeftOpen

Category = Literal[
    "A", "B", "C", "D", "E", "F", "G", "H", "snow<=1000m", "snow>1000m", "wind", "temperature"
]


class Psi(NamedTuple):
    """How much of a variable action counts beside another, often, and nearly always."""

    combination: float
    frequent: float
    quasi_permanent: float


PSI: Final[dict[Category, Psi]] = {
    "A": Psi(0.7, 0.5, 0.3),
    "B": Psi(0.7, 0.5, 0.3),
    "C": Psi(0.7, 0.7, 0.6),
    "D": Psi(0.7, 0.7, 0.6),
    "E": Psi(1.0, 0.9, 0.8),
    "F": Psi(0.7, 0.7, 0.6),
    "G": Psi(0.7, 0.5, 0.3),
    "H": Psi(0.0, 0.0, 0.0),
    "snow<=1000m": Psi(0.5, 0.2, 0.0),
    "snow>1000m": Psi(0.7, 0.5, 0.2),
    "wind": Psi(0.6, 0.2, 0.0),
    "temperature": Psi(0.6, 0.5, 0.0),
}
"""EN 1990 table A1.1, recommended values."""


def psi_of(category: Category, by: LeftOpen) -> Psi:
    """ψ of an action, as typed for the country or recommended."""
    if category == "snow<=1000m":
        return Psi(*by.psi_snow)
    if category == "wind":
        return Psi(*by.psi_wind)
    if category != "H" and by.psi_floors is not None:
        return Psi(*by.psi_floors)
    return PSI[category]


class Partial(msgspec.Struct, frozen=True, gc=False):
    """Partial factors of actions (EN 1990 table A1.2(B), recommended values)."""

    permanent: float = 1.35
    favourable: float = 1.0
    variable: float = 1.5
    reduction: float = 0.85
    """ξ of (6.10b)."""


RECOMMENDED: Final = Partial()


class Action(NamedTuple):
    """A variable action, N or N/mm or N/mm²."""

    amount: float
    category: Category


def _leading_sums(
    actions: Sequence[Action], leads: float, beside: float, which: int
) -> list[float]:
    """What the variable actions come to, each leading in turn."""
    found = []
    for i, action in enumerate(actions):
        others = sum(
            beside * PSI[o.category][which] * o.amount for j, o in enumerate(actions) if j != i
        )
        found.append(leads * action.amount + others)
    return found or [0.0]


def design_effect(
    permanent: float, actions: Sequence[Action], partial: Partial = RECOMMENDED
) -> float:
    """The worst of (6.10), all actions unfavourable."""
    worst = max(0.0, *_leading_sums(actions, partial.variable, partial.variable, 0), 0.0)
    return partial.permanent * permanent + worst


def design_effect_ab(
    permanent: float, actions: Sequence[Action], partial: Partial = RECOMMENDED
) -> float:
    """The worse of (6.10a) and (6.10b), all actions unfavourable."""
    accompanied = sum(partial.variable * PSI[a.category].combination * a.amount for a in actions)
    leading = max(_leading_sums(actions, partial.variable, partial.variable, 0))
    return max(
        partial.permanent * permanent + accompanied,
        partial.reduction * partial.permanent * permanent + leading,
    )


def characteristic(permanent: float, actions: Sequence[Action]) -> float:
    """The worst of (6.14b)."""
    return permanent + max(_leading_sums(actions, 1.0, 1.0, 0))


def frequent(permanent: float, actions: Sequence[Action]) -> float:
    """The worst of (6.15b)."""
    found = []
    for i, action in enumerate(actions):
        others = sum(
            PSI[o.category].quasi_permanent * o.amount for j, o in enumerate(actions) if j != i
        )
        found.append(PSI[action.category].frequent * action.amount + others)
    return permanent + max(found, default=0.0)


def quasi_permanent(permanent: float, actions: Sequence[Action]) -> float:
    """(6.16b)."""
    return permanent + sum(PSI[a.category].quasi_permanent * a.amount for a in actions)


def in_service(
    on_floors: Category = "A", by: LeftOpen = RECOMMENDED_VALUES
) -> tuple[Combination, ...]:
    """(6.14b) with floors of a category, snow below 1,000 m, and live load on roofs of category H. For
    soil."""
    beside, snow = psi_of(on_floors, by).combination, by.psi_snow[0]
    wind = by.psi_wind[0]
    live = "L" if beside == 1.0 else f"{beside:g}L"
    return (
        Combination("G", Cases(dead=1.0)),
        Combination("G + L", Cases(dead=1.0, live=1.0)),
        Combination("G + H", Cases(dead=1.0, roof_live=1.0)),
        Combination("G + S", Cases(dead=1.0, snow=1.0)),
        Combination(f"G + L + {snow:g}S", Cases(dead=1.0, live=1.0, snow=snow)),
        Combination(f"G + {live} + S", Cases(dead=1.0, live=beside, snow=1.0)),
        Combination(f"G + {live} + H", Cases(dead=1.0, live=beside, roof_live=1.0)),
        Combination(f"G + L + {snow:g}S + {wind:g}W", Cases(1.0, 1.0, 0.0, snow, wind)),
        Combination(f"G + {live} + S + {wind:g}W", Cases(1.0, beside, 0.0, 1.0, wind)),
        Combination(f"G + {live} + {snow:g}S + W", Cases(1.0, beside, 0.0, snow, 1.0)),
    )


CHARACTERISTIC: Final = in_service()
"""With floors of category A."""


class Lasting(NamedTuple):
    """A variable action, and what it leaves of the strength of wood: kmod of its duration."""

    action: Action
    kmod: float


def worst_over_kmod(
    permanent: float,
    permanent_kmod: float,
    actions: Sequence[Lasting],
    partial: Partial = RECOMMENDED,
) -> float:
    """The greatest (6.10) effect over kmod, of every set of the variable actions that may be there;
    kmod of the shortest in it (EN 1995-1-1 3.1.3(2))."""
    found = [partial.permanent * permanent / permanent_kmod]
    for mask in range(1, 1 << len(actions)):
        there = [a for i, a in enumerate(actions) if mask >> i & 1]
        effect = design_effect(permanent, [a.action for a in there], partial)
        found.append(effect / max(permanent_kmod, *(a.kmod for a in there)))
    return max(found)
