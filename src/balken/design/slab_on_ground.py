"""Slabs on the ground under walls and posts that stand on them: plain concrete on an elastic bed.

A load at one place by Westergaard's formulas for the inside, an edge and a corner (H. M. Westergaard,
1926 and 1948, from memory); a wall as a line on a strip without end (M. Hetényi, 1946). The bed is as stiff
as its presumed bearing says: it settles 25 mm under three times that (J. E. Bowles, Foundation Analysis
and Design, from memory). Bars against shrinkage are not counted.
"""

import math
from collections.abc import Iterable, Iterator
from typing import Final, Literal, NamedTuple

import shapely

from balken.design.codes.ground import OnGround
from balken.design.lines import Check, Line
from balken.design.strip_loads import stands_alone
from balken.design.terms import Terms
from balken.framing.member import Member
from balken.loads.cases import Combination
from balken.loads.parcels import Parcel
from balken.model.cases import Cases, total
from balken.model.names import Rest
from balken.units import INCH

STIFF: Final = 120.0 / 1000.0
"""k over the presumed bearing, per mm: 120 a metre (Bowles, table 9-1, from memory)."""
POISSON: Final = 0.15
SMALL: Final = 3.5 * INCH
"""The side of a post whose foot is not known, mm."""
Where = Literal["inside", "at an edge", "at a corner"]


class Bed(NamedTuple):
    """A slab and what it lies on. N, mm."""

    thick: float
    elastic: float
    k: float
    """N/mm² a mm."""

    @property
    def stiffness(self) -> float:
        """D, N mm."""
        return self.elastic * self.thick**3 / (12 * (1 - POISSON**2))

    @property
    def radius(self) -> float:
        """ℓ, of relative stiffness, mm."""
        return math.pow(self.stiffness / self.k, 0.25)


def stress_under(force: float, radius: float, bed: Bed, where: Where) -> float:
    """The greatest tension in a slab under a force on a round place, N/mm² (Westergaard).

    Args:
        force: N.
        radius: of the place it stands on, mm.
        bed: the slab on its ground.
        where: in the slab.
    """
    h, stiff = bed.thick, bed.radius
    if where == "at a corner":
        return 3 * force / h**2 * (1 - math.pow(radius * math.sqrt(2) / stiff, 0.6))
    # A small place presses as one no smaller: the slab is thick beside it.
    small = radius < 1.724 * h
    b = math.sqrt(1.6 * radius**2 + h**2) - 0.675 * h if small else radius
    inside = 0.316 * (4 * math.log10(stiff / b) + 1.069)
    edge = 0.572 * (4 * math.log10(stiff / b) + 0.359)
    return (inside if where == "inside" else edge) * force / h**2


def pressure_under(force: float, bed: Bed, where: Where) -> float:
    """The greatest pressure on the ground, N/mm²: k times the sag under the force (Westergaard: P / 8 k
    ℓ² inside; about 0.43 P / k ℓ² at an edge and 1.1 P / k ℓ² at a corner)."""
    share = {"inside": 1 / 8, "at an edge": 0.43, "at a corner": 1.1}[where]
    return share * force / bed.radius**2


def under_a_line(line: float, bed: Bed) -> tuple[float, float]:
    """Moment, N mm per mm, and pressure, N/mm², under a line load, N/mm, on a strip without end: w / 4λ
    and w λ / 2 (Hetényi)."""
    rate = math.pow(bed.k / (4 * bed.stiffness), 0.25)
    return line / (4 * rate), line * rate / 2


def slab_on_ground_checks(
    terms: Terms, member: Member, parcels: Iterable[Parcel], members: dict[Rest, Member]
) -> tuple[Check, ...]:
    """The checks of a slab on the ground under what stands on it; none where nothing does.

    Args:
        terms: of the building.
        member: the slab.
        parcels: what comes down on it.
        members: what brings it, by name.
    """
    rules, site = terms.ground.on_ground, terms.site
    bed = Bed(member.solid.depth, rules.elastic(site.strength), STIFF * site.soil_bearing)
    mine = [p for p in parcels if p.source != member.id]
    alone = [p for p in mine if stands_alone(p)]
    rows = [p for p in mine if not stands_alone(p) and p.wide > 0]
    found: list[Check] = []
    for p in alone:
        found += _under_post(terms, rules, bed, member, p, members.get(p.source))
    if rows:
        found += _under_wall(terms, rules, bed, max(rows, key=_line_of))
    # What stands on no length that is known is held as one place, all of it together.
    loose = [p for p in mine if not stands_alone(p) and p.wide <= 0]
    if loose:
        whole = Parcel(loose[0].x, loose[0].y, total([p.most for p in loose]), loose[0].source)
        found += _under_post(terms, rules, bed, member, whole, None)
    return tuple(_worst_of_each(found))


