"""What pushes the walls under a rafter roof apart, and what ties them: IRC 2021 R802.5.2."""

from typing import Final, NamedTuple

from msgspec.structs import replace

from balken.design.leaning import HIGHEST_TIE
from balken.design.lines import Check, Line
from balken.design.service import service_class
from balken.design.terms import Terms
from balken.design.truss_forces import tie_force
from balken.framing import kinds
from balken.framing.member import Member
from balken.framing.structure import Structure
from balken.loads.path import area_loads
from balken.model.names import family_of
from balken.model.roofs import RoofArea


def pushes(m: Member) -> bool:
    """Whether a piece is a rafter that pushes its plate: it stands there, on no header, and
    leans on a ridge."""
    return (
        m.kind is kinds.RAFTER
        and m.id.family == "rafter"
        and family_of(m.carrier.supports[-1].on) == "ridge"
        and family_of(m.carrier.supports[0].on) != "header"
    )


class PlatePush(NamedTuple):
    """What pushes a plate out, N, in which combination and of what duration."""

    force: float
    combination: str
    duration: float


def push_of(terms: Terms, roof: RoofArea, m: Member) -> PlatePush:
    """The horizontal push of a rafter, N, at its plate or where its tie lies, and the
    combination that asks most of wood: that of a pair as wide as twice its span."""
    loads = area_loads(roof, m.carrier.slope)
    wide = m.carrier.area / (m.carrier.carries[1] - m.carrier.carries[0])
    half = m.carrier.supports[-1].at - m.carrier.supports[0].at
    rise = half * m.carrier.slope
    up = min(roof.rafters.tie_up, rise * HIGHEST_TIE) if roof.rafters.ties != "none" else 0.0
    best = PlatePush(0.0, "", 1.0)
    for c in terms.timber.sums(service_class(roof), terms.on_floors).under(loads):
        w = loads.weighed(c.factors) * wide
        force = tie_force(w, 2 * half, rise, up) * _left_at_ridge(m)
        best = max(best, PlatePush(force, c.name, c.duration), key=lambda p: p.force / p.duration)
    return best


def _left_at_ridge(m: Member) -> float:
    """What of the push is left where a purlin carries a rafter between: the end reaction of
    a beam on three supports over that of one on two (three-moment equation)."""
    if len(m.carrier.supports) < 3:
        return 1.0
    first, middle, last = (
        s.at for s in (m.carrier.supports[0], m.carrier.supports[1], m.carrier.supports[-1])
    )
    a, b = middle - first, last - middle
    over = (a**3 + b**3) / (8 * (a + b))
    return max(0.0, b / 2 - over / b) / ((a + b) / 2)


def tie_checks(
    terms: Terms, roof: RoofArea, structure: Structure, tie: Member
) -> tuple[Check, ...]:
    """The check of a tie in tension, under the push of the pairs it holds."""
    rafter = next(
        (m for m in structure.of(kinds.RAFTER) if m.id == replace(tie.id, family="rafter")), None
    )
    section = terms.sections.get(tie.section)
    if rafter is None or section is None or not pushes(rafter):
        return ()
    species, _, grade = tie.material.partition(" ")
    worth = terms.timber.worth(species, grade, section)
    if worth is None or not worth.ft:
        return ()
    force, name, duration = push_of(terms, roof, rafter)
    pairs = _pairs_on(structure, tie)
    rules, (clause, strength) = terms.timber.rules, terms.timber.tension_clauses
    allowed = worth.ft * duration
    area = section.breadth * section.depth
    lines = (
        Line(
            "T",
            force * pairs,
            "force",
            "IRC R802.5.2",
            f"of {pairs:.1f} pairs" if pairs > 1 else "of one pair",
        ),
        Line("A", area, "steel", how="b d"),
        Line(rules.duration_symbol, duration, "factor", rules.duration_clause),
        Line("ft allowed", allowed, "stress", strength),
    )
    return (Check("Tension", force * pairs / area / allowed, name, clause, lines),)


def _pairs_on(structure: Structure, tie: Member) -> float:
    """How many pairs a tie of a roof holds: those of its roof, shared among its ties."""
    ties = sum(m.host == tie.host for m in structure.of(kinds.TIE))
    feet = sum(m.host == tie.host and pushes(m) for m in structure.of(kinds.RAFTER))
    return max(1.0, feet / 2 / max(ties, 1))


def raised_factor(height: float, rise: float) -> float:
    """How far rafters reach whose ties lie over the plate, over what they reach with ties on
    it (IRC 2021 table R802.4.1(1), footnote a, from memory); nothing over a third of the rise.

    Args:
        height: of the tie over the plate, mm.
        rise: of the ridge over the plate, mm.
    """
    share = height / rise
    return next((f for most, f in RAISED if share <= most + 1e-9), 0.0)


RAISED: Final = ((1 / 7.5, 1.0), (1 / 6, 0.90), (1 / 5, 0.83), (1 / 4, 0.76), (1 / 3, 0.67))
"""Height of a tie over the rise, and the factor on the span."""
