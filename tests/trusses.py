"""A truss on its own, as the tests of trusses check it."""

import math

from balken.design.codes import timber_by
from balken.design.truss_checks import TrussLoads, TrussTask, lumber_of
from balken.framing.trusses.lines import Cut, Profile, truss_under
from balken.framing.trusses.placing import PlacedTruss
from balken.model.catalogue import sections_of
from balken.units import FOOT, INCH, PSF

CUT = Cut(3.5 * INCH, 3.5 * INCH, 3.5 * INCH)
NAMES = ("2x4", "2x4", "2x4")
LUMBER = lumber_of(timber_by("us"), NAMES, "DF-L", "No.2", sections_of("us", ()))
assert LUMBER is not None
TASK = TrussTask(
    timber_by("us"),
    2,
    TrussLoads(10 * PSF, 20 * PSF, 25 * PSF, 5 * PSF, 10 * PSF),
    (240.0, 180.0),
    3.5 * INCH,
)


def stands(
    kind: str = "Fink",
    span: float = 24 * FOOT,
    slope: float = 4 / 12,
    wide: float = 24 * INCH,
    **more: object,
) -> PlacedTruss:
    heel = 3.5 * INCH * math.hypot(1, slope) + 0.25 * INCH
    out = 2 * FOOT
    line = Profile(
        (
            (-out, heel - out * slope),
            (span / 2, heel + span / 2 * slope),
            (span + out, heel - out * slope),
        ),
        span,
    )
    made = {
        "row": "01",
        "use": "common",
        "plies": 1,
        "area": span * wide,
        "true": span * wide,
        "wide": wide,
    }
    return PlacedTruss(
        truss=truss_under(line, kind, CUT),
        profile=line,
        start=(0.0, 0.0),
        way=(1.0, 0.0),
        plate=0.0,
        cut=CUT,
        sections=NAMES,
        bears=(44.45, span - 44.45),
        **made,
    )  # type: ignore[arg-type]
