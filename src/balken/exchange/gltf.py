"""The structure as glTF 2.0 (ISO/IEC 12113:2022), one binary file: levels hold hosts, hosts hold pieces by
their names; alike pieces share a body, and what is of one stuff a material.

glTF measures in metres with y up; what holds all turns and scales the building's mm.
"""

import json
import struct
from collections.abc import Sequence
from itertools import pairwise
from typing import Any, Final, NamedTuple

import numpy as np
from numpy.typing import NDArray

from balken.framing.member import Member
from balken.framing.rolled import is_rolled, shape_of
from balken.geometry.facets import triangles
from balken.geometry.solid import Extrusion, Vector
from balken.model.catalogue import sections_of
from balken.model.project import column, host_records
from balken.model.sections import Section
from balken.takeoff.weights import called_host
from balken.works.building import Checked

Corners = NDArray[np.float64]

FLOAT, UINT = 5126, 5125
VERTICES, INDICES = 34962, 34963
"""What parts of the buffer are for (5.11.5)."""
COLOURS: Final = {
    "wood": (0.80, 0.66, 0.46, 1.0),
    "panel": (0.86, 0.77, 0.60, 1.0),
    "concrete": (0.62, 0.62, 0.60, 1.0),
    "steel": (0.42, 0.47, 0.52, 1.0),
}
"""Of materials, linear red, green, blue and how dense."""
UPRIGHT: Final = (0.001, 0, 0, 0, 0, 0, -0.001, 0, 0, 0.001, 0, 0, 0, 0, 0, 1)
"""From mm with z up to metres with y up, column by column."""


class _File:
    """One file being written."""

    def __init__(self, sections: dict[str, Section]) -> None:
        self.sections = sections
        self.data = bytearray()
        self.views: list[dict[str, Any]] = []
        self.accessors: list[dict[str, Any]] = []
        self.meshes: list[dict[str, Any]] = []
        self.nodes: list[dict[str, Any]] = []
        self.alike: dict[tuple[Any, ...], int] = {}

    def node(self, **values: Any) -> int:
        self.nodes.append(values)
        return len(self.nodes) - 1

    def accessor(self, values: NDArray[Any], kind: int, target: int) -> int:
        """Numbers in the buffer; of places, the least and the greatest stand beside them."""
        raw = values.tobytes()
        view = {
            "buffer": 0,
            "byteOffset": len(self.data),
            "byteLength": len(raw),
            "target": target,
        }
        self.views.append(view)
        self.data += raw
        made: dict[str, Any] = {
            "bufferView": len(self.views) - 1,
            "componentType": kind,
            "count": len(values),
            "type": "VEC3" if values.ndim == 2 else "SCALAR",
        }
        if values.ndim == 2:
            made["min"], made["max"] = values.min(axis=0).tolist(), values.max(axis=0).tolist()
        self.accessors.append(made)
        return len(self.accessors) - 1

    def mesh(self, body: Corners, material: int, name: str) -> int:
        """A body of triangles (n, 3, 3), mm, each face flat."""
        normals = np.cross(body[:, 1] - body[:, 0], body[:, 2] - body[:, 0])
        sizes = np.linalg.norm(normals, axis=1)
        kept = sizes > LEAST
        body, normals = body[kept], normals[kept] / sizes[kept, None]
        places = body.reshape(-1, 3).astype("<f4")
        across = np.repeat(normals, 3, axis=0).astype("<f4")
        numbers = np.arange(len(places), dtype="<u4")
        primitive = {
            "attributes": {
                "POSITION": self.accessor(places, FLOAT, VERTICES),
                "NORMAL": self.accessor(across, FLOAT, VERTICES),
            },
            "indices": self.accessor(numbers, UINT, INDICES),
            "material": material,
        }
        self.meshes.append({"name": name, "primitives": [primitive]})
        return len(self.meshes) - 1


LEAST: Final = 1e-6
"""A triangle with less than half this area has no side to face, mm²."""


def structure_gltf(checked: Checked) -> bytes:
    """The structure as the bytes of a binary glTF file."""
    project = checked.project
    f = _File(sections_of(project.system, project.products))
    stuff_of = {m.id: _stuff(m, f.sections.get(m.section)) for m in checked.structure.members}
    stuffs = [s for s in COLOURS if s in stuff_of.values()]
    hosts = host_records(checked.built)
    by_level: dict[str, dict[str, list[int]]] = {}
    for m in checked.structure.members:
        piece = _piece(f, checked, m, stuffs.index(stuff_of[m.id]))
        name = called_host(hosts.get(m.host), m.host.key)
        by_level.setdefault(m.level, {}).setdefault(name, []).append(piece)
    levels = [
        f.node(
            name=item.name,
            children=[f.node(name=n, children=made) for n, made in by_level[item.id].items()],
            extras={"elevation_mm": item.elevation},
        )
        for item in column(project)
        if item.id in by_level
    ]
    top: dict[str, Any] = {"name": project.name or "Structure", "matrix": UPRIGHT}
    root = f.node(**top, **({"children": levels} if levels else {}))
    return _bound(f, root, stuffs)


