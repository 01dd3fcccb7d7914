"""What a kind of member is in IFC 4."""

from typing import NamedTuple


class IfcClass(NamedTuple):
    """Its class in IFC 4: entity, predefined type, a word of its own where no predefined type says
    it, and its set of base quantities."""

    entity: str
    predefined: str
    words: str | None
    quantities: str


def _ifc(entity: str, quantities: str, predefined: str, words: str | None = None) -> IfcClass:
    return IfcClass(entity, predefined, words, f"Qto_{quantities}BaseQuantities")


def footing(predefined: str, words: str | None = None) -> IfcClass:
    return _ifc("IfcFooting", "Footing", predefined, words)


def slab(predefined: str, words: str | None = None) -> IfcClass:
    return _ifc("IfcSlab", "Slab", predefined, words)


def wall(predefined: str, words: str | None = None) -> IfcClass:
    return _ifc("IfcWall", "Wall", predefined, words)


def beam(predefined: str, words: str | None = None) -> IfcClass:
    return _ifc("IfcBeam", "Beam", predefined, words)


def member(predefined: str, words: str | None = None) -> IfcClass:
    return _ifc("IfcMember", "Member", predefined, words)


def column(predefined: str, words: str | None = None) -> IfcClass:
    return _ifc("IfcColumn", "Column", predefined, words)


def plate(predefined: str, words: str | None = None) -> IfcClass:
    return _ifc("IfcPlate", "Plate", predefined, words)
