"""What all checks in the ground share: the greatest service and strength loads."""

from collections.abc import Sequence
from typing import Final

from balken.design.terms import Terms
from balken.framing.member import Member
from balken.loads.cases import Combination
from balken.model.cases import Cases
from balken.model.names import whole
from balken.units import INCH

LEAST_THICKNESS: Final = {"us": 10 * INCH, "metric": 250.0}
"""Of a pad that is proposed, mm; common practice, no source."""
WIDTH_MODULE: Final = {"us": 2 * INCH, "metric": 50.0}
"""Widths and sides of footings are proposed on this; common practice, no source."""


def wall_over(member: Member) -> str:
    """The key of the wall a piece of a foundation runs under."""
    return whole(member.id.row)


def greatest(forces: Cases, combinations: Sequence[Combination]) -> tuple[float, str]:
    """The greatest force of some combinations, N, and the name of the first that gives it."""
    sums = [(forces.weighed(combo.factors), -i) for i, combo in enumerate(combinations)]
    most, i = max(sums)
    return most, combinations[-i].name


def service(forces: Cases, terms: Terms) -> tuple[float, str]:
    """The greatest force of the service combinations, N, and its name."""
    return greatest(forces, terms.ground.service)


def factored(forces: Cases, terms: Terms) -> tuple[float, str]:
    """The greatest force of the strength combinations, N, and its name."""
    return max((forces.weighed(c.factors), c.name) for c in terms.ground.strength)
