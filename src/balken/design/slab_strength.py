"""Solid slabs as floors: the bars they need both ways, shear, and punching round posts.

A slab is held as a strip over the widest way between what carries it, free at both ends, with as many
bars over its carriers as between them: more than it needs wherever it goes on over them.
"""

import math
from collections.abc import Iterator, Sequence
from typing import Any, Final, NamedTuple

import shapely

from balken.design.codes.ground import Column
from balken.design.concrete.bars import bars_along
from balken.design.detailing import lap_lines
from balken.design.floor_slabs import clear_way, reach_past
from balken.design.lines import Check, Line
from balken.design.terms import Terms
from balken.errors import BalkenError
from balken.framing.member import Member
from balken.geometry.plane import Ring, box
from balken.loads.cases import Combination
from balken.loads.path import LoadPath
from balken.model.cases import Cases
from balken.model.names import MemberName, family_of
from balken.units import format_spacing

HALF_BAR: Final = 8.0
"""Half of a bar of 16 mm or #5."""
BOTH_WAYS: Final = 3 * HALF_BAR
"""From the cover to the middle of the second layer, mm."""
NEAR_EDGE: Final = 2.0
"""A post nearer to an edge than this many depths stands at the edge."""


class _Slab(NamedTuple):
    """A slab per mm of width. N, mm."""

    terms: Terms
    member: Member
    area: Cases
    """On it and of it, N/mm²."""
    depth: float
    """Of the second layer of bars."""


def strength_checks(terms: Terms, path: LoadPath, member: Member, area: Cases) -> tuple[Check, ...]:
    """The checks of a slab's concrete and bars; none where it lies on nothing.

    Args:
        terms: of the building.
        path: where loads go.
        member: the slab.
        area: what lies on its floor, N/mm² per case; its own weight comes to it.
    """
    rests = path.rests.get(member.id, ())
    if not rests:
        return ()
    thick = member.solid.depth
    area = area + Cases(thick * terms.site.concrete)
    slab = _Slab(terms, member, area, thick - terms.ground.walls.inside - BOTH_WAYS)
    if slab.depth <= 0:
        lines = (Line("h", thick, "run", how="no room for two layers of bars and their cover"),)
        return (Check("Bending", math.inf, "–", terms.ground.slabs.bending_clause, lines),)
    under = [shapely.Polygon(ring) for _, ring in rests]
    standing = sum((p.forces for p in path.carried.get(member.id, ())), Cases())
    found = list(_spanning(slab, under, standing))
    for name, ring in rests:
        if isinstance(name, MemberName) and family_of(name) == "post":
            found.append(_punched(slab, ring, _handed(path, member, name)))
    return tuple(found)


def _worst(slab: _Slab, loads: Cases) -> tuple[float, Combination]:
    sums = [(loads.weighed(c.factors), c) for c in slab.terms.ground.strength]
    return max(sums, key=lambda s: s[0])


def _spanning(slab: _Slab, under: Sequence[Any], standing: Cases) -> Iterator[Check]:
    """Bending and shear over the widest way, and of the furthest cantilever."""
    span, reach = clear_way(slab.member, under), reach_past(slab.member, under)
    load, combo = _worst(slab, slab.area)
    stands, _ = _worst(slab, standing)
    # What stands on the slab is taken as a line across the middle of the widest way.
    moment = load * span**2 / 8 + stands / 4
    base: tuple[Line, ...] = (
        Line("w", load, "area load", how=f"factored, own weight included, {combo.name}"),
        Line("ℓ", span, "length", how="widest way between carriers"),
    )
    if stands:
        base += (Line("P", stands, "force", how="walls and posts that stand on it"),)
    how = "w ℓ² / 8, per unit of width" + (" + P / 4" if stands else "")
    steel, bending = _bent(
        slab, "Bending", moment, (*base, Line("M", moment, "force", how=how)), combo
    )
    yield bending
    if steel > 0:
        shear = load * span / 2 + (stands / span if span else 0.0)
        yield _sheared(slab, shear, steel, base, combo)
    if reach > 2 * slab.member.solid.depth:
        moment = load * reach**2 / 2
        lines = (
            Line("w", load, "area load", how=f"factored, {combo.name}"),
            Line("ℓ", reach, "length", how="furthest past what carries it"),
            Line("M", moment, "force", how="w ℓ² / 2, per unit of width"),
        )
        yield _bent(slab, "Cantilever, bending", moment, lines, combo)[1]


