"""Posts, pads and piers as members: one body on one spot between two levels."""

from typing import Final

from balken.framing.member import Framed, Member, MemberRole
from balken.geometry.solid import upright
from balken.model.catalogue import catalogue_of
from balken.model.project import PointSupport, Project
from balken.model.supports import heights, outline_at, spots_of
from balken.units import System, format_run

POST_MATERIAL: Final = "DF-L No.2"


def frame_supports(project: Project) -> Framed:
    """Frame every point support that stands somewhere."""
    found = []
    for item, spot, turn in spots_of(project):
        ring = outline_at(item, spot, turn)
        low, high = heights(project, item)
        section, material = _made_of(item, project.system)
        role: MemberRole = item.kind
        found.append(
            Member(
                f"support:{item.id}/{role}:1", item.id, role, f"support:{item.id}", item.base, section, material,
                upright(ring, low, high), (*spot, low), (*spot, high), high - low, high - low,
                ("square", "square") if role == "post" else (),
            )
        )  # fmt: skip
    return Framed(tuple(found))


def _made_of(item: PointSupport, system: System) -> tuple[str, str]:
    """Return section and material: a post of a size that is sold is lumber; pads and piers are concrete."""
    size = f"{format_run(item.size[0], system)} × {format_run(item.size[1], system)}"
    if item.round:
        size = f"ø {format_run(item.size[0], system)}"
    if item.kind != "post":
        return size, "concrete"
    small, large = sorted(item.size)
    for section in catalogue_of(system).sections.values():
        if not item.round and abs(section.breadth - small) < 0.5 and abs(section.depth - large) < 0.5:
            return section.name, POST_MATERIAL
    return size, "post"
