"""Characteristic values of timber: EN 338:2016 table 1 (softwood) and EN 14080:2013 tables 4 and 5
(glued laminated timber), from memory. N/mm², kg/m³."""

from typing import Final, Literal

import msgspec

from balken.errors import BalkenError

Material = Literal["solid timber", "glulam", "lvl"]


class NoClassError(BalkenError):
    """A strength class that the standards do not have."""


class Timber(msgspec.Struct, frozen=True, gc=False):
    """What a strength class is worth: characteristic strengths, and stiffness, N/mm²."""

    name: str
    material: Material
    fm: float
    """Bending, edgewise."""
    ft: float
    """Tension along the grain."""
    fc: float
    """Compression along the grain."""
    fc_perp: float
    """Compression across the grain."""
    fv: float
    """Shear."""
    e: float
    """E0,mean."""
    e_05: float
    """E0,05, for stability."""
    g: float
    """Gmean."""
    density: float
    """ρk, for fasteners, kg/m³."""
    mean_density: float
    """ρmean, for weight, kg/m³."""
    typed: bool = False
    """Of a product without a class: what was typed counts as characteristic."""

    @property
    def table(self) -> str:
        """Where the values stand."""
        if self.typed:
            return "typed, characteristic"
        return "EN 338 table 1" if self.material == "solid timber" else "EN 14080"


# fm, ft0, fc0, fc90, fv, E0,mean, E0,05 (kN/mm²), Gmean (kN/mm²), ρk, ρmean.
_SOFTWOOD: Final[dict[str, tuple[float, ...]]] = {
    "C14": (14, 7.2, 16, 2.0, 3.0, 7.0, 4.7, 0.44, 290, 350),
    "C16": (16, 8.5, 17, 2.2, 3.2, 8.0, 5.4, 0.50, 310, 370),
    "C18": (18, 10, 18, 2.2, 3.4, 9.0, 6.0, 0.56, 320, 380),
    "C20": (20, 11.5, 19, 2.3, 3.6, 9.5, 6.4, 0.59, 330, 400),
    "C22": (22, 13, 20, 2.4, 3.8, 10.0, 6.7, 0.63, 340, 410),
    "C24": (24, 14.5, 21, 2.5, 4.0, 11.0, 7.4, 0.69, 350, 420),
    "C27": (27, 16.5, 22, 2.5, 4.0, 11.5, 7.7, 0.72, 360, 430),
    "C30": (30, 19, 24, 2.7, 4.0, 12.0, 8.0, 0.75, 380, 460),
    "C35": (35, 22.5, 25, 2.7, 4.0, 13.0, 8.7, 0.81, 390, 470),
    "C40": (40, 26, 27, 2.8, 4.0, 14.0, 9.4, 0.88, 400, 480),
    "C45": (45, 30, 29, 2.9, 4.0, 15.0, 10.1, 0.94, 410, 490),
    "C50": (50, 33.5, 30, 3.0, 4.0, 16.0, 10.7, 1.00, 430, 520),
}

# fm, ft0, fc0, E0,mean, E0,05 (kN/mm²), ρk, ρmean; the rest is one for all classes.
_GLULAM: Final[dict[str, tuple[float, ...]]] = {
    "GL20h": (20, 16, 20, 8.4, 7.0, 340, 370),
    "GL22h": (22, 17.6, 22, 10.5, 8.8, 370, 410),
    "GL24h": (24, 19.2, 24, 11.5, 9.6, 385, 420),
    "GL26h": (26, 20.8, 26, 12.1, 10.1, 405, 445),
    "GL28h": (28, 22.3, 28, 12.6, 10.5, 425, 460),
    "GL30h": (30, 24, 30, 13.6, 11.3, 430, 480),
    "GL32h": (32, 25.6, 32, 14.2, 11.8, 440, 490),
    "GL20c": (20, 15, 18.5, 10.4, 8.6, 355, 390),
    "GL22c": (22, 16, 20, 10.4, 8.6, 355, 390),
    "GL24c": (24, 17, 21.5, 11.0, 9.1, 365, 400),
    "GL26c": (26, 19, 23.5, 12.0, 10.0, 385, 420),
    "GL28c": (28, 19.5, 24, 12.5, 10.4, 390, 420),
    "GL30c": (30, 19.5, 24.5, 13.0, 10.8, 390, 430),
    "GL32c": (32, 19.5, 24.5, 13.5, 11.2, 400, 440),
}
_GLULAM_FC_PERP, _GLULAM_FV, _GLULAM_G = 2.5, 3.5, 650.0

SOFTWOOD_CLASSES: Final = tuple(_SOFTWOOD)
GLULAM_CLASSES: Final = tuple(_GLULAM)


def timber(strength_class: str) -> Timber:
    """The characteristic values of a strength class.

    Raises:
        NoClassError: neither standard has it.
    """
    if strength_class in _SOFTWOOD:
        fm, ft, fc, fc_perp, fv, e, e_05, g, density, mean = _SOFTWOOD[strength_class]
        return Timber(
            strength_class,
            "solid timber",
            fm,
            ft,
            fc,
            fc_perp,
            fv,
            e * 1000,
            e_05 * 1000,
            g * 1000,
            density,
            mean,
        )
    if strength_class in _GLULAM:
        fm, ft, fc, e, e_05, density, mean = _GLULAM[strength_class]
        return Timber(
            strength_class,
            "glulam",
            fm,
            ft,
            fc,
            _GLULAM_FC_PERP,
            _GLULAM_FV,
            e * 1000,
            e_05 * 1000,
            _GLULAM_G,
            density,
            mean,
        )
    raise NoClassError(
        f"There is no strength class {strength_class}: C14 to C50 of EN 338 and GL20 to GL32, h or"
        " c, of EN 14080 are known."
    )
