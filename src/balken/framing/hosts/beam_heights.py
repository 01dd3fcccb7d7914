"""Beams and bays of beams as one host: where each lies, what it is cut from, and what carries it."""

from balken.framing.beams.fitting import Placed, placed_at
from balken.framing.beams.lines import lines_of, section_for
from balken.framing.hosts.heights import level_tops
from balken.model.catalogue import sections_of
from balken.model.names import HostName
from balken.model.project import Project
from balken.recall import remembered


def placed_beams(project: Project) -> tuple[tuple[Placed, ...], tuple[tuple[HostName, str], ...]]:
    """All beams with section and height, and the hosts that could not be laid out with the
    reason."""
    if not project.beams and not project.bays:
        return (), ()
    return _placed_beams(project)


@remembered
def _placed_beams(project: Project) -> tuple[tuple[Placed, ...], tuple[tuple[HostName, str], ...]]:
    sections = sections_of(project.system, project.products)
    axes, faults = lines_of(project, sections)
    tops = {key: level_tops(project, key) for key in {a.level for a in axes}}
    found = []
    for axis in axes:
        section = section_for(axis.kind, sections)
        under, flush, top = tops[axis.level]
        height = {"under": under, "flush": flush, "level": top, "on": top + section.depth}[
            axis.kind.set
        ]
        found.append(placed_at(axis, section, round(height + axis.kind.offset, 6)))
    return tuple(found), tuple(faults)
