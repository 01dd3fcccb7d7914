"""Reinforced pads by EN 1992-1-1 with recommended values: bending, shear at d, punching on every
perimeter. N, mm, N/mm²."""

import math
from typing import Final

from balken.design.codes.eu import ec2_bars
from balken.design.codes.eu.ec2_partial import ALPHA_CC, GAMMA_C, GAMMA_S
from balken.design.concrete.bars import Bar
from balken.errors import BalkenError
from balken.loads.cases import Combination
from balken.loads.codes.eu.combinations import Category, psi_of
from balken.model.cases import Cases
from balken.model.left_open import RECOMMENDED, LeftOpen

COVER: Final = 50.0
"""Cover of bars cast on blinding, 40 mm and a margin for placing (EN 1992-1-1 4.4.1.3(4))."""


def face_moment(load: float, sides: tuple[float, float], column: float) -> float:
    """The design moment at the face of the column over the whole width, N mm (EN 1992-1-1
    9.8.2.2)."""
    along, across = sides
    return load / (along * across) * across * max(0.0, (along - column) / 2) ** 2 / 2


def steel_for(moment: float, width: float, depth: float, fck: float, fyk: float) -> float:
    """The steel a design moment needs, mm²: a rectangular block of 0.8 x at fcd (EN 1992-1-1
    3.1.7(3)).

    Raises:
        BalkenError: the section is too thin for the moment.
    """
    if moment <= 0:
        return 0.0
    fcd, fyd = ALPHA_CC * fck / GAMMA_C, fyk / GAMMA_S
    root = 1 - 2 * moment / (width * depth**2 * fcd)
    if root < 0:
        raise BalkenError("The concrete is too thin for the moment: make it thicker.")
    return width * depth * fcd / fyd * (1 - math.sqrt(root))


def least_steel(width: float, depth: float, fck: float, fyk: float) -> float:
    """Max(0.26 fctm/fyk, 0.0013) b d, mm² (EN 1992-1-1 9.2.1.1(1))."""
    fctm = 0.30 * math.pow(fck, 2 / 3)
    return max(0.26 * fctm / fyk, 0.0013) * width * depth


def shear_strength(depth: float, ratio: float, fck: float) -> float:
    """V_Rd,c without axial force, N/mm² (EN 1992-1-1 6.2.2(1), 6.4.4(1))."""
    k = min(2.0, 1 + math.sqrt(200 / depth))
    least = 0.035 * math.pow(k, 1.5) * math.sqrt(fck)
    return max(0.18 / GAMMA_C * k * math.pow(100 * min(0.02, ratio) * fck, 1 / 3), least)


def one_way(
    load: float, sides: tuple[float, float], column: float, depth: float, steel: float, fck: float
) -> tuple[float, float]:
    """Design shear at d from the column and V_Rd,c, N (EN 1992-1-1 6.2.2)."""
    along, across = sides
    force = load / along * max(0.0, (along - column) / 2 - depth)
    return force, shear_strength(depth, steel / (across * depth), fck) * across * depth


def punching(
    load: float,
    sides: tuple[float, float],
    column: tuple[float, float],
    depth: float,
    ratio: float,
    fck: float,
    off: tuple[float, float] = (0.0, 0.0),
) -> tuple[float, float]:
    """The worst of design and resisting punching stress on perimeters up to 2d from the
    column, N/mm².

    On a perimeter at ``a`` the soil inside it bears its share, and the strength grows by 2d/a (EN
    1992-1-1 6.4.4(2)); at the column's face the strut holds 0.4 ν fcd (6.4.5(3), amended 2014).
    Near an edge or a corner the perimeter runs out to it where that is shorter (6.4.2(4)); ``off``
    is how far the column's middle lies from the pad's, mm.
    """
    out = [
        max(0.0, (s - c) / 2 - abs(o)) for s, c, o in zip(sides, column, off)
    ]  # from the face to the nearer edge
    fcd = ALPHA_CC * fck / GAMMA_C
    face = 2 * (column[0] + column[1])
    worst = (load / (face * depth), 0.4 * 0.6 * (1 - fck / 250) * fcd)
    base = shear_strength(depth, ratio, fck)
    for i in range(1, 41):
        a = 2 * depth * i / 40
        for round_it, inside in _perimeters(column, (out[0], out[1]), a):
            stress = load * max(0.0, 1 - inside / (sides[0] * sides[1])) / (round_it * depth)
            held = base * 2 * depth / a
            if stress / held > worst[0] / worst[1]:
                worst = (stress, held)
    return worst


def _perimeters(
    column: tuple[float, float], out: tuple[float, float], a: float
) -> list[tuple[float, float]]:
    """Length of each perimeter at ``a`` from a column that stays on the pad, and the area inside
    it: all round, out to the edge on one side, out to the corner; mm, mm²."""
    (c, d), (x, y) = column, out
    found = []
    if a <= min(out):
        found.append((2 * (c + d) + 2 * math.pi * a, c * d + 2 * a * (c + d) + math.pi * a**2))
    if a <= y:
        found.append(
            (d + 2 * (c + x) + math.pi * a, (c + x) * (d + 2 * a) + a * d + math.pi * a**2 / 2)
        )
    if a <= x:
        found.append(
            (c + 2 * (d + y) + math.pi * a, (d + y) * (c + 2 * a) + a * c + math.pi * a**2 / 2)
        )
    found.append(
        (
            c + x + d + y + math.pi * a / 2,
            (c + x) * (d + y) + a * (c + x + d + y) + math.pi * a**2 / 4,
        )
    )
    return found


def anchorage(bar: Bar, fc: float, fy: float) -> float:
    """Length a bar needs to hold in good bond, mm: ø fyd / (4 f_bd), f_bd = 2.25 fctd, no less than
    10 ø or 100 mm (EN 1992-1-1 8.4.2, 8.4.3, 8.4.4)."""
    return ec2_bars.anchorage(bar.diameter, fy / GAMMA_S, fc)


def combinations(on_floors: Category = "A", by: LeftOpen = RECOMMENDED) -> tuple[Combination, ...]:
    """EN 1990 expression 6.10, with ψ0 of what floors are used for, of snow and of wind."""
    d, q = by.permanent, by.variable
    live = q * psi_of(on_floors, by).combination
    snow, wind = q * by.psi_snow[0], q * by.psi_wind[0]
    return (
        Combination(f"{d:g}D", Cases(dead=d)),
        Combination(f"{d:g}D + {q:g}L + {snow:g}S", Cases(dead=d, live=q, snow=snow)),
        Combination(f"{d:g}D + {live:g}L + {q:g}S", Cases(dead=d, live=live, snow=q)),
        Combination(f"{d:g}D + {q:g}L", Cases(dead=d, live=q)),
        Combination(f"{d:g}D + {live:g}L + {q:g}Lr", Cases(d, live, q)),
        Combination(f"{d:g}D + {q:g}L + {snow:g}S + {wind:g}W", Cases(d, q, 0.0, snow, wind)),
        Combination(f"{d:g}D + {live:g}L + {q:g}S + {wind:g}W", Cases(d, live, 0.0, q, wind)),
        Combination(f"{d:g}D + {live:g}L + {snow:g}S + {q:g}W", Cases(d, live, 0.0, snow, q)),
    )


COMBINATIONS: Final = combinations()
"""With floors of category A."""
