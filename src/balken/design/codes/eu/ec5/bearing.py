"""Compression across the grain by EN 1995-1-1 6.1.5 as amended (A1). Lengths mm, N/mm²."""

from typing import Final, Literal

from balken.design.codes.eu.ec5.values import Material

Support = Literal["continuous", "discrete"]
"""What the member lies on: all along (a sill), or in places (a joist, a beam)."""
GROWTH: Final = 30.0
"""How far beyond the contact the wood helps at most, mm."""
LONGEST_GLULAM: Final = 400.0
"""Glulam on places: kc,90 holds for contacts up to this, mm."""
_KC90: Final[dict[tuple[Material, Support], float]] = {
    ("solid timber", "continuous"): 1.25,
    ("solid timber", "discrete"): 1.5,
    ("glulam", "continuous"): 1.5,
    ("glulam", "discrete"): 1.75,
}


def contact_length(contact: float, beyond: tuple[float, float], to_next: float) -> float:
    """Effective contact along the grain, mm (EN 1995-1-1 6.1.5(1)).

    Args:
        contact: ℓ, mm.
        beyond: how far the wood goes on at both sides, mm.
        to_next: ℓ1, clear to the next load, mm.
    """
    return contact + sum(min(GROWTH, a, contact, to_next / 2) for a in beyond)


def kc90(
    material: Material, support: Support, depth: float, contact: float, to_next: float
) -> float:
    """kc,90: more than 1 only of softwood whose next load is two depths off or more (EN 1995-1-1
    6.1.5(3), (4)).

    Args:
        material: solid softwood or glulam of it.
        support: what it lies on.
        depth: h of the member, mm.
        contact: ℓ, mm.
        to_next: ℓ1, clear to the next load, mm.
    """
    if to_next < 2 * depth or material == "lvl":
        return 1.0
    if material == "glulam" and support == "discrete" and contact > LONGEST_GLULAM:
        return 1.0
    return _KC90[material, support]
