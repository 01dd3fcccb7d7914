"""What a place asks for - frost, soil, snow on the ground, wind, earthquake - from a service that
knows places: a small stand-in here, behind the face a real one would have. It may be slow, fail, or
answer nonsense."""

import math
import time
from collections.abc import Mapping
from typing import Final, Literal, Protocol

import msgspec

from balken.errors import BalkenError
from balken.model.foundations import Site
from balken.model.snow import GroundSnow
from balken.model.wind import Earthquake, Wind
from balken.units import INCH, KPA, MPH, PSF


class SiteError(BalkenError):
    """The service did not answer, or not what can be used."""


class SiteService(Protocol):
    """Knows places."""

    def sheet(self, place: str) -> Mapping[str, object]:
        """What is known of a place, by the names of :data:`ASKED`, in mm and N/mm².

        Raises:
            OSError: it cannot be reached.
            KeyError: it does not know the place.
        """


class SiteSheet(msgspec.Struct, frozen=True):
    """What a place asks for."""

    place: str
    frost_depth: float
    """Mm."""
    soil_bearing: float
    """N/mm²."""
    ground_snow: float
    """N/mm²."""
    wind_speed: float
    """Mm/s, as the code of the place counts it."""
    sds: float
    sd1: float
    """Of gravity; nothing where the ground does not shake."""


class _Asked(msgspec.Struct, frozen=True):
    words: str
    least: float
    most: float


ASKED: Final[dict[str, _Asked]] = {
    "frost_depth": _Asked("frost depth", 0.0, 3000.0),
    "soil_bearing": _Asked("soil bearing", 0.02, 5.0),
    "ground_snow": _Asked("snow on the ground", 0.0, 0.02),
    "wind_speed": _Asked("wind speed", 10_000.0, 110_000.0),
    "sds": _Asked("SDS of earthquake", 0.0, 3.0),
    "sd1": _Asked("SD1 of earthquake", 0.0, 3.0),
}
"""What is asked for, and between which limits an answer can be meant, mm and N/mm²."""

PLACES: Final[dict[str, dict[str, float]]] = {
    "baker's hill": {
        "frost_depth": 36 * INCH,
        "soil_bearing": 1500 * PSF,
        "ground_snow": 35 * PSF,
        "wind_speed": 115 * MPH,
        "sds": 0.30,
        "sd1": 0.12,
    },
    "ferry quay": {
        "frost_depth": 600.0,
        "soil_bearing": 0.075,
        "ground_snow": 0.94 * KPA,
        "wind_speed": 22_000.0,
        "sds": 0.0,
        "sd1": 0.0,
    },
    "high moor": {
        "frost_depth": 48 * INCH,
        "soil_bearing": 2000 * PSF,
        "ground_snow": 70 * PSF,
        "wind_speed": 120 * MPH,
        "sds": 0.55,
        "sd1": 0.25,
    },
}
"""Made-up places."""


class MadeUpService:
    """Knows a few made-up places."""

    def __init__(
        self, answers: Literal["well", "nothing", "nonsense"] = "well", delay: float = 0.0
    ) -> None:
        self.answers, self.delay = answers, delay

    def sheet(self, place: str) -> Mapping[str, object]:
        """What is known of a place."""
        time.sleep(self.delay)
        if self.answers == "nothing":
            raise OSError("no answer")
        known = PLACES[place.strip().lower()]
        return {**known, "ground_snow": "heavy"} if self.answers == "nonsense" else known


def ask(service: SiteService, place: str) -> SiteSheet:
    """What a service says of a place, looked over.

    Raises:
        SiteError: it cannot be reached, does not know the place, or answers what cannot be meant.
    """
    try:
        answer = service.sheet(place)
    except OSError as error:
        raise SiteError(
            f"The site service does not answer ({error}). Type frost, soil, snow and wind yourself."
        ) from error
    except KeyError as error:
        raise SiteError(
            f"The site service does not know “{place}”. It knows: {', '.join(sorted(PLACES))}."
        ) from error
    return SiteSheet(place.strip(), **{name: _meant(answer, name) for name in ASKED})


def _meant(answer: Mapping[str, object], name: str) -> float:
    asked, value = ASKED[name], answer.get(name)
    usable = isinstance(value, int | float) and not isinstance(value, bool)
    if not usable or not math.isfinite(float(value)):  # type: ignore[arg-type]
        raise SiteError(
            f"The site service answers “{value}” for {asked.words}. Nothing was taken; type it."
        )
    number = float(value)  # type: ignore[arg-type]
    if not asked.least <= number <= asked.most:
        raise SiteError(
            f"The site service answers {number:g} for {asked.words}, which cannot be meant: between"
            f" {asked.least:g} and {asked.most:g} can. Nothing was taken; type it."
        )
    return number


def taken_in(site: Site, sheet: SiteSheet) -> Site:
    """A site with what a sheet says of it."""
    from msgspec.structs import replace

    snow = site.snow or GroundSnow(sheet.ground_snow)
    wind = site.wind or Wind(sheet.wind_speed)
    shakes = site.earthquake or Earthquake(sheet.sds, sheet.sd1)
    return replace(
        site,
        place=sheet.place,
        frost_depth=sheet.frost_depth,
        soil_bearing=sheet.soil_bearing,
        snow=replace(snow, ground=sheet.ground_snow),
        wind=replace(wind, speed=sheet.wind_speed),
        earthquake=replace(shakes, sds=sheet.sds, sd1=sheet.sd1) if sheet.sds else None,
    )
