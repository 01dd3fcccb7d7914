"""Concrete to order and to form: volumes counted once, and the area of formwork by face.

A face that touches other concrete is not formed; nor is a top, nor a bottom that lies on the
ground.
"""

import math
from typing import Final

import msgspec
import numpy as np
from numpy.typing import NDArray

from balken.framing import kinds
from balken.framing.hosts.runs import sides_of
from balken.framing.member import Member
from balken.framing.structure import Structure
from balken.geometry.plane import direction_or, left, sub
from balken.geometry.trim import Body, Mesh, face_areas, union
from balken.model.names import HostName, MemberName, whole
from balken.works.building import Checked

UPRIGHT: Final = 0.3
"""A face whose normal rises or falls by less than this is a side, by more a top or an underside."""
ALONG: Final = 0.7
"""A side whose normal runs along the member by more than this is an end."""
LOW: Final = 1.0
"""An underside this near to the bottom of its own body lies on the ground or on what carries it,
mm."""


class Poured(msgspec.Struct, frozen=True):
    """One concrete member: volume in mm³, formwork in mm² by face (outer, inner, side, end,
    underside)."""

    id: MemberName
    mark: str
    role: str
    host: HostName
    volume: float
    forms: tuple[tuple[str, float], ...]

    @property
    def formed(self) -> float:
        """All its formwork, mm²."""
        return math.fsum(a for _, a in self.forms)


def poured(checked: Checked) -> tuple[Poured, ...]:
    """The concrete of a building with its formwork."""
    project = checked.project
    outside: dict[tuple[HostName, str], int] = {}
    for run in project.runs:
        for key, sign in sides_of(project, run):
            outside[HostName("run", run.id), whole(key)] = sign
    return concrete_list(checked.structure, outside)


def concrete_list(
    structure: Structure, outside: dict[tuple[HostName, str], int]
) -> tuple[Poured, ...]:
    """Every concrete member with its volume and formwork.

    Args:
        structure: the building.
        outside: for the wall over a member (host, wall): 1 where its left side is outside, -1 its
            right.
    """
    mine = [m for m in structure.members if m.kind.concrete]
    mesh = union([Body(m.solid, m.voids) for m in mine])
    areas, normals = face_areas(mesh)
    forms: list[dict[str, float]] = [{} for _ in mine]
    for i, m in enumerate(mine):
        triangles = np.flatnonzero(mesh.source == i)
        for t in triangles.tolist():
            face = _face(m, mesh, t, normals[t], outside)
            if face:
                forms[i][face] = forms[i].get(face, 0.0) + float(areas[t])
    return tuple(
        Poured(m.id, m.mark, m.role, m.host, structure.volume(m), tuple(sorted(f.items())))
        for m, f in zip(mine, forms)
    )


def _face(
    m: Member,
    mesh: Mesh,
    triangle: int,
    normal: NDArray[np.float64],
    outside: dict[tuple[HostName, str], int],
) -> str:
    n = (float(normal[0]), float(normal[1]))
    if normal[2] > UPRIGHT or m.kind is kinds.BLINDING:
        return ""
    if normal[2] < -UPRIGHT:
        bottom = m.solid.bounds()[0][2]
        z = float(mesh.points[mesh.triangles[triangle], 2].mean())
        return "" if z <= bottom + LOW and m.kind is not kinds.CORBEL else "underside"
    way = direction_or(sub(m.end[:2], m.start[:2]), (1.0, 0.0))
    if (
        m.kind not in (kinds.SLAB, kinds.PAD, kinds.PIER)
        and abs(n[0] * way[0] + n[1] * way[1]) > ALONG
    ):
        return "end"
    key = whole(m.id.row)
    sign = outside.get((m.host, key))
    if sign is None:
        return "side"
    normal_left = left(way)
    return "outer" if (n[0] * normal_left[0] + n[1] * normal_left[1]) * sign > 0 else "inner"
