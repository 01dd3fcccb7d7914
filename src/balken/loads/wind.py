"""Wind by each code under one face: pressure at a height, what pushes walls and roofs sideways, what
lifts roofs."""

from collections.abc import Callable
from functools import cache
from typing import Final, NamedTuple

from balken.loads.codes.eu import wind as eu
from balken.loads.codes.eu import wind_frame as eu_frame
from balken.loads.codes.us import wind as us
from balken.loads.codes.us import wind_frame as us_frame
from balken.model.left_open import LeftOpen
from balken.model.record import Code
from balken.model.wind import Wind


class WindRules(NamedTuple):
    """What a code says of wind. Lengths mm, pressures N/mm², angles degrees."""

    pressure: Callable[[Wind, float], float]
    """At a height over the ground."""
    roof_uplift: Callable[..., float]
    """Of pressure, angle, slenderness; ``enclosed``."""
    roof_pressure: Callable[..., float]
    """Likewise, from above."""
    overhang_uplift: Callable[[float, float, float], float]
    """Of pressure, angle, slenderness."""
    wall_push: Callable[[float, float, float, float], float]
    """Of pressure, height, length in the wind, width across it."""
    roof_side_push: Callable[[float, float, float], float]
    """Of pressure, angle, slenderness: on the upright projection."""
    held: float
    """What counts of the dead load against the wind."""
    blown: float
    """And of the wind."""
    holding_words: str
    clause: str


def _us_pressure(wind: Wind, height: float) -> float:
    kz = us.exposure_factor(height, wind.exposure)
    return us.velocity_pressure(wind.speed, kz, wind.topography)


def _eu_pressure(wind: Wind, height: float) -> float:
    return eu.peak_pressure(wind.speed / 1000, height, wind.terrain, wind.topography)


WIND: Final[dict[Code, WindRules]] = {
    "us": WindRules(
        _us_pressure,
        us_frame.roof_uplift,
        us_frame.roof_pressure,
        us_frame.overhang_uplift,
        us_frame.wall_push,
        us_frame.roof_side_push,
        0.6,
        0.6,
        "0.6D + 0.6W",
        "ASCE 7-16 27.3, 2.4.1 no. 7",
    ),
    "eu": WindRules(
        _eu_pressure,
        eu_frame.roof_uplift,
        eu_frame.roof_pressure,
        eu_frame.overhang_uplift,
        eu_frame.wall_push,
        eu_frame.roof_side_push,
        0.9,
        1.5,
        "0.9G + 1.5W",
        "EN 1991-1-4 7.2, EN 1990 table A1.2(A)",
    ),
}


@cache
def wind_by(code: Code, by: LeftOpen) -> WindRules:
    """What a code says of wind, by the values it leaves open."""
    if code == "us":
        return WIND["us"]
    words = f"{by.holding:g}G + {by.variable:g}W"
    return WIND["eu"]._replace(held=by.holding, blown=by.variable, holding_words=words)
