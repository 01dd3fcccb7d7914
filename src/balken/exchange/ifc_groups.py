"""What pieces are part of, in an IFC file: walls of their panels and studs, floors of their joists, roofs of
their trusses and rafters; with the openings of each and what fills them."""

from collections.abc import Iterator, Sequence
from typing import Final, NamedTuple

from balken.exchange.ifc_pieces import Pieces, extruded_shape, write_piece
from balken.exchange.step_text import Ref
from balken.framing.hosts.floor_bearing import opening_ring
from balken.framing.member import Member
from balken.geometry.solid import Extrusion, upright
from balken.model.floors import FloorArea
from balken.model.names import HostName, Name
from balken.model.project import Host, Level, host_records, level, wall_base
from balken.model.walls import Opening, Wall, called, direction_of, reach
from balken.takeoff.lifts import panels_of
from balken.takeoff.weights import called_host

GROUPED: Final = {
    "wall": ("IfcWall", "ELEMENTEDWALL"),
    "floor": ("IfcSlab", "FLOOR"),
    "roof": ("IfcRoof", "NOTDEFINED"),
}
"""What pieces of a host are together."""


Span = tuple[float, float]


class Storey(NamedTuple):
    """A storey of the file: what it is, where it stands, and its level."""

    entity: Ref
    place: Ref
    level: Level


class Group(NamedTuple):
    """A host's pieces, some of them put together first."""

    host: HostName
    level: str
    parts: tuple[tuple[str, str, tuple[Member, ...]], ...]
    """What is put together: its name, what it is, and its pieces; what stands alone has neither."""


def groups_of(p: Pieces) -> Iterator[Group]:
    """The pieces of each host, in the order of the structure."""
    lifted = {name: panel.mark for panel in panels_of(p.checked) for name in panel.pieces}
    by_host: dict[HostName, list[Member]] = {}
    for m in p.checked.structure.members:
        by_host.setdefault(m.host, []).append(m)
    for host, members in by_host.items():
        parts: dict[tuple[str, str], list[Member]] = {}
        for m in members:
            parts.setdefault(_put_together(m, lifted), []).append(m)
        made = tuple((name, what, tuple(mine)) for (name, what), mine in parts.items())
        yield Group(host, members[0].level, made)


def _put_together(m: Member, lifted: dict[Name, str]) -> tuple[str, str]:
    if m.kind.of_truss:
        return f"truss {m.id.row}", "TRUSS"
    panel = lifted.get(m.id)
    return (f"panel {panel}", "WALL PANEL") if panel else ("", "")


def write_group(p: Pieces, group: Group, storey: Storey) -> list[Ref]:
    """The pieces of a host; what stands in its storey: the whole, or each piece that is part of none."""
    w = p.w
    framed = any(not m.kind.concrete for _, _, members in group.parts for m in members)
    if group.host.kind not in GROUPED or not framed:
        return [
            write_piece(p, m, storey.place, storey.level.elevation)
            for _, _, members in group.parts
            for m in members
        ]
    record = host_records(p.checked.built).get(group.host)
    entity, word = GROUPED[group.host.kind]
    # All that is part of it stands in the frame of the building.
    place = w.place(storey.place, w.frame((0.0, 0.0, -storey.level.elevation)))
    name = called_host(record, group.host.key)
    whole = w.root(
        entity,
        f"whole {group.host}",
        Name=name,
        Description=str(group.host),
        ObjectPlacement=place,
        Tag=group.host.key,
        PredefinedType=w.word(entity, "PredefinedType", word)[0],
        ShapeType=word,
    )
    held = []
    for part, what, members in group.parts:
        if part:
            held.append(_assembly(p, group.host, part, what, members, place))
        else:
            held += [write_piece(p, m, place) for m in members]
    w.relate("IfcRelAggregates", f"parts of {group.host}", whole, held)
    _openings(p, whole, record, place)
    return [whole]


