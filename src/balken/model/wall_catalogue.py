"""Wall build-ups to begin from, from the outside in. Layers and thicknesses are the trade's usual
ones; common practice, no source. A name is made from the layers, so none is written here."""

from typing import Final

from balken.model.walls import Layer, Module, WallBuildUp
from balken.units import INCH, System


def _us(*layers: tuple[str, float, str]) -> tuple[Layer, ...]:
    return tuple(Layer(m, round(t * INCH, 6), role) for m, t, role in layers)  # type: ignore[arg-type]


def _mm(*layers: tuple[str, float, str]) -> tuple[Layer, ...]:
    return tuple(Layer(m, t, role) for m, t, role in layers)  # type: ignore[arg-type]


_BOARD_IN: Final = ("gypsum board", 0.5, "lining")
_BOARD: Final = ("gypsum board", 12.5, "lining")

FIRST: Final[dict[str, tuple[WallBuildUp, ...]]] = {
    "us": (
        WallBuildUp(
            "X1", _us(("sheathing", 0.5, "sheathing"), ("2x6 studs", 5.5, "core"), _BOARD_IN)
        ),
        WallBuildUp("X2", _us(_BOARD_IN, ("2x4 studs", 3.5, "core"), _BOARD_IN)),
        WallBuildUp(
            "X3",
            _us(
                ("lap siding", 0.5, "cladding"),
                ("sheathing", 0.5, "sheathing"),
                ("2x6 studs", 5.5, "core"),
                _BOARD_IN,
            ),
        ),
        WallBuildUp(
            "X4",
            _us(
                ("brick", 3.625, "cladding"),
                ("air space", 1.0, "insulation"),
                ("sheathing", 0.5, "sheathing"),
                ("2x6 studs", 5.5, "core"),
                _BOARD_IN,
            ),
        ),
        WallBuildUp(
            "X5", _us(("8 in block", 7.625, "core")), Module(8 * INCH, 8 * INCH, 0.375 * INCH)
        ),
    ),
    "metric": (
        WallBuildUp(
            "X1", _mm(("sheathing", 12.5, "sheathing"), ("38x140 studs", 140.0, "core"), _BOARD)
        ),
        WallBuildUp("X2", _mm(_BOARD, ("38x89 studs", 89.0, "core"), _BOARD)),
        WallBuildUp("X3", _mm(("390 × 190 block", 190.0, "core")), Module(200.0, 200.0, 10.0)),
        WallBuildUp(
            "X4",
            _mm(
                ("brick", 90.0, "cladding"),
                ("air space", 25.0, "insulation"),
                ("insulation", 50.0, "insulation"),
                ("390 × 190 block", 190.0, "core"),
            ),
            Module(200.0, 200.0, 10.0),
        ),
        WallBuildUp("X5", _mm(("concrete", 200.0, "core"))),
    ),
}
"""A 390 × 190 unit with a 10 mm joint makes a module of 200 in half bond; 15 5/8 × 7 5/8 with 3/8
in makes 8 in."""


def first_build_ups(system: System) -> tuple[WallBuildUp, ...]:
    """The build-ups a project can take in."""
    return FIRST[system]
