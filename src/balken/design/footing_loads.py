"""What all checks in the ground share: the greatest
service and strength loads.

A project in feet and inches goes by ACI 318-19 and the IRC, a metric one by EN 1992-1-1 and by EN
1997-1 with a presumed resistance of the soil.
"""

from typing import Final

from balken.design.concrete import aci_pads, ec2_pads
from balken.design.terms import Terms
from balken.framing.member import Member
from balken.loads.cases import CHARACTERISTIC, COMBINATIONS, Combination
from balken.model.cases import Cases
from balken.model.names import whole
from balken.units import INCH

WIDTH_MODULE: Final = {"us": 2 * INCH, "metric": 50.0}
"""Widths and sides of footings are proposed on this; common practice, no source."""


def wall_over(member: Member) -> str:
    """The key of the wall a piece of a foundation runs under."""
    return whole(member.id.row)


def service_combinations(terms: Terms) -> tuple[Combination, ...]:
    """Combinations that the pressure on soil is held against: allowable stress of ASCE 7-16 2.4.1,
    or the characteristic combination of EN 1990 6.14b."""
    return COMBINATIONS if terms.system == "us" else CHARACTERISTIC


def service(forces: Cases, terms: Terms) -> tuple[float, str]:
    """The greatest force of the service combinations, N, and its name."""
    combos = service_combinations(terms)
    sums = [(forces.weighed(combo.factors), -i) for i, combo in enumerate(combos)]
    most, i = max(sums)
    return most, combos[-i].name


def strength_combinations(terms: Terms) -> tuple[Combination, ...]:
    """The combinations that concrete in the ground is held against."""
    return aci_pads.COMBINATIONS if terms.system == "us" else ec2_pads.COMBINATIONS


def factored(forces: Cases, terms: Terms) -> tuple[float, str]:
    """The greatest force of the strength combinations, N, and its name."""
    combos = strength_combinations(terms)
    return max((forces.weighed(c.factors), c.name) for c in combos)


def soil_clause(terms: Terms) -> str:
    return "IRC R401.4.1" if terms.system == "us" else "EN 1997-1 6.5.2.4"
