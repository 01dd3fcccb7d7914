"""What a floor is called: by what it is really built up of, so that the name never disagrees with
its depth."""

from balken.drawing.words import pretty
from balken.framing.hosts.heights import build_up_of
from balken.model.catalogue import sections_of
from balken.model.floors import FloorArea
from balken.model.names import HostName
from balken.units import format_run
from balken.works.building import Checked


def depth_of(checked: Checked, floor: FloorArea) -> float:
    """How deep a floor is from its underside to its top, mm, with its ceiling."""
    body = build_up_of(checked.project, floor)
    if body.kind == "slab":
        return body.slab
    sized = checked.sizes.get(HostName("floor", floor.id))
    joist = 0.0
    if sized is not None:
        joist = sections_of(checked.project.system, checked.project.products)[
            sized.size.section
        ].depth
    return body.ceiling + joist + body.subfloor


def floor_depth(checked: Checked, floor: FloorArea) -> str:
    """Write how deep a floor is."""
    return format_run(depth_of(checked, floor), checked.project.system)


def build_up_name(checked: Checked, floor: FloorArea) -> str:
    """What a floor is built up of, in words: ``2×10 at 16", 3/4" subfloor, 10" deep``."""
    system = checked.project.system
    body = build_up_of(checked.project, floor)
    if body.kind == "slab":
        return f"solid slab, {format_run(body.slab, system)}"
    sized = checked.sizes.get(HostName("floor", floor.id))
    parts = []
    if sized is not None:
        parts.append(f"{pretty(sized.size.section)} at {format_run(sized.size.spacing, system)}")
    for value, word in (
        (body.subfloor, "subfloor"),
        (body.insulation, "insulation"),
        (body.ceiling, "ceiling"),
    ):
        if value:
            parts.append(f"{format_run(value, system)} {word}")
    return ", ".join(parts) + f": {floor_depth(checked, floor)} deep"