def _line_of(p: Parcel) -> float:
    return sum(p.most.down) / p.wide


def _worst_of_each(found: Iterable[Check]) -> Iterator[Check]:
    worst: dict[str, Check] = {}
    for c in found:
        if c.name not in worst or c.ratio > worst[c.name].ratio:
            worst[c.name] = c
    yield from worst.values()


def _sum(sums: tuple[Combination, ...], forces: Cases) -> tuple[float, str]:
    return max((forces.weighed(c.factors), c.name) for c in sums)


def _under_post(
    terms: Terms, rules: OnGround, bed: Bed, slab: Member, p: Parcel, post: Member | None
) -> Iterator[Check]:
    sides = _sides(post)
    radius = math.sqrt(sides[0] * sides[1] / math.pi)
    where = _where(slab, (p.x, p.y), bed.radius)
    force, combo = _sum(terms.ground.strength, p.most)
    stress, held = stress_under(force, radius, bed, where), rules.flexure(terms.site.strength)
    base: tuple[Line, ...] = (
        Line("P", force, "force", how=f"{where}, {combo}"),
        Line("h", bed.thick, "run"),
        Line("a", radius, "run", how="a round foot as large"),
        Line("ℓ", bed.radius, "length", "Westergaard", "(D / k)^¼"),
    )
    lines: tuple[Line, ...] = (
        *base,
        Line("σ", stress, "stress", "Westergaard"),
        Line("held", held, "stress"),
    )
    yield Check("Bending under a post", stress / held, combo, rules.flexure_clause, lines)
    ratio = rules.punching(force, sides, bed.thick, terms.site.strength)
    yield Check("Punching", ratio, combo, rules.punching_clause, base)
    down, name = _sum(terms.ground.service, p.most)
    pressure, bears = pressure_under(down, bed, where), terms.site.soil_bearing
    lines = (
        Line("P", down, "force", how=f"{where}, {name}"),
        Line("q", pressure, "area load", "Westergaard", "under the foot"),
        Line("qa", bears, "area load", terms.ground.soil),
    )
    yield Check("Soil pressure", pressure / bears, name, terms.ground.soil, lines)


def _under_wall(terms: Terms, rules: OnGround, bed: Bed, p: Parcel) -> Iterator[Check]:
    force, combo = _sum(terms.ground.strength, p.most)
    moment, _ = under_a_line(force / p.wide, bed)
    stress, held = 6 * moment / bed.thick**2, rules.flexure(terms.site.strength)
    lines: tuple[Line, ...] = (
        Line("w", force / p.wide, "line load", how=combo),
        Line("h", bed.thick, "run"),
        Line("M", moment, "force", "Hetényi", "w / 4λ, per unit of length"),
        Line("σ", stress, "stress", how="6 M / h²"),
        Line("held", held, "stress"),
    )
    yield Check("Bending under a wall", stress / held, combo, rules.flexure_clause, lines)
    down, name = _sum(terms.ground.service, p.most)
    _, pressure = under_a_line(down / p.wide, bed)
    bears = terms.site.soil_bearing
    lines = (
        Line("w", down / p.wide, "line load", how=name),
        Line("q", pressure, "area load", "Hetényi", "w λ / 2"),
        Line("qa", bears, "area load", terms.ground.soil),
    )
    yield Check("Soil pressure", pressure / bears, name, terms.ground.soil, lines)


def _sides(post: Member | None) -> tuple[float, float]:
    """The sides of a post's foot, mm."""
    if post is None:
        return SMALL, SMALL
    xs, ys = zip(*post.solid.plan())
    return max(max(xs) - min(xs), 1.0), max(max(ys) - min(ys), 1.0)


def _where(slab: Member, at: tuple[float, float], near: float) -> Where:
    """Whether a place lies nearer to the slab's edge than its radius of stiffness, or to two edges that
    meet."""
    outline = shapely.Polygon(slab.solid.plan())
    spot = shapely.Point(at)
    if outline.exterior.distance(spot) >= near:
        return "inside"
    corners = shapely.MultiPoint(list(outline.exterior.coords))
    return "at a corner" if corners.distance(spot) < near else "at an edge"
