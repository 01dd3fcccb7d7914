"""How much heavier snow may lie to leeward of a roof's ridge, for its rafters."""

from balken.framing import kinds
from balken.framing.roofs.shape import RoofShape
from balken.framing.structure import Structure
from balken.loads.roof_snow import leeward
from balken.model.names import HostName
from balken.model.project import Project
from balken.model.roofs import RoofArea


def leeward_of(project: Project, structure: Structure, roof: RoofArea) -> float:
    """Of a roof that is framed: from its eave to its ridge as far as its longest rafter reaches."""
    host = HostName("roof", roof.id)
    shape = structure.roofs.get(host)
    if shape is None:
        return 1.0
    runs = [m.run for m in structure.of(kinds.RAFTER) if m.host == host]
    return leeward(project.code, project.site, roof, slopes_of(shape), max(runs, default=0.0))


def slopes_of(shape: RoofShape) -> int:
    """How many of a roof's sides rise."""
    return sum(edge.rule.kind == "slope" for edge in shape.edges)
