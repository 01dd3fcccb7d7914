"""A new building from a few numbers: a rectangle of walls on each floor, with levels to work
between."""

from balken.errors import BalkenError
from balken.model.foundations import first_site
from balken.model.grids import Grid, GridLine
from balken.model.project import FORMAT, Level, Project
from balken.model.usual import USUAL
from balken.model.validity import validate
from balken.model.walls import Wall
from balken.units import INCH, System

STOREY = {"us": 97.125 * INCH, "metric": 2440.0}
"""Height of a storey's walls with plates: 92 5/8 in studs and three plates; common practice, no
source."""
FLOOR = {"us": 10 * INCH, "metric": 254.0}
"""Depth of a floor between plate and subfloor top: a 2x10 with 3/4 in subfloor."""
STOREY_HEIGHT = {system: STOREY[system] + FLOOR[system] for system in STOREY}
"""From floor to floor."""
OUTSIDE = {"us": 6.5 * INCH, "metric": 165.0}
INSIDE = {"us": 4.5 * INCH, "metric": 115.0}
WIDE = 5000.0
"""A building wider than this gets a bearing wall along its middle, mm."""


def new_building(name: str, length: float, width: float, storeys: int, system: System) -> Project:
    """A rectangular building, its long walls along x, without structure yet.

    Args:
        name: of the project.
        length: outside, along x, mm.
        width: outside, along y, mm.
        storeys: one to four.
        system: of measure.

    Raises:
        BalkenError: a size no house has.
    """
    if not 1 <= storeys <= 4:
        raise BalkenError("A new building has one to four storeys.")
    if not (2000 <= length <= 100_000 and 2000 <= width <= 100_000):
        raise BalkenError("Length and width lie between 2 m and 100 m (6'-7\" and 328').")
    levels: list[Level] = []
    walls: list[Wall] = []
    z = 0.0
    for n in range(1, storeys + 1):
        floor, plate = (
            Level(f"L{n}", f"Floor {n}", "floor", z),
            Level(f"P{n}", f"Plate {n}", "plate", z + STOREY[system]),
        )
        levels += [floor, plate]
        walls += _storey(n, length, width, floor.id, plate.id, system)
        z = plate.elevation + FLOOR[system]
    reach = 1500.0
    lines = [
        GridLine("A1", "A", "x", 0.0, -reach, length + reach),
        GridLine("A2", "B", "x", width, -reach, length + reach),
    ]
    lines += [
        GridLine("N1", "1", "y", 0.0, -reach, width + reach),
        GridLine("N2", "2", "y", length, -reach, width + reach),
    ]
    grid = Grid("G1", (0.0, 0.0), 0.0, tuple(lines))
    return validate(
        Project(
            FORMAT,
            name,
            system,
            USUAL[system].code,
            tuple(levels),
            (grid,),
            tuple(walls),
            site=first_site(system),
        )
    )


def empty_building(name: str, system: System) -> Project:
    """A building with one floor and the plate over it, to set out from nothing."""
    levels = (Level("L1", "Floor 1", "floor", 0.0), Level("P1", "Plate 1", "plate", STOREY[system]))
    return validate(
        Project(FORMAT, name, system, USUAL[system].code, levels, site=first_site(system))
    )


def _storey(n: int, length: float, width: float, base: str, top: str, system: System) -> list[Wall]:
    corners = [(0.0, 0.0), (length, 0.0), (length, width), (0.0, width)]
    names = ("south", "east", "north", "west")
    t = OUTSIDE[system]
    found = [
        Wall(
            f"W{n}{i + 1}",
            f"{names[i]} {n}",
            corners[i],
            corners[(i + 1) % 4],
            t,
            "left",
            base,
            top,
        )
        for i in range(4)
    ]
    if width > WIDE:
        middle = width / 2
        found.append(
            Wall(
                f"W{n}5",
                f"middle {n}",
                (t, middle),
                (length - t, middle),
                INSIDE[system],
                "centre",
                base,
                top,
            )
        )
    return found
