"""How far headers over openings in outside walls reach by the table of the IRC (2015 R602.7(1), which took
it over from R502.5(1) of 2009). From memory; beside the calculation, never in place of it.

Where the printed spans of one column come from bending, they stand to one another as the roots of S and C_F
of their sections do, and those of one row as the roots of their loads: the tests hold what is written here
against that.
"""

from typing import Final, Literal, NamedTuple

from balken.errors import BalkenError
from balken.units import FOOT, INCH, PSF

Borne = Literal[
    "a roof",
    "a roof and a floor that bears in its middle",
    "a roof and a floor of one span",
    "a roof and two floors that bear in their middle",
    "a roof and two floors of one span",
]
"""What comes down on a header; a ceiling is part of its roof."""
WIDTHS: Final = (20.0, 28.0, 36.0)
"""Of the building across its ridge, ft."""
SNOWS: Final = (30.0, 50.0)
"""On the ground, psf; the table's column of 70 psf is not held."""
WOODS: Final = frozenset(["DF-L", "HF", "SPF"])
"""No. 2 of these; of Southern Pine the table asks for No. 1, since 2015."""
GRADES: Final = frozenset(["SS", "No.1", "No.2"])

_Column = dict[str, str]
"""By section: the span in ft-in and how many jacks stand under each end, at the three widths."""
SPANS: Final[dict[Borne, tuple[_Column, ...]]] = {
    "a roof": (
        {
            "2-2x4": "3-6 1, 3-2 1, 2-10 1",
            "2-2x6": "5-5 1, 4-8 1, 4-2 1",
            "2-2x8": "6-10 1, 5-11 2, 5-4 2",
            "2-2x10": "8-5 2, 7-3 2, 6-6 2",
            "2-2x12": "9-9 2, 8-5 2, 7-6 2",
            "3-2x8": "8-4 1, 7-5 1, 6-8 1",
            "3-2x10": "10-6 1, 9-1 2, 8-2 2",
            "3-2x12": "12-2 2, 10-7 2, 9-5 2",
            "4-2x8": "9-2 1, 8-4 1, 7-8 1",
            "4-2x10": "11-8 1, 10-6 1, 9-5 2",
            "4-2x12": "14-1 1, 12-2 2, 10-11 2",
        },
        {
            "2-2x4": "3-2 1, 2-9 1, 2-6 1",
            "2-2x6": "4-8 1, 4-1 1, 3-8 2",
            "2-2x8": "5-11 2, 5-2 2, 4-7 2",
            "2-2x10": "7-3 2, 6-3 2, 5-7 2",
            "2-2x12": "8-5 2, 7-3 2, 6-6 2",
            "3-2x8": "7-5 1, 6-5 2, 5-9 2",
            "3-2x10": "9-1 2, 7-10 2, 7-0 2",
            "3-2x12": "10-7 2, 9-2 2, 8-2 2",
            "4-2x8": "8-4 1, 7-5 1, 6-8 1",
            "4-2x10": "10-6 1, 9-1 2, 8-2 2",
            "4-2x12": "12-2 2, 10-7 2, 9-5 2",
        },
    ),
    "a roof and a floor that bears in its middle": (
        {
            "2-2x4": "3-1 1, 2-9 1, 2-5 1",
            "2-2x6": "4-6 1, 4-0 1, 3-7 2",
            "2-2x8": "5-9 2, 5-0 2, 4-6 2",
            "2-2x10": "7-0 2, 6-2 2, 5-6 2",
            "2-2x12": "8-1 2, 7-1 2, 6-5 2",
            "3-2x8": "7-2 1, 6-3 2, 5-8 2",
            "3-2x10": "8-9 2, 7-8 2, 6-11 2",
            "3-2x12": "10-2 2, 8-11 2, 8-0 2",
            "4-2x8": "8-1 1, 7-3 1, 6-7 1",
            "4-2x10": "10-1 1, 8-10 2, 8-0 2",
            "4-2x12": "11-9 2, 10-3 2, 9-3 2",
        },
        {
            "2-2x4": "2-9 1, 2-5 1, 2-2 1",
            "2-2x6": "4-1 1, 3-7 2, 3-3 2",
            "2-2x8": "5-2 2, 4-6 2, 4-1 2",
            "2-2x10": "6-4 2, 5-6 2, 5-0 2",
            "2-2x12": "7-4 2, 6-5 2, 5-9 3",
            "3-2x8": "6-5 2, 5-8 2, 5-1 2",
            "3-2x10": "7-11 2, 6-10 2, 6-3 2",
            "3-2x12": "9-2 2, 8-0 2, 7-3 2",
            "4-2x8": "7-5 1, 6-6 1, 5-11 2",
            "4-2x10": "9-1 2, 8-0 2, 7-2 2",
            "4-2x12": "10-7 2, 9-3 2, 8-4 2",
        },
    ),
    "a roof and a floor of one span": (
        {
            "2-2x4": "2-8 1, 2-4 1, 2-1 1",
            "2-2x6": "3-11 1, 3-5 2, 3-0 2",
            "2-2x8": "5-0 2, 4-4 2, 3-10 2",
            "2-2x10": "6-1 2, 5-3 2, 4-8 2",
            "2-2x12": "7-1 2, 6-1 3, 5-5 3",
            "3-2x8": "6-3 2, 5-5 2, 4-10 2",
            "3-2x10": "7-7 2, 6-7 2, 5-11 2",
            "3-2x12": "8-10 2, 7-8 2, 6-10 2",
            "4-2x8": "7-2 1, 6-3 2, 5-7 2",
            "4-2x10": "8-9 2, 7-7 2, 6-10 2",
            "4-2x12": "10-2 2, 8-10 2, 7-11 2",
        },
        {
            "2-2x4": "2-7 1, 2-3 1, 2-0 1",
            "2-2x6": "3-10 2, 3-4 2, 3-0 2",
            "2-2x8": "4-10 2, 4-2 2, 3-9 2",
            "2-2x10": "5-11 2, 5-1 2, 4-7 3",
            "2-2x12": "6-10 2, 5-11 3, 5-4 3",
            "3-2x8": "6-1 2, 5-3 2, 4-8 2",
            "3-2x10": "7-5 2, 6-5 2, 5-9 2",
            "3-2x12": "8-7 2, 7-5 2, 6-8 2",
            "4-2x8": "7-0 1, 6-1 2, 5-5 2",
            "4-2x10": "8-7 2, 7-5 2, 6-7 2",
            "4-2x12": "9-11 2, 8-7 2, 7-8 2",
        },
    ),
    "a roof and two floors that bear in their middle": (
        {
            "2-2x4": "2-7 1, 2-3 1, 2-0 1",
            "2-2x6": "3-9 2, 3-3 2, 2-11 2",
            "2-2x8": "4-9 2, 4-2 2, 3-9 2",
            "2-2x10": "5-9 2, 5-1 2, 4-7 3",
            "2-2x12": "6-8 2, 5-10 3, 5-3 3",
            "3-2x8": "5-11 2, 5-2 2, 4-8 2",
            "3-2x10": "7-3 2, 6-4 2, 5-8 2",
            "3-2x12": "8-5 2, 7-4 2, 6-7 2",
            "4-2x8": "6-10 1, 6-0 2, 5-5 2",
            "4-2x10": "8-4 2, 7-4 2, 6-7 2",
            "4-2x12": "9-8 2, 8-6 2, 7-8 2",
        },
    ),
    "a roof and two floors of one span": (
        {
            "2-2x6": "3-1 2, 2-8 2, 2-4 2",
            "2-2x8": "3-10 2, 3-4 2, 3-0 3",
            "2-2x10": "4-9 2, 4-1 3, 3-8 3",
            "2-2x12": "5-6 3, 4-9 3, 4-3 3",
            "3-2x8": "4-10 2, 4-2 2, 3-9 2",
            "3-2x10": "5-11 2, 5-1 2, 4-7 3",
            "3-2x12": "6-10 2, 5-11 3, 5-4 3",
            "4-2x8": "5-7 2, 4-10 2, 4-4 2",
            "4-2x10": "6-10 2, 5-11 2, 5-3 2",
            "4-2x12": "7-11 2, 6-10 2, 6-2 3",
        },
    ),
}
"""Ground snow of 30 psf, then of 50 psf where that is held."""


