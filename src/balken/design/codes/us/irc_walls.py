"""What the tables of the IRC say of the walls of houses: studs (R602.3(5)) and lengths of bracing against
wind (R602.10.3(1) with the factors of (2)). From memory; beside the calculation, never in place of it."""

import math
from typing import Final, Literal, NamedTuple

from balken.errors import BalkenError
from balken.units import FOOT, INCH, MPH

TALLEST: Final = 10 * FOOT
"""Bearing studs of the table are no longer between what holds them sideways."""
STUDS: Final[dict[float, tuple[float, float, float]]] = {
    3.5: (24.0, 16.0, 0.0),
    5.5: (24.0, 24.0, 16.0),
}
"""By depth, in: spacing, in, that may carry a roof alone, with one floor, and with two; 0 for none."""


def stud_spacing(depth: float, height: float, floors: int) -> float:
    """How far apart studs 2 in thick may stand under a roof and floors, mm (IRC 2021 table R602.3(5)).

    Args:
        depth: of the studs, mm.
        height: mm.
        floors: over the wall, besides the roof.

    Raises:
        BalkenError: the table has none such.
    """
    row = next((r for d, r in STUDS.items() if abs(d * INCH - depth) < 1.0), None)
    if row is None:
        raise BalkenError("the table has studs 2x4 and 2x6")
    if height > TALLEST + 1.0:
        raise BalkenError("the table has bearing studs up to 10 ft")
    if floors > 2 or not row[floors]:
        raise BalkenError(f"the table has none of these under a roof and {floors} floors")
    return row[floors] * INCH


LEAST_PANEL: Final = 4 * FOOT
"""A shorter panel counts nothing here but in a portal frame (table R602.10.5 lets some of 3 ft count in
part)."""
Method = Literal["WSP", "CS-WSP", "GB", "LIB"]
"""Wood panels on their stretches, all over the wall; gypsum boards; boards let in."""


PANELLED: Final[tuple[Method, ...]] = ("WSP", "CS-WSP")
"""Those of wood panels."""


class PortalPanel(NamedTuple):
    """A panel of a wall that the header of the opening beside it runs on over. mm."""

    length: float
    height: float
    """Of the wall."""
    clear: float
    """Width of the opening."""
    header: tuple[float, float]
    """Breadth and depth."""
    thick: float
    """Of the wood panels on it."""
    storeys_over: int


PORTAL_LEAST: Final[dict[Method, tuple[tuple[float, ...], ...]]] = {
    "WSP": ((16.0, 16.0, 16.0), (24.0, 24.0, 24.0)),
    "CS-WSP": ((16.0, 18.0, 20.0), (16.0, 18.0, 20.0)),
}
"""Least length of a portal frame's panel, in, under a roof alone and under a storey more, in walls of 8, 9
and 10 ft: PFH beside panels on their stretches, CS-PF where panels go all over (IRC 2021 table
R602.10.5)."""
PORTAL_WALLS: Final = (8.0, 9.0, 10.0)
PORTAL_HEADER: Final = (3 * INCH, 11.25 * INCH)
"""No less (IRC 2021 figures R602.10.6.2, R602.10.6.4)."""
PORTAL_CLEAR: Final = 18 * FOOT
PORTAL_PANEL: Final = 0.43 * INCH
"""7/16 in, with its tolerance."""
PORTAL_NAMES: Final[dict[Method, str]] = {"WSP": "PFH", "CS-WSP": "CS-PF"}
NARROW: Final = 1.0
"""What is shorter than asked for by less than this is long enough, mm."""


def portal_counts(method: Method, panel: PortalPanel) -> float:
    """What the panel of a portal frame counts, mm: 4 ft each with hold-downs (PFH), one and a half times
    its length in a wall covered all over (CS-PF) (IRC 2021 table R602.10.5).

    Raises:
        BalkenError: the table lets it count nothing, and why.
    """
    name = PORTAL_NAMES[method]
    if panel.storeys_over > 1:
        raise BalkenError(f"{name} carries a roof and one storey at most")
    if panel.height > 10 * FOOT + NARROW:
        raise BalkenError(f"{name} stands in walls up to 10 ft")
    if panel.clear > PORTAL_CLEAR + NARROW:
        raise BalkenError(f"{name} spans 18 ft at most")
    if any(there < least - NARROW for there, least in zip(panel.header, PORTAL_HEADER)):
        raise BalkenError(f"{name} asks for a header of 3 x 11 1/4 in or more")
    if panel.thick < PORTAL_PANEL:
        raise BalkenError(f"{name} asks for panels of 7/16 in")
    row = PORTAL_LEAST[method][panel.storeys_over]
    least = next(x for h, x in zip(PORTAL_WALLS, row) if panel.height <= h * FOOT + NARROW)
    if panel.length < least * INCH - NARROW:
        raise BalkenError(f"{name} asks for {least:g} in, {panel.length / INCH:.1f} are there")
    return LEAST_PANEL if method == "WSP" else 1.5 * panel.length


class Line(NamedTuple):
    """A braced wall line as the tables ask for it. mm."""

    spacing: float
    """To the next, the mean of both sides."""
    storeys_over: int
    speed: float
    """Ultimate, mm/s."""
    exposure: str
    wall: float
    """Height of its walls."""
    ridge: float
    """From the eaves to the ridge."""
    lines: int
    """In that direction."""
    gypsum: bool
    """Whether gypsum boards line it inside."""
    method: Method = "WSP"


