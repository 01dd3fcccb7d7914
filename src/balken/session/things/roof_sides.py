"""One side of a roof."""

import math
from functools import partial
from typing import Any

from balken.framing.roofs.shape import Edge
from balken.geometry.plane import Point, direction_or, dot, left, sub
from balken.model.edits.roofs import hip_or_gable, set_side
from balken.model.names import HostName, Name, as_thing
from balken.model.project import Project
from balken.model.roofs import SIDE_WORDS, RoofArea, overhang_of, side_of
from balken.model.walls import called
from balken.session.desk import Desk, DragWay, Pull, Thing
from balken.session.rows import Button, Field, Line, Options, Rows, Title
from balken.session.things.roofs import side_called
from balken.units import format_length, format_run, parse_length
from balken.units.pitch import format_pitch, parse_pitch
from balken.works.building import Checked

AS_ROOF = ", as the roof"


def _said(text: str) -> bool:
    """Whether a field of a side says anything of its own."""
    return bool(text.strip()) and AS_ROOF not in text


def _slip(desk: Desk, thing: Name) -> Rows:
    name = as_thing(thing)
    key, side = name.key, name.part
    roof = next((r for r in desk.project.roofs if r.id == key), None)
    shape = desk.checked.structure.roofs.get(HostName("roof", key))
    edge = next((e for e in shape.edges if e.name == side), None) if shape else None
    system = desk.system
    if roof is None or edge is None:
        yield Title("Side of a roof", "", "gone")
        return

    def put(words: str, **what: Any) -> object:
        return desk.edit(words, partial(set_side, key=key, side=side, **what))

    length = math.dist(edge.a, edge.b)
    yield Title(
        side_called(desk.project, edge), f"side of roof {roof.name}", format_length(length, system)
    )
    yield Options(
        "the roof",
        [(words, kind) for kind, words in SIDE_WORDS.items()],
        edge.rule.kind,
        lambda v: put("side of the roof", kind=v),
    )
    yield Button(
        "Turn into a gable" if edge.rule.kind == "slope" else "Turn into a hip",
        lambda: desk.edit("hip or gable", partial(hip_or_gable, key=key, side=side)),
    )
    if edge.slope is not None:
        own = edge.rule.rise
        yield Field(
            "pitch",
            format_pitch(edge.slope * 12, system) + ("" if own else AS_ROOF),
            lambda t: put("pitch of a side", rise=parse_pitch(t, system) if _said(t) else None),
        )
    own_out = edge.rule.overhang is not None
    yield Field(
        "overhang",
        format_run(edge.out, system) + ("" if own_out else AS_ROOF),
        lambda t: put("overhang of a side", overhang=parse_length(t, system) if _said(t) else None),
    )
    yield Field(
        "plate, up",
        format_run(edge.rule.plate, system),
        lambda t: put("plate of a side", plate=parse_length(t, system)),
    )
    yield Line("Empty a field to let it follow the roof.", quiet=True)


def roof_of(project: Project, name: Name) -> RoofArea | None:
    """The roof that a side or a skylight belongs to."""
    return next((r for r in project.roofs if r.id == as_thing(name).key), None)


def _called(project: Project, name: Name) -> str:
    roof, side = roof_of(project, name), as_thing(name).part
    if roof is None:
        return ""
    wall = next((w for w in project.walls if w.id == side), None)
    words = SIDE_WORDS[side_of(roof, side).kind]
    return f"{words}, {called(wall) if wall else f'side {side}'} of roof {roof.name}"


def _edge(checked: Checked, name: Name) -> Edge | None:
    shape = checked.structure.roofs.get(HostName("roof", as_thing(name).key))
    return next((e for e in shape.edges if e.name == as_thing(name).part), None) if shape else None


def _outwards(checked: Checked, name: Name, at: Point) -> DragWay | None:
    """The eave or rake of a side that has an overhang is dragged outwards."""
    edge = _edge(checked, name)
    if edge is None or edge.rule.kind not in ("slope", "gable"):
        return None
    n = left(direction_or(sub(edge.b, edge.a), (1.0, 0.0)))
    return DragWay((-n[0], -n[1]))


def _moved(checked: Checked, base: Project, name: Name, pull: Pull) -> Project:
    """Let a side of a roof reach out further by what its eave is dragged."""
    way, roof = _outwards(checked, name, pull.at), roof_of(base, name)
    if way is None or way.along is None or roof is None:
        return base
    key, side = as_thing(name).key, as_thing(name).part
    now = overhang_of(roof, side_of(roof, side))
    return set_side(base, key, side, overhang=round(max(0.0, now + dot(pull.by, way.along)), 3))


SIDE = Thing(
    "side",
    "side of a roof",
    _slip,
    there=lambda project, name: roof_of(project, name) is not None,
    called=_called,
    tier=lambda project, name: HostName("roof", as_thing(name).key),
    ways=_outwards,
    moved=_moved,
)
