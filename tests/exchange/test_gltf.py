"""The glTF file: its head and chunks by the standard (ISO/IEC 12113), places and volumes by walking its
nodes, and its pieces as VTK reads them."""

import json
import struct
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from balken.exchange.gltf import structure_gltf
from balken.framing.rolled import is_rolled
from balken.model.catalogue import sections_of
from balken.model.project import Project
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.takeoff.issued import issued_of
from balken.works.building import Checked, work_out


def opened(data: bytes) -> tuple[dict[str, Any], bytes]:
    magic, version, length = struct.unpack_from("<4sII", data)
    assert (magic, version, length) == (b"glTF", 2, len(data))
    size, kind = struct.unpack_from("<I4s", data, 12)
    assert kind == b"JSON"
    assert size % 4 == 0
    told = json.loads(data[20 : 20 + size])
    rest = data[20 + size :]
    if not rest:
        return told, b""
    more, kind = struct.unpack_from("<I4s", rest)
    assert kind == b"BIN\0"
    return told, rest[8 : 8 + more]


def numbers(told: dict[str, Any], data: bytes, which: int) -> np.ndarray:
    a = told["accessors"][which]
    view = told["bufferViews"][a["bufferView"]]
    kind = {5126: "<f4", 5125: "<u4"}[a["componentType"]]
    wide = {"VEC3": 3, "SCALAR": 1}[a["type"]]
    found = np.frombuffer(data, kind, a["count"] * wide, view["byteOffset"])
    return found.reshape(-1, wide)


def pieces(told: dict[str, Any], data: bytes) -> dict[str, np.ndarray]:
    """The triangles (n, 3, 3) of each piece in metres with y up, by its name."""
    found = {}

    def walk(number: int, turned: np.ndarray) -> None:
        node = told["nodes"][number]
        own = np.array(node.get("matrix", np.eye(4).flatten())).reshape(4, 4).T
        turned = turned @ own
        if "mesh" in node:
            (part,) = told["meshes"][node["mesh"]]["primitives"]
            places = numbers(told, data, part["attributes"]["POSITION"]).astype(float)
            order = numbers(told, data, part["indices"])[:, 0]
            placed = places[order] @ turned[:3, :3].T + turned[:3, 3]
            found[node["name"]] = placed.reshape(-1, 3, 3)
        for child in node.get("children", ()):
            walk(child, turned)

    for root in told["scenes"][told["scene"]]["nodes"]:
        walk(root, np.eye(4))
    return found


@pytest.mark.parametrize("which", ["bakehouse", "ferry hall"])
def test_every_piece_has_its_place_and_its_volume(which: str) -> None:
    checked = work_out(shown_demo() if which == "bakehouse" else ferry_hall())
    found = pieces(*opened(structure_gltf(checked)))
    wanted = {x.name: x for x in issued_of(checked)}
    sections = sections_of(checked.project.system, checked.project.products)
    shown = {str(m.id): checked.structure.volume(m) for m in checked.structure.members}
    for m in checked.structure.members:
        if is_rolled(section := sections.get(m.section)):
            shown[str(m.id)] = section.area * m.length
    assert found.keys() == wanted.keys()
    for name, triangles in found.items():
        mm = triangles[..., [0, 2, 1]] * (1e3, -1e3, 1e3)
        x = wanted[name]
        points = mm.reshape(-1, 3)
        # Four-byte numbers hold seven places.
        assert points.min(axis=0) == pytest.approx(x.low, abs=0.05), name
        assert points.max(axis=0) == pytest.approx(x.high, abs=0.05), name
        a, b, c = (mm[:, i] - points.mean(axis=0) for i in range(3))
        volume = np.einsum("ij,ij->i", a, np.cross(b, c)).sum() / 6
        assert volume == pytest.approx(shown[name], rel=2e-3), name


def test_levels_hold_hosts_and_hosts_hold_pieces(demo_checked: Checked) -> None:
    told, _ = opened(structure_gltf(demo_checked))
    (root,) = told["scenes"][0]["nodes"]
    levels = [told["nodes"][i] for i in told["nodes"][root]["children"]]
    names = {x.name for x in demo_checked.project.levels}
    assert {x["name"] for x in levels} <= names
    member = demo_checked.structure.members[0]
    mine = next(n for n in told["nodes"] if n["name"] == str(member.id))
    assert mine["extras"]["mark"] == member.mark


def test_what_an_accessor_says_of_itself_is_so(demo_checked: Checked) -> None:
    """Least and greatest, ends of views, and numbers of corners (3.6.2)."""
    told, data = opened(structure_gltf(demo_checked))
    assert told["buffers"] == [{"byteLength": len(data)}]
    for i, a in enumerate(told["accessors"]):
        view = told["bufferViews"][a["bufferView"]]
        assert view["byteOffset"] % 4 == 0
        assert view["byteOffset"] + view["byteLength"] <= len(data)
        if a["type"] == "VEC3":
            assert numbers(told, data, i).min(axis=0).tolist() == pytest.approx(a["min"])
            assert numbers(told, data, i).max(axis=0).tolist() == pytest.approx(a["max"])
    for mesh in told["meshes"]:
        (part,) = mesh["primitives"]
        assert told["materials"][part["material"]]["name"]
        order = numbers(told, data, part["indices"])
        assert order.max() < told["accessors"][part["attributes"]["POSITION"]]["count"]
        across = numbers(told, data, part["attributes"]["NORMAL"])
        assert np.linalg.norm(across, axis=1) == pytest.approx(1.0, abs=1e-5)


def test_vtk_reads_it(demo_checked: Checked, tmp_path: Path) -> None:
    """An independent reader: as many triangles and the same box."""
    from vtkmodules.vtkIOGeometry import vtkGLTFReader

    path = tmp_path / "s.glb"
    path.write_bytes(structure_gltf(demo_checked))
    reader = vtkGLTFReader()
    reader.SetFileName(str(path))
    reader.ApplyDeformationsToGeometryOn()
    reader.Update()
    box = [0.0] * 6
    reader.GetOutput().GetBounds(box)
    all_ = np.concatenate([t.reshape(-1, 3) for t in pieces(*opened(path.read_bytes())).values()])
    mine = [x for low, high in zip(all_.min(axis=0), all_.max(axis=0)) for x in (low, high)]
    assert box == pytest.approx(mine, abs=1e-3)


def test_nothing_is_a_file_too(demo: Project) -> None:
    import msgspec

    bare = msgspec.structs.replace(demo, runs=(), floors=(), roofs=(), walls=(), beams=(), bays=())
    told, data = opened(structure_gltf(work_out(bare)))
    assert data == b""
    assert "meshes" not in told
