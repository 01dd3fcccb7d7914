"""What a foundation is, said shortly: its kind and the sizes of its parts."""

from balken.framing.hosts.runs import heights_of
from balken.model.foundations import KIND_WORDS, WITH_STEM, FoundationRun
from balken.model.project import Project
from balken.units import format_run


def sizes_of(run: FoundationRun, project: Project) -> str:
    """A foundation's kind and sizes in words."""
    system = project.system
    bottom, base, _, _ = heights_of(project, run)
    found = [KIND_WORDS[run.kind]]
    if run.kind in WITH_STEM:
        found.append(
            f"footing {format_run(run.footing_width, system)} × {format_run(base - bottom, system)}"
        )
        found.append(f"wall {format_run(run.stem_thickness, system)}")
    if run.slab_thickness:
        found.append(f"slab {format_run(run.slab_thickness, system)}")
    if run.kind == "slab edge":
        found.append(
            f"edge {format_run(run.edge_width, system)} × {format_run(run.edge_depth, system)}"
        )
    if run.kind == "grade beam":
        found.append(f"{format_run(run.edge_width, system)} × {format_run(run.edge_depth, system)}")
    return ", ".join(found)
