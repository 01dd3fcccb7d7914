"""What walls weigh, layer by layer: weights of materials by the words they are called (ASCE 7-16
tables C3.1-1 and C3.1-2, from memory), N/mm³.

A layer of studs is timber with insulation between, not solid wood.
"""

import re
from typing import Final

from balken.model.project import Project, wall_build_up
from balken.model.walls import Layer, Wall, WallBuildUp
from balken.units import PCF, PSF

WEIGHTS: Final[tuple[tuple[str, float], ...]] = (
    ("air gap cavity void vent", 0.0),
    ("membrane wrap paper foil", 0.0),
    # 2x6 at 16 in with its plates and the insulation between, 2.2 psf in 5-1/2 in.
    ("stud frame framing framed", 4.8 * PCF),
    ("mineral rockwool", 5.0 * PCF),
    (
        "insulation wool batt fibreglass fiberglass foam polystyrene eps xps pir cellulose",
        2.0 * PCF,
    ),
    ("cement", 90.0 * PCF),
    ("aerated", 45.0 * PCF),
    ("grouted solid", 135.0 * PCF),
    ("block cmu masonry", 86.0 * PCF),
    # 39 psf a wythe of 3-5/8 in.
    ("brick clay", 129.0 * PCF),
    ("stone limestone sandstone granite marble slate", 165.0 * PCF),
    ("concrete", 150.0 * PCF),
    ("stucco render plaster mortar screed lime", 120.0 * PCF),
    # 0.55 psf an eighth of an inch.
    ("gypsum drywall plasterboard wallboard", 52.8 * PCF),
    ("plywood osb strand sheathing panel fibreboard fiberboard particle", 38.4 * PCF),
    ("metal steel zinc copper aluminium aluminum", 490.0 * PCF),
    ("glass tile", 160.0 * PCF),
    (
        "clt timber wood log siding clapboard batten shingle lath larch spruce cedar pine",
        35.0 * PCF,
    ),
    ("board lining", 52.8 * PCF),
)
"""What words of a material's name begin with, and its weight; the first row that is found
counts."""
UNKNOWN: Final = 150.0 * PCF
"""A material of none of these words is taken as heavy as concrete where it is the core or cladding:
on the safe side."""
UNKNOWN_LIGHT: Final = 52.8 * PCF
"""And as gypsum board elsewhere."""
USUAL: Final = 12 * PSF
"""Of a wall whose layers are not known: framed, sheathed and sided (ASCE 7-16 table C3.1-1 has 11
to 12 psf)."""
MASONRY: Final = ("block", "masonry", "brick", "stone", "concrete", "cmu")


def weight_of_layer(layer: Layer) -> float:
    """Weight of a layer, N/mm³: what was typed, else that of its material; less where it is
    hollow."""
    if layer.density is not None:
        return layer.density * layer.solid
    known = _row_of(layer.material)
    if known is not None:
        return known * layer.solid
    return (UNKNOWN if layer.role in ("core", "cladding") else UNKNOWN_LIGHT) * layer.solid


def known_material(layer: Layer) -> bool:
    """Whether a layer's weight was typed, or its material is one whose weight is known."""
    return layer.density is not None or _row_of(layer.material) is not None


def _row_of(material: str) -> float | None:
    words = re.findall(r"[^\W\d_]+", material.lower())
    for row, weight in WEIGHTS:
        if any(word.startswith(tuple(row.split())) for word in words):
            return weight
    return None


def weight_of_build_up(body: WallBuildUp) -> float:
    """Weight of a wall's layers on its face, N/mm²."""
    return sum(weight_of_layer(x) * x.thickness for x in body.layers)


def wall_dead(project: Project, wall: Wall) -> float:
    """Weight of a wall on its face, N/mm²: what was typed for all walls, else that of its
    layers."""
    if project.site.wall_dead is not None:
        return project.site.wall_dead
    body = wall_build_up(project, wall)
    return USUAL if body is None else weight_of_build_up(body)


def is_masonry(body: WallBuildUp) -> bool:
    """Whether the core of a wall is masonry or concrete."""
    core = " ".join(x.material.lower() for x in body.layers if x.role == "core")
    return body.module is not None or any(word in core for word in MASONRY)


VENEER: Final = ("brick", "stone", "masonry", "clay")


def is_veneer(layer: Layer) -> bool:
    """Whether a layer is a leaf of stone or masonry before the wall that stands."""
    words = re.findall(r"[^\W\d_]+", layer.material.lower())
    return layer.role == "cladding" and any(w.startswith(VENEER) for w in words)