SPACINGS: Final = (10.0, 20.0, 30.0, 40.0, 50.0, 60.0)
LENGTHS: Final[dict[Method, tuple[tuple[float, ...], ...]]] = {
    "WSP": (
        (2.0, 3.5, 5.5, 7.0, 9.0, 10.5),
        (4.0, 7.5, 10.5, 13.5, 16.5, 20.0),
        (6.0, 11.0, 15.5, 20.0, 24.5, 29.0),
    ),
    "CS-WSP": (
        (2.0, 3.5, 4.5, 6.0, 7.5, 9.0),
        (3.5, 6.5, 9.0, 11.5, 14.0, 17.0),
        (5.0, 9.0, 13.0, 17.0, 21.0, 25.0),
    ),
    "GB": (
        (3.5, 6.5, 9.5, 12.5, 15.0, 18.0),
        (7.0, 12.5, 18.0, 23.5, 29.0, 34.5),
        (10.0, 18.5, 27.0, 35.0, 43.0, 51.0),
    ),
    "LIB": (
        (3.5, 6.5, 9.5, 12.5, 15.0, 18.0),
        (7.0, 12.5, 18.0, 23.5, 29.0, 34.5),
    ),
}
"""ft, at 115 mph in exposure B: under a roof, one and two more storeys."""
OF_SPEED: Final = 115 * MPH
FASTEST: Final = 140 * MPH
EXPOSED: Final[dict[str, tuple[float, float, float]]] = {
    "B": (1.0, 1.0, 1.0),
    "C": (1.2, 1.3, 1.4),
    "D": (1.5, 1.6, 1.7),
}
"""By the number of storeys: one, two, three."""
RIDGES: Final = (5.0, 10.0, 15.0, 20.0)
OF_RIDGE: Final = ((0.70, 1.0, 1.3, 1.6), (0.85, 1.0, 1.15, 1.3), (0.90, 1.0, 1.1))
OF_LINES: Final = {2: 1.0, 3: 1.3, 4: 1.45}
MORE_LINES: Final = 1.6
NO_GYPSUM: Final = 1.4
"""Of wood panels with no gypsum board inside."""
CLEAR: Final = (64.0, 68.0, 72.0, 76.0, 80.0, 84.0, 88.0, 92.0, 96.0)
"""Height of the opening beside a panel, in."""
CONTINUOUS: Final[dict[float, tuple[float, ...]]] = {
    8.0: (24, 26, 27, 30, 32, 35, 38, 43, 48),
    9.0: (27, 27, 27, 29, 30, 32, 35, 37, 41),
    10.0: (30, 30, 30, 30, 30, 32, 33, 35, 38),
}
"""Least length of panels all over a wall, in, by the height of the wall, ft (table R602.10.5)."""


def least_continuous(height: float, clear: float) -> float:
    """The least length of a panel of method CS-WSP, mm (IRC 2021 table R602.10.5).

    Args:
        height: of the wall, mm.
        clear: of the higher opening beside it, mm; nothing where there is none.
    """
    row = next((r for h, r in CONTINUOUS.items() if height <= h * FOOT + 1.0), None)
    if row is None:
        return LEAST_PANEL
    inches = clear / INCH
    found = next((r for c, r in zip(CLEAR, row) if inches <= c + 1e-6), None)
    return found * INCH if found is not None else LEAST_PANEL


class Bracing(NamedTuple):
    """What the tables ask for: the length of panels, mm, and the factors on it, named."""

    length: float
    factors: tuple[tuple[str, float], ...]


def bracing_length(line: Line) -> Bracing:
    """The length of what braces along a braced wall line, by its method (IRC 2021 tables R602.10.3(1),
    R602.10.3(2)); at other speeds than 115 mph in proportion to the square of it.

    Raises:
        BalkenError: the tables have no such line.
    """
    over, feet = line.storeys_over, line.spacing / FOOT
    if line.speed >= FASTEST - 1e-6:
        raise BalkenError("the tables end before 140 mph")
    lengths = LENGTHS[line.method]
    if over >= len(lengths):
        raise BalkenError(
            f"the tables have {len(lengths)} storeys at most for method {line.method}"
        )
    if feet > SPACINGS[-1] + 1e-6:
        raise BalkenError("lines stand more than 60 ft apart")
    if line.wall > 12 * FOOT + 1.0:
        raise BalkenError("the walls are higher than 12 ft")
    ridge, heights = line.ridge / FOOT, OF_RIDGE[over]
    if ridge > RIDGES[len(heights) - 1] + 1e-6:
        raise BalkenError(
            f"the ridge lies more than {RIDGES[len(heights) - 1]:g} ft over the eaves"
        )
    factors = (
        ("exposure", EXPOSED[line.exposure][over]),
        ("ridge", _between(RIDGES, heights, ridge)),
        ("wall height", _between((8.0, 12.0), (0.90, 1.10), line.wall / FOOT)),
        ("lines", OF_LINES.get(max(2, line.lines), MORE_LINES)),
        ("no gypsum inside", 1.0 if line.gypsum or line.method not in PANELLED else NO_GYPSUM),
    )
    listed = _between(SPACINGS, lengths[over], feet)
    speed = max(1.0, (line.speed / OF_SPEED) ** 2)
    whole = listed * speed * math.prod(f for _, f in factors)
    return Bracing(whole * FOOT, (("speed", speed), *factors))


def _between(places: tuple[float, ...], values: tuple[float, ...], x: float) -> float:
    """In between two places of a table in proportion; no less than the first."""
    if x <= places[0]:
        return values[0]
    for k in range(1, len(values)):
        if x <= places[k] + 1e-9:
            share = (x - places[k - 1]) / (places[k] - places[k - 1])
            return values[k - 1] + share * (values[k] - values[k - 1])
    return values[-1]
