"""Check values of whole roofs, from the planes over their outlines. Lengths in feet, as the rows
have them."""

import roof_forms
from balken.geometry.plane import Ring
from balken.geometry.roof_front import Side
from balken.geometry.roof_lines import measures, roof_lines
from balken.geometry.roof_planes import Roof, roof_planes
from balken.units import FOOT


class Measured:
    """Areas and lengths of a roof, ft² and ft."""

    def __init__(self, ring: Ring, sides: list[Side]) -> None:
        self.roof: Roof = roof_planes([tuple((x * FOOT, y * FOOT) for x, y in ring)], [sides])
        found = measures(self.roof)
        self.area = found.true / FOOT**2
        self.lengths = {kind: length / FOOT for kind, length in found.lengths.items()}

    def each(self, kind: str) -> list[float]:
        """Return the lines of a kind, the highest first."""
        mine = [line for line in roof_lines(self.roof) if line.kind == kind]
        mine.sort(key=lambda line: (-round(max(line.start[2], line.end[2])), -line.length))
        return [line.length / FOOT for line in mine]


def gable(length: float, width: float, pitch: float) -> Measured:
    return Measured(roof_forms.rectangle(length, width), [Side(pitch), Side(None)] * 2)


def hip(length: float, width: float, side: float, end: float) -> Measured:
    return Measured(roof_forms.rectangle(length, width), [Side(side), Side(end)] * 2)


def ell(length: float, width: float, wing: float, projects: float, pitch: float) -> Measured:
    ring = roof_forms.l_outline(length, width, wing, projects)
    return Measured(ring, [Side(pitch)] * 6)


def gable_triangle(width: float, pitch: float) -> float:
    """Return the wall between the eaves and the ridge, ft²."""
    return gable(2 * width, width, pitch).roof.top / FOOT * width / 2