def _stuff(m: Member, section: Section | None) -> str:
    if m.kind.concrete:
        return "concrete"
    if is_rolled(section):
        return "steel"
    return "panel" if m.kind.ifc.entity == "IfcPlate" else "wood"


class _Body(NamedTuple):
    """A body about its own frame, with what tells alike ones, and that frame, column by column."""

    key: tuple[Any, ...]
    corners: Corners
    frame: tuple[float, ...]


def _piece(f: _File, checked: Checked, m: Member, stuff: int) -> int:
    mesh = checked.structure.concrete.meshes.get(m.id)
    body = (
        _own(shape_of(m, f.sections.get(m.section)))
        if mesh is None
        else _given(mesh.points[mesh.triangles])
    )
    key = (stuff, *body.key)
    if key not in f.alike:
        f.alike[key] = f.mesh(body.corners, stuff, f"{m.section or m.role}")
    used = checked.used.get(m.id)
    extras = {"mark": m.mark, "is": m.role, "section": m.section, "material": m.material}
    if used is not None and np.isfinite(used[0]):
        extras |= {"used_to": round(used[0], 4), "by": used[1]}  # type: ignore[dict-item]
    return f.node(name=str(m.id), mesh=f.alike[key], matrix=body.frame, extras=extras)


def _own(solid: Extrusion) -> _Body:
    """An extruded body in the frame of its outline, which begins at its first corner."""
    a, b = solid.outline[0]
    rings = [(0.0, solid.outline), *(solid.across or ((solid.depth, solid.outline),))]
    places = tuple(
        tuple((round(x - a, 3), round(y - b, 3), round(depth, 3)) for x, y in ring)
        for depth, ring in rings
    )
    at = [o + a * u + b * v for o, u, v in zip(solid.origin, solid.u, solid.v)]
    columns = ((*solid.u, 0.0), (*solid.v, 0.0), (*solid.normal, 0.0), (*at, 1.0))
    frame = tuple(float(x) for one in columns for x in one)
    return _Body(places, np.array(list(_sides(places))), frame)


def _sides(rings: Sequence[Sequence[Vector]]) -> list[tuple[Vector, Vector, Vector]]:
    """The faces of a body between outlines as triangles, seen counter-clockwise from outside."""
    near, far = rings[0], rings[-1]
    found = [(near[k], near[j], near[i]) for i, j, k in triangles([p[:2] for p in near])]
    found += [(far[i], far[j], far[k]) for i, j, k in triangles([p[:2] for p in far])]
    for a, b in pairwise(rings):
        for i in range(len(a)):
            k = (i + 1) % len(a)
            found += [(a[i], a[k], b[k]), (a[i], b[k], b[i])]
    return found


def _given(corners: Corners) -> _Body:
    """A body by its triangles, about its least corner."""
    low = corners.reshape(-1, 3).min(axis=0)
    frame = (1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, *low.tolist(), 1.0)
    own = corners - low
    return _Body((own.tobytes(),), own, frame)


def _bound(f: _File, root: int, stuffs: Sequence[str]) -> bytes:
    """All of it as one file: a head, what it says, and the buffer (4.1)."""
    told: dict[str, Any] = {
        "asset": {"version": "2.0", "generator": "Balken"},
        "scene": 0,
        "scenes": [{"nodes": [root]}],
        "nodes": f.nodes,
    }
    if f.meshes:
        told |= {
            "meshes": f.meshes,
            "materials": [
                {
                    "name": s,
                    "pbrMetallicRoughness": {
                        "baseColorFactor": COLOURS[s],
                        "metallicFactor": 0.0,
                        "roughnessFactor": 0.9,
                    },
                }
                for s in stuffs
            ],
            "accessors": f.accessors,
            "bufferViews": f.views,
            "buffers": [{"byteLength": len(f.data)}],
        }
    words = json.dumps(told, ensure_ascii=False, separators=(",", ":")).encode()
    parts = _chunk(b"JSON", words, b" ")
    if f.meshes:
        parts += _chunk(b"BIN\0", bytes(f.data), b"\0")
    return b"glTF" + struct.pack("<II", 2, 12 + len(parts)) + parts


def _chunk(kind: bytes, data: bytes, fill: bytes) -> bytes:
    data += fill * (-len(data) % 4)
    return struct.pack("<I", len(data)) + kind + data
