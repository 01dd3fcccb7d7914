"""The inks of sheets: greys that read on a printer of one colour, or light colours of materials. Lines are
black in both."""

from typing import Final, NamedTuple

from balken.drawing.paper.records import Sheet

Ink = tuple[float, float, float]
"""Red, green, blue from 0 to 1."""
BLACK: Final[Ink] = (0.0, 0.0, 0.0)
PAPER: Final[Ink] = (1.0, 1.0, 1.0)


class Inks(NamedTuple):
    """What fills and quiet words are printed in."""

    fills: dict[str, Ink]
    quiet: Ink

    def fill(self, name: str) -> Ink:
        """Of a fill; paper where it has none."""
        return self.fills.get(name, PAPER)


GREYS: Final = {
    "ink": 0.0,
    "shade": 0.95,
    "concrete": 0.88,
    "timber": 0.93,
    "steel": 0.65,
    "end grain": 0.85,
    "panel": 0.9,
    "wall": 0.93,
    "mark": 0.7,
    "misfit": 0.8,
    "block": 0.85,
}
ONE_COLOUR: Final = Inks({k: (v, v, v) for k, v in GREYS.items()}, (0.35, 0.35, 0.35))
COLOURS: Final = Inks(
    {
        "ink": BLACK,
        "shade": (0.96, 0.95, 0.91),
        "concrete": (0.85, 0.87, 0.86),
        "timber": (0.96, 0.89, 0.73),
        "steel": (0.66, 0.70, 0.74),
        "end grain": (0.92, 0.81, 0.60),
        "panel": (0.93, 0.84, 0.66),
        "wall": (0.94, 0.92, 0.86),
        "insulation": (0.99, 0.97, 0.86),
        "earth": (0.88, 0.85, 0.78),
        "mark": (0.85, 0.62, 0.52),
        "misfit": (0.95, 0.78, 0.70),
        "block": (0.86, 0.85, 0.82),
    },
    (0.35, 0.35, 0.35),
)


def inks_of(sheet: Sheet) -> Inks:
    """Those a sheet is printed in."""
    return COLOURS if sheet.colour else ONE_COLOUR