def _assembly(
    p: Pieces,
    host: HostName,
    name: str,
    what: str,
    members: Sequence[Member],
    within: Ref,
) -> Ref:
    """Pieces that are put together before they are set: a truss, a panel of a wall."""
    w = p.w
    place = w.place(within)
    word, more = w.word("IfcElementAssembly", "PredefinedType", what)
    made = w.root(
        "IfcElementAssembly",
        f"{name} of {host}",
        Name=name,
        Description=f"{host} {name}",
        ObjectType=more and more.lower(),
        ObjectPlacement=place,
        Tag=name.split(" ", 1)[1],
        AssemblyPlace="FACTORY",
        PredefinedType=word,
    )
    pieces = [write_piece(p, m, place) for m in members]
    w.relate("IfcRelAggregates", f"parts of {host} {name}", made, pieces)
    return made


def _openings(p: Pieces, whole: Ref, record: Host | None, place: Ref) -> None:
    """The openings of a wall with what fills them, and those of a floor."""
    if isinstance(record, Wall):
        for o in record.openings:
            _wall_opening(p, whole, record, o, place)
    elif isinstance(record, FloorArea):
        for item in record.openings:
            ring = opening_ring(p.checked.built, item)
            if ring is not None:
                top = level(p.checked.project, record.level).elevation
                body = upright(ring, top - DEEP, top + DEEP)
                _void(p, whole, f"opening {record.id}/{item.id}", item.use, place, body)


DEEP: Final = 500.0
"""Openings of floors reach so far above and below their top, through all that lies there, mm."""


def _wall_opening(p: Pieces, whole: Ref, wall: Wall, o: Opening, place: Ref) -> None:
    """An opening through all layers, and the door or window in its middle."""
    foot = wall_base(p.checked.built, wall) + o.sill
    left, right = reach(wall)
    name = f"opening {wall.id}/{o.id}"
    body = _box(wall, (o.at, o.at + o.width), (right, left), (foot, foot + o.height))
    opening = _void(p, whole, name, f"{called(wall)} {o.id}", place, body)
    if o.kind == "opening":
        return
    width, height = o.unit if all(o.unit) else (o.width, o.height)
    low = o.at + (o.width - width) / 2
    middle = (left + right) / 2
    pane = _box(
        wall,
        (low, low + width),
        (middle - PANE / 2, middle + PANE / 2),
        (foot, foot + height),
    )
    shape, frame = _shown(p, pane)
    filling = p.w.root(
        "IfcDoor" if o.kind == "door" else "IfcWindow",
        f"{o.kind} {wall.id}/{o.id}",
        Name=f"{called(wall)} {o.id}",
        ObjectPlacement=p.w.place(place, frame),
        Representation=shape,
        Tag=o.id,
        OverallHeight=height,
        OverallWidth=width,
        PredefinedType="DOOR" if o.kind == "door" else "WINDOW",
    )
    p.w.relate("IfcRelFillsElement", f"fills {name}", opening, filling)
    p.fillings.setdefault(wall.base, []).append(filling)


PANE: Final = 50.0
"""Doors and windows are shown so thick, mm."""


def _box(wall: Wall, along: Span, across: Span, up: Span) -> Extrusion:
    """A body in a wall: along it, to its left, and over its storey, mm."""
    way = direction_of(wall)
    side = (-way[1], way[0])
    ring = tuple(
        (wall.start[0] + x * way[0] + y * side[0], wall.start[1] + x * way[1] + y * side[1])
        for x, y in (
            (along[0], across[0]),
            (along[1], across[0]),
            (along[1], across[1]),
            (along[0], across[1]),
        )
    )
    return upright(ring, *up)


def _shown(p: Pieces, body: Extrusion) -> tuple[Ref, Ref]:
    shape, at, *ways = extruded_shape(p.w, body, "", p.body)
    return shape, p.w.frame(at, *ways)


def _void(p: Pieces, whole: Ref, name: str, title: str, within: Ref, body: Extrusion) -> Ref:
    shape, frame = _shown(p, body)
    opening = p.w.root(
        "IfcOpeningElement",
        name,
        Name=title,
        ObjectPlacement=p.w.place(within, frame),
        Representation=shape,
        PredefinedType="OPENING",
    )
    p.w.relate("IfcRelVoidsElement", f"void of {name}", whole, opening)
    return opening
