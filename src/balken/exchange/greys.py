"""The greys of sheets, 0 black to 1 white: they read on a printer of one colour."""

from typing import Final

INK: Final = 0.0
QUIET: Final = 0.35
FILLS: Final = {
    "ink": 0.0,
    "shade": 0.95,
    "paper": 1.0,
    "concrete": 0.88,
    "timber": 0.93,
    "end grain": 0.85,
    "panel": 0.9,
    "wall": 0.93,
    "mark": 0.7,
    "misfit": 0.8,
    "block": 0.85,
    "board": 1.0,
    "insulation": 1.0,
}
"""Greys, so that a sheet reads on a printer of one colour."""
