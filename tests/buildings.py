"""Plain buildings for tests."""

from balken.design.building import settle
from balken.framing.member import CONCRETE_ROLES
from balken.framing.structure import Structure
from balken.geometry.trim import Body, union
from balken.model.edits import set_floor
from balken.model.new import new_building
from balken.model.project import Project
from balken.model.start import propose_structure
from balken.units import FOOT


def house(length: float = 36 * FOOT, width: float = 26 * FOOT, storeys: int = 1, system: str = "us") -> Project:
    """A plain rectangular building with its structure."""
    project, said = propose_structure(new_building("House", length, width, storeys, system))  # type: ignore[arg-type]
    assert said == ()
    return settle(project)


def union_volume(structure: Structure) -> float:
    """Volume of all concrete as one body, by another road than the sum of its pieces: manifold3d's union, mm³."""
    return union([Body(m.solid, m.voids) for m in structure.members if m.role in CONCRETE_ROLES]).volume


def two_storeys(length: float = 9000.0, width: float = 4800.0) -> Project:
    """A metric building of two storeys with floors; the joists of Floor 2 run across, on walls alone."""
    project, said = propose_structure(new_building("House", length, width, 2, "metric"))
    assert not said
    return set_floor(project, "F2", section="38x286", spacing=400.0)
