"""Reference design values of sawn lumber: NDS Supplement 2018, tables 4A, 4B and 4D, from memory.

Cells are psi as published (E and Emin in 10⁶ psi), so that a page can be held beside them.
"""

from typing import Final

import msgspec

from balken.errors import BalkenError
from balken.units import PSI


class NoValueError(BalkenError):
    """A species, grade and size for which the tables hold nothing."""


class Reference(msgspec.Struct, frozen=True):
    """Reference design values, N/mm²."""

    fb: float
    ft: float
    fv: float
    fc_perp: float
    fc: float
    e: float
    e_min: float
    table: str


# Table 4A, dimension lumber 2 to 4 in thick: (Fv, Fc perp) then per grade Fb, Ft, Fc, E, Emin.
_4A: Final[dict[str, tuple[tuple[int, int], dict[str, tuple[float, ...]]]]] = {
    "DF-L": (
        (180, 625),
        {
            "SS": (1500, 1000, 1700, 1.9, 0.69),
            "No.1&Btr": (1200, 800, 1550, 1.8, 0.66),
            "No.1": (1000, 675, 1500, 1.7, 0.62),
            "No.2": (900, 575, 1350, 1.6, 0.58),
            "No.3": (525, 325, 775, 1.4, 0.51),
            "Stud": (700, 450, 850, 1.4, 0.51),
            "Construction": (1000, 650, 1650, 1.5, 0.55),
            "Standard": (575, 375, 1400, 1.4, 0.51),
            "Utility": (275, 175, 900, 1.3, 0.47),
        },
    ),
    "HF": (
        (150, 405),
        {
            "SS": (1400, 925, 1500, 1.6, 0.58),
            "No.1&Btr": (1100, 725, 1350, 1.5, 0.55),
            "No.1": (975, 625, 1350, 1.5, 0.55),
            "No.2": (850, 525, 1300, 1.3, 0.47),
            "No.3": (500, 300, 725, 1.2, 0.44),
            "Stud": (675, 400, 800, 1.2, 0.44),
            "Construction": (975, 600, 1550, 1.3, 0.47),
            "Standard": (550, 325, 1300, 1.2, 0.44),
            "Utility": (250, 150, 850, 1.1, 0.40),
        },
    ),
    "SPF": (
        (135, 425),
        {
            "SS": (1250, 700, 1400, 1.5, 0.55),
            "No.1": (875, 450, 1150, 1.4, 0.51),
            "No.2": (875, 450, 1150, 1.4, 0.51),
            "No.3": (500, 250, 650, 1.2, 0.44),
            "Stud": (675, 350, 725, 1.2, 0.44),
            "Construction": (1000, 500, 1400, 1.3, 0.47),
            "Standard": (550, 275, 1150, 1.2, 0.44),
            "Utility": (275, 125, 750, 1.1, 0.40),
        },
    ),
    "DF-L(N)": (
        (180, 625),
        {
            "SS": (1350, 825, 1900, 1.9, 0.69),
            "No.1&Btr": (1150, 750, 1800, 1.8, 0.66),
            "No.1": (850, 500, 1400, 1.6, 0.58),
            "No.2": (850, 500, 1400, 1.6, 0.58),
            "No.3": (475, 300, 825, 1.4, 0.51),
        },
    ),
    "SPF-S": (
        (135, 335),
        {
            "SS": (1300, 575, 1200, 1.3, 0.47),
            "No.1": (875, 400, 1050, 1.2, 0.44),
            "No.2": (775, 350, 1000, 1.1, 0.40),
            "No.3": (450, 200, 575, 1.0, 0.37),
        },
    ),
}

# Table 4B, Southern Pine: Fb, Ft, Fc by nominal width, the size factor already inside; then E, Emin
# by grade.
_4B: Final[dict[str, dict[int, tuple[int, int, int]]]] = {
    "SS": {
        4: (2350, 1650, 1900),
        6: (2100, 1450, 1800),
        8: (1950, 1350, 1700),
        10: (1700, 1150, 1650),
        12: (1600, 1100, 1650),
    },
    "No.1": {
        4: (1500, 1000, 1650),
        6: (1350, 875, 1550),
        8: (1250, 800, 1500),
        10: (1050, 700, 1450),
        12: (1000, 650, 1400),
    },
    "No.2": {
        4: (1100, 675, 1450),
        6: (1000, 600, 1400),
        8: (925, 550, 1350),
        10: (800, 475, 1300),
        12: (750, 450, 1250),
    },
    "No.3": {
        4: (650, 400, 850),
        6: (575, 350, 800),
        8: (525, 325, 775),
        10: (475, 275, 750),
        12: (450, 250, 725),
    },
}
_4B_E: Final = {"SS": (1.8, 0.66), "No.1": (1.6, 0.58), "No.2": (1.4, 0.51), "No.3": (1.3, 0.47)}
_4B_SHEAR: Final = (175, 565)

