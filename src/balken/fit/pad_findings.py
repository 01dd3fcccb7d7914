"""Pads with nothing over them, and posts and piers with nothing under them."""

from collections.abc import Iterable
from typing import Final

from shapely import Polygon, STRtree

from balken.fit.finding import Finding, length_text
from balken.fit.places import place_name
from balken.framing import kinds
from balken.framing.member import Member
from balken.framing.pieces import polygons_of
from balken.geometry.plane import TOUCH
from balken.loads.flow import feet
from balken.loads.path import place_of
from balken.model.names import HostName, MemberName
from balken.model.project import Project
from balken.works.building import Checked

MEETS: Final = 50.0
"""A foot stands on what ends this near under it, mm."""


def pad_findings(checked: Checked) -> Iterable[Finding]:
    """Pads under no post, and posts over nothing that carries them."""
    project = checked.project
    items = checked.structure.of(kinds.PAD, kinds.PIER, kinds.POST)
    touching = _touching(items)
    loads = {HostName("support", s.id): s.loads for s in project.point_supports}
    floors = {f.level for f in project.floors}
    on_beams = feet(checked.structure)
    on_ground = _on_ground(checked, items)
    for m in items:
        # Pads, piers and posts are upright: they begin at their foot and end at their top.
        near, foot = touching[m.id], m.start[2]
        if m.kind is kinds.PAD:
            over = [
                x for x in near if x.kind is not kinds.PAD and abs(x.start[2] - m.end[2]) < MEETS
            ]
            if not over and not loads[m.host] and not _walled(checked, m):
                yield _finding_pad(project, m)
        elif m.kind is kinds.POST and (m.level in floors or m.id in on_beams):
            continue
        elif m.id not in on_ground and not any(
            foot - MEETS <= x.end[2] <= foot + TOUCH for x in near
        ):
            yield _no_pad(project, m)


def _touching(items: list[Member]) -> dict[MemberName, list[Member]]:
    """The pads, piers and posts that each of them touches in plan."""
    found: dict[MemberName, list[Member]] = {m.id: [] for m in items}
    if items:
        rings = polygons_of(items)
        for i, k in zip(*STRtree(rings).query(rings, predicate="intersects").tolist()):
            if i != k:
                found[items[i].id].append(items[k])
    return found


def _on_ground(checked: Checked, items: list[Member]) -> set[MemberName]:
    """Those whose foot stands on the concrete of a foundation or a slab."""
    standing = checked.structure.of(
        kinds.STEM, kinds.EDGE, kinds.GRADE_BEAM, kinds.SLAB, kinds.FOOTING
    )
    if not standing or not items:
        return set()
    tree, rings = STRtree([Polygon(m.solid.plan()) for m in standing]), polygons_of(items)
    return {
        items[i].id
        for i, k in zip(*tree.query(rings, predicate="intersects").tolist())
        if abs(standing[k].solid.top() - items[i].start[2]) <= MEETS
    }


def _no_pad(project: Project, m: Member) -> Finding:
    what = "post" if m.kind is kinds.POST else "pier"
    where = place_name(project, place_of(m))
    return Finding(
        "unsupported",
        f"{what} {m.mark}, {where}",
        1.0,
        "count",
        f"{what.capitalize()} {m.mark} has no pad under its foot at"
        f" {length_text(project, m.start[2])},"
        f" {where}. Put a pad there whose top is at that"
        " height.",
        m.host,
        (m.id,),
        place_of(m),
    )


def _walled(checked: Checked, pad: Member) -> bool:
    ring = Polygon(pad.solid.plan())
    top = pad.solid.top()
    return any(
        m.kind is kinds.STEM
        and abs(m.solid.bounds()[0][2] - top) < MEETS
        and ring.intersects(Polygon(m.solid.plan()))
        for m in checked.structure.members
    )


def _finding_pad(project: Project, m: Member) -> Finding:
    where = place_name(project, place_of(m))
    return Finding(
        "idle pad",
        f"pad {m.mark}, {where}",
        1.0,
        "count",
        f"Pad {m.mark} carries no post and no typed load, {where}. Put a post on it, type its"
        " load, or take it away.",
        m.host,
        (m.id,),
        place_of(m),
    )
