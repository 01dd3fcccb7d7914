"""What stands between the girder truss of a hip end and its wall: jacks, hips and their ties."""

import math
from collections.abc import Sequence
from functools import partial

from msgspec.structs import replace

from balken.framing import kinds
from balken.framing.layout import Stand, to_local, to_plan
from balken.framing.member import Bearings, Member, Size
from balken.framing.pieces import Cut as PieceCut
from balken.framing.pieces import level_piece, strip_under
from balken.framing.roofs.rafter_cuts import Cutting
from balken.framing.roofs.rafters import FLAT, Family, frame_face, run_of
from balken.framing.roofs.shape import RoofShape
from balken.framing.roofs.sticks import SectionFor, Setting, Stick, cut_sticks, sticks_of
from balken.framing.trusses.placing import BREADTH, PlacedTruss, Zone
from balken.geometry.plane import add, box, signed_area, sub, unit
from balken.geometry.roof_lines import RoofLine, roof_lines
from balken.geometry.roof_planes import Face, Roof
from balken.model.names import HostName, MemberName, piece_letters
from balken.model.project import Change
from balken.model.roofs import RoofArea
from balken.model.sections import Section
from balken.units import System


def hip_end(
    zone: Zone,
    girder: PlacedTruss,
    roof: RoofArea,
    shape: RoofShape,
    bearings: Bearings,
    size: Size,
    sections: dict[str, Section],
    system: System,
    changes: tuple[Change, ...],
    angle: float,
) -> list[Member]:
    """The jacks between a hip end and its girder: top chords like jack rafters, a bottom
    chord under each."""
    faces = _beyond(shape.roof.faces, zone, angle)
    part = replace(shape, roof=Roof(tuple(faces), shape.roof.top))
    lines = roof_lines(part.roof)
    section = sections[girder.sections[0]]
    by_name = {c.member: c for c in changes}
    steepest = max(f.pitch for f in faces)
    choose = SectionFor(section, steepest, dict(size.cut), sections, {})
    hips = sticks_of(roof, part, [x for x in lines if x.kind == "hip"], choose, by_name, sections)
    name = MemberName(HostName("roof", roof.id), "bottom chord", girder.row)
    ends = [add(girder.start, girder.way, s) for s in (-3000.0, girder.profile.span + 3000.0)]
    line = RoofLine("break", (*ends[0], 0.0), (*ends[1], 0.0), ())
    wide = replace(section, breadth=section.breadth * girder.plies)
    across = Stick(name, "", kinds.TOP_CHORD, line, (*ends[0], 0.0), (*ends[1], 0.0), wide)
    sticks = [*hips, across]
    cutting = Cutting(
        roof,
        part,
        lines,
        sticks,
        bearings.strips,
        bearings.width,
        sections,
        section,
        by_name,
        system,
    )
    found: list[Member] = []
    for n, face in enumerate(faces):
        rows = _jack_rows(part, face, size.spacing)
        made, _ = frame_face(n, face, rows, cutting, piece_letters(n))
        found += made
    chords = [_tie(m, roof, shape, bearings, sections[girder.sections[1]]) for m in found]
    setting = Setting(
        roof, part, bearings.width, partial(strip_under, strips=bearings.strips), system
    )
    return [
        *found,
        *[c for c in chords if c is not None],
        *cut_sticks(hips, setting._replace(along=(across,))),
    ]


def _jack_rows(shape: RoofShape, face: Face, spacing: float) -> Family:
    """The rows of jacks on a plane, from the middle of its side outwards."""
    angle = run_of(face)
    edge = shape.edges[face.side]
    middle = to_local(((edge.a[0] + edge.b[0]) / 2, (edge.a[1] + edge.b[1]) / 2), angle)[0]
    x0, _, x1, _ = box([to_local(p, angle) for p in shape.ring])
    count = int((x1 - x0) / spacing) + 1
    places: list[Stand] = []
    for k in range(-count, count + 1):
        at = middle + (k + 0.5) * spacing
        if x0 + BREADTH < at < x1 - BREADTH:
            places.append((f"J{k + count + 1:02d}", at, -math.inf, math.inf))
    return Family(angle, places)


def _beyond(faces: Sequence[Face], zone: Zone, angle: float) -> list[Face]:
    """What of the planes lies between a girder and its hip end."""
    from shapely import Polygon
    from shapely import box as rectangle

    found = []
    for face in faces:
        if face.pitch <= FLAT:
            continue
        local = Polygon([to_local(p, angle) for p in face.outline])
        x0, y0, x1, y1 = local.bounds
        side = (
            rectangle(x0 - 1, y0 - 1, zone.girder, y1 + 1)
            if zone.low
            else rectangle(zone.girder, y0 - 1, x1 + 1, y1 + 1)
        )
        part = local.intersection(side)
        for g in getattr(part, "geoms", [part]):
            if g.geom_type == "Polygon" and g.area > 1e4:
                ring = [to_plan((x, y), angle) for x, y in g.exterior.coords[:-1]]
                found.append(
                    replace(
                        face, outline=tuple(ring if signed_area(ring) > 0 else ring[::-1]), holes=()
                    )
                )
    return found


def _tie(
    m: Member, roof: RoofArea, shape: RoofShape, bearings: Bearings, section: Section
) -> Member | None:
    """The bottom chord of a jack, level from the wall to what the jack hangs on."""
    if (
        not m.carrier.supports[0].on
        or m.run < 4 * section.depth
        or roof.trusses.bearing == "top chord"
    ):
        return None
    at = m.carrier.supports[0].at - m.carrier.supports[0].length / 2
    way = unit(sub(m.end[:2], m.start[:2]))
    a, b = add(m.start[:2], way, at), m.end[:2]
    name = MemberName(
        m.host, "bottom-chord", f"{m.id.family}-{m.id.row}".replace(" ", "-"), m.id.piece
    )
    return level_piece(
        name,
        f"{m.mark}B",
        kinds.BOTTOM_CHORD,
        m.host,
        roof.plate,
        PieceCut(section.name, f"{roof.species} {roof.grade}", section.breadth),
        a,
        b,
        bearings.height,
        bearings.height + section.depth,
    )