# Table 4D, timbers 5 by 5 in and larger: (Fv, Fc⊥), beams and stringers, posts and timbers: Fb, Ft,
# Fc, E, Emin.
_Timber = dict[str, tuple[float, ...]]
_4D: Final[dict[str, tuple[tuple[int, int], _Timber, _Timber]]] = {
    "DF-L": (
        (170, 625),
        {
            "SS": (1600, 950, 1100, 1.6, 0.58),
            "No.1": (1350, 675, 925, 1.6, 0.58),
            "No.2": (875, 425, 600, 1.3, 0.47),
        },
        {
            "SS": (1500, 1000, 1150, 1.6, 0.58),
            "No.1": (1200, 825, 1000, 1.6, 0.58),
            "No.2": (750, 475, 700, 1.3, 0.47),
        },
    ),
    "HF": (
        (140, 405),
        {
            "SS": (1300, 750, 925, 1.3, 0.47),
            "No.1": (1050, 525, 750, 1.3, 0.47),
            "No.2": (675, 350, 500, 1.1, 0.40),
        },
        {
            "SS": (1200, 800, 975, 1.3, 0.47),
            "No.1": (975, 650, 850, 1.3, 0.47),
            "No.2": (575, 375, 575, 1.1, 0.40),
        },
    ),
    "SPF": (
        (125, 425),
        {
            "SS": (1100, 650, 775, 1.3, 0.47),
            "No.1": (900, 450, 625, 1.3, 0.47),
            "No.2": (600, 300, 425, 1.0, 0.37),
        },
        {
            "SS": (1050, 700, 800, 1.3, 0.47),
            "No.1": (850, 550, 700, 1.3, 0.47),
            "No.2": (500, 325, 500, 1.0, 0.37),
        },
    ),
    "SP": (
        (165, 375),
        {
            "SS": (1500, 1000, 950, 1.5, 0.55),
            "No.1": (1350, 900, 825, 1.5, 0.55),
            "No.2": (850, 550, 525, 1.2, 0.44),
        },
        {
            "SS": (1500, 1000, 950, 1.5, 0.55),
            "No.1": (1350, 900, 825, 1.5, 0.55),
            "No.2": (850, 550, 525, 1.2, 0.44),
        },
    ),
}

NARROW_ONLY: Final = ("Construction", "Standard", "Utility")
"""Grades whose values hold for 2 to 4 in widths only (table 4A, heading)."""


def is_timber(nominal: tuple[int, int]) -> bool:
    """Timbers (5 in and more both ways) from dimension lumber."""
    return min(nominal) >= 5


def is_wide_stud(grade: str, nominal: tuple[int, int]) -> bool:
    """Stud grade 8 in and wider, which takes the values and size factors of No.3 (table 4A,
    adjustment factors)."""
    return grade == "Stud" and nominal[1] >= 8


def is_post(nominal: tuple[int, int]) -> bool:
    """Posts and timbers from beams and stringers: width at most 2 in more than thickness
    (table 4D)."""
    return nominal[1] - nominal[0] <= 2


def reference(species: str, grade: str, nominal: tuple[int, int]) -> Reference:
    """The reference design values of a piece.

    Raises:
        NoValueError: the tables hold nothing for it.
    """
    if is_timber(nominal):
        found = _of_timber(species, grade, nominal)
    elif species == "SP":
        found = _of_southern_pine(grade, nominal)
    else:
        found = _of_lumber(species, grade, nominal)
    if found is None:
        raise NoValueError(
            f"there are no design values for {species} {grade} in {nominal[0]}x{nominal[1]}"
        )
    return found


def _of_timber(species: str, grade: str, nominal: tuple[int, int]) -> Reference | None:
    """5x5 and larger: beams and stringers, or posts and timbers."""
    if species not in _4D:
        return None
    shear, beams, posts = _4D[species]
    row = (posts if is_post(nominal) else beams).get(grade)
    return _psi(row[0], row[1], *shear, *row[2:], table="NDS Supp. 4D") if row else None


def _of_southern_pine(grade: str, nominal: tuple[int, int]) -> Reference | None:
    widths = _4B.get(grade)
    if widths is None:
        return None
    fb, ft, fc = widths[min((w for w in widths if w >= nominal[1]), default=12)]
    return _psi(fb, ft, *_4B_SHEAR, fc, *_4B_E[grade], table="NDS Supp. 4B")


def _of_lumber(species: str, grade: str, nominal: tuple[int, int]) -> Reference | None:
    """Dimension lumber 2 to 4 in thick."""
    if species not in _4A or (grade in NARROW_ONLY and nominal[1] > 4):
        return None
    shear, rows = _4A[species]
    if grade not in rows:
        return None
    row = rows["No.3" if is_wide_stud(grade, nominal) else grade]
    return _psi(row[0], row[1], *shear, *row[2:], table="NDS Supp. 4A")


def _psi(
    fb: float,
    ft: float,
    fv: float,
    fc_perp: float,
    fc: float,
    e: float,
    e_min: float,
    *,
    table: str,
) -> Reference:
    mega = 1e6 * PSI
    return Reference(
        fb * PSI, ft * PSI, fv * PSI, fc_perp * PSI, fc * PSI, e * mega, e_min * mega, table
    )
