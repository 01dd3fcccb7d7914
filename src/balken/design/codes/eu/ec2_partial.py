"""Partial factors of reinforced concrete (EN 1992-1-1 table 2.1N, 3.1.6, recommended values)."""

from typing import Final

GAMMA_C: Final = 1.5
GAMMA_S: Final = 1.15
ALPHA_CC: Final = 1.0
