"""The two systems of measure a project can be written in."""

from typing import Literal

System = Literal["us", "metric"]
"""``us``: feet, inches and sixteenths, psf, plf, psi. ``metric``: mm, kN/m², kN/m, N/mm²."""