class Header(NamedTuple):
    """A header as the table asks for it."""

    section: str
    """As the catalogue calls it: 2-2x8."""
    species: str
    grade: str
    borne: Borne
    width: float
    """Of the building across its ridge, mm."""
    snow: float
    """On the ground, N/mm²."""


class Reaches(NamedTuple):
    """How far it may span, mm, and how many jacks stand under each of its ends."""

    span: float
    jacks: int


def header_span(asked: Header) -> Reaches:
    """The longest span of a header (IRC 2015 table R602.7(1)): between two widths in proportion, with the
    more jacks of the two; narrower buildings as those of 20 ft.

    Raises:
        BalkenError: the table has none such.
    """
    if asked.species not in WOODS or asked.grade not in GRADES:
        raise BalkenError(f"the table has No. 2 of {', '.join(sorted(WOODS))}, and better")
    columns = SPANS[asked.borne]
    snow = next((k for k, s in enumerate(SNOWS) if asked.snow <= s * PSF + 1e-9), None)
    if snow is None or snow >= len(columns):
        raise BalkenError(f"held up to {SNOWS[len(columns) - 1]:g} psf on the ground")
    row = columns[snow].get(asked.section)
    if row is None:
        raise BalkenError("the table has headers of 2 to 4 pieces 2x4 to 2x12")
    wide = max(asked.width / FOOT, WIDTHS[0])
    if wide > WIDTHS[-1] + 1e-6:
        raise BalkenError("the building is wider than 36 ft")
    cells = cells_of(row)
    after = next(k for k in range(1, len(WIDTHS)) if wide <= WIDTHS[k] + 1e-6)
    share = (wide - WIDTHS[after - 1]) / (WIDTHS[after] - WIDTHS[after - 1])
    a, b = cells[after - 1], cells[after]
    return Reaches(a.span + share * (b.span - a.span), b.jacks if share > 1e-6 else a.jacks)


def cells_of(row: str) -> tuple[Reaches, ...]:
    """The cells of a row as it is written here."""
    cells = (cell.replace("-", " ").split() for cell in row.split(","))
    return tuple(
        Reaches(int(feet) * FOOT + int(inches) * INCH, int(jacks)) for feet, inches, jacks in cells
    )