def _bent(
    slab: _Slab, name: str, moment: float, base: tuple[Line, ...], combo: Combination
) -> tuple[float, Check]:
    """The bars a moment asks for, with how far those chosen are used; and their area per mm."""
    terms, walls, rules = slab.terms, slab.terms.ground.walls, slab.terms.ground.slabs
    fc, fy, thick = terms.site.strength, terms.site.steel, slab.member.solid.depth
    try:
        needed = walls.steel_for(moment, slab.depth, fc, fy)
    except BalkenError as error:
        lines = (*base, Line("h", thick, "run", how=str(error)))
        return 0.0, Check(name, math.inf, combo.name, rules.bending_clause, lines)
    least = rules.least(thick, slab.depth, fc, fy)
    bars = bars_along(max(needed, least), walls.most_apart(thick), terms.system)
    steel = bars.bar.area / bars.spacing
    words = f"{bars.bar.name} at {format_spacing(bars.spacing, terms.system)}, both ways"
    lines = (
        *base,
        Line("d", slab.depth, "run", how="second layer"),
        Line("As", needed, "steel per run", how="needed"),
        Line("As min", least, "steel per run"),
        Line("bars", steel, "steel per run", how=words, bars=bars),
        *lap_lines(terms, bars.bar),
    )
    ratio = max(needed, least) / steel
    return steel, Check(name, ratio, combo.name, rules.bending_clause, lines)


def _sheared(
    slab: _Slab, shear: float, steel: float, base: tuple[Line, ...], combo: Combination
) -> Check:
    walls, rules = slab.terms.ground.walls, slab.terms.ground.slabs
    held = walls.barred_shear(slab.depth, steel, slab.terms.site.strength)
    lines = (
        *base,
        Line("V", shear, "line load", how="w ℓ / 2, at the carrier"),
        Line(walls.shear_symbol, held, "line load", how="no stirrups"),
    )
    return Check("Shear", shear / held, combo.name, rules.shear_clause, lines)


def _handed(path: LoadPath, member: Member, post: MemberName) -> Cases:
    """What a slab hands to a post, with what comes besides when only some spans are loaded."""
    own = [f for source, on, f in path.handed if (source, on) == (member.id, post)]
    return sum(own, Cases()) + path.onto_more.get(post, Cases())


def _punched(slab: _Slab, ring: Ring, forces: Cases) -> Check:
    """Punching round a post; at an edge or a corner where the slab ends near it."""
    rules, site = slab.terms.ground.slabs, slab.terms.site
    x0, y0, x1, y1 = box(ring)
    place, sides = _place(slab, (x0, y0, x1, y1))
    force, combo = _worst(slab, forces)
    least = rules.least(slab.member.solid.depth, slab.depth, site.strength, site.steel)
    held = rules.punching(place, sides, slab.depth, least / slab.depth, site.strength)
    lines = (
        Line("V", force, "force", how=f"onto the post, {combo.name}"),
        Line("c1", sides[0], "run", how=f"{place} column"),
        Line("c2", sides[1], "run"),
        Line("d", slab.depth, "run"),
        Line("held", held, "force", how="no stirrups, least bars"),
    )
    return Check("Punching", force / held, combo.name, rules.punching_clause, lines)


def _place(
    slab: _Slab, post: tuple[float, float, float, float]
) -> tuple[Column, tuple[float, float]]:
    """Where a post stands in a slab, and its sides square to the edge and along it."""
    x0, y0, x1, y1 = post
    wide, deep = x1 - x0, y1 - y0
    near = NEAR_EDGE * slab.depth
    left, low, right, high = shapely.Polygon(slab.member.solid.plan()).bounds
    by_x = min(x0 - left, right - x1) < near
    by_y = min(y0 - low, high - y1) < near
    shape = shapely.Polygon(slab.member.solid.plan())
    to_edge = shape.exterior.distance(shapely.box(*post))
    if by_x and by_y:
        return "corner", (wide, deep)
    if by_x:
        return "edge", (wide, deep)
    if by_y or to_edge < near:
        return "edge", (deep, wide)
    return "interior", (wide, deep)
