"""What hips are cut from before the rafters on them are known: under the load of the planes beside
them.

A first guess that is mostly the last word: the building is framed with it, the loads are followed,
and where they ask for another section it is framed once more.
"""

import math
from collections.abc import Iterable
from typing import Final

from balken.design.around import Around
from balken.design.carrying import stick_for
from balken.design.sizing import Sized
from balken.design.terms import Terms
from balken.design.under import UNKNOWN
from balken.framing import kinds
from balken.framing.hosts.roof_shapes import shapes_of
from balken.framing.hosts.sites import Sites
from balken.framing.member import Bearings, CutFrom, Member, Size, apart
from balken.framing.pieces import strip_under
from balken.framing.roofs.shape import RoofShape, lines_of_shape
from balken.framing.roofs.sticks import SectionFor, Setting, Stick, cut_sticks, sticks_of
from balken.geometry.plane import TOUCH, add, cross, left
from balken.loads.parcels import Parcel
from balken.loads.path import area_loads
from balken.model.names import HostName, MemberName
from balken.model.roofs import RoofArea
from balken.recall import remembered

STATIONS: Final = 12
"""So many loads stand for what lies along a hip."""


def first_sticks(
    sites: Sites, terms: Terms, sizes: dict[HostName, Sized]
) -> dict[HostName, tuple[CutFrom, ...]]:
    """Per roof of rafters what its hips are taken to be cut from."""
    rafters = [s for s in sites.roofs if s.roof.framing == "rafters" and s.host in sizes]
    if not rafters:
        return {}
    shapes = shapes_of(sites.roofs, {host: s.size for host, s in sizes.items()}).framed
    found = {}
    for s in rafters:
        if s.host in shapes and s.bearings is not None:
            rows = _first(terms, s.roof, shapes[s.host], s.bearings, sizes[s.host].size)
            if rows:
                found[s.host] = rows
    return found


@remembered
def _first(
    terms: Terms, roof: RoofArea, shape: RoofShape, bearings: Bearings, size: Size
) -> tuple[CutFrom, ...]:
    sections = terms.sections
    lines = lines_of_shape(shape)
    steepest = max((f.pitch for f in shape.roof.faces), default=0.0)
    choose = SectionFor(sections[size.section], steepest, {}, sections, dict(roof.rafters.sections))
    sticks = sticks_of(roof, shape, lines, choose, {}, sections)
    if not any(s.kind is kinds.HIP for s in sticks):
        return ()
    setting = Setting(
        roof, shape, bearings.width, lambda p: strip_under(p, bearings.strips), terms.system
    )
    least = sections[size.section].depth * math.hypot(1.0, steepest)
    typed = dict(roof.rafters.sections)
    rows = []
    for stick, m in zip(sticks, cut_sticks(sticks, setting)):
        if (
            stick.kind is kinds.HIP
            and m.kind.part not in typed
            and len(apart(m.carrier.supports)) > 1
        ):
            parcels = tuple(_along(roof, shape, stick, m))
            around = Around((UNKNOWN,) * len(apart(m.carrier.supports)))
            rows.append(((m.role, m.id.place), stick_for(terms, roof, m, least, parcels, around)))
    return tuple(sorted(rows))


def _along(roof: RoofArea, shape: RoofShape, stick: Stick, m: Member) -> Iterable[Parcel]:
    """What jacks bring to a hip: half of what lies on the planes between it and the eaves.

    At the run s of a hip that lies at an angle to the eaves ends a jack of the length s sin a; a
    stretch ds takes up ds cos a of the eaves.
    """
    low, high = apart(m.carrier.supports)[0].at, apart(m.carrier.supports)[-1].at
    length = high - low
    if length < TOUCH:
        return
    jacks = MemberName(m.host, "hip jack", m.id.row)
    for n in stick.line.faces:
        face = shape.roof.faces[n]
        if face.pitch < 1e-9:
            continue
        up = (face.plane[0] / face.pitch, face.plane[1] / face.pitch)
        sine, cosine = abs(cross(stick.way, left(up))), abs(cross(stick.way, up))
        loads = area_loads(roof, face.pitch)
        for k in range(STATIONS):
            s = length * (k + 0.5) / STATIONS
            area = s * sine / 2 * cosine * length / STATIONS
            x, y = add((m.start[0], m.start[1]), stick.way, low + s)
            yield Parcel(x, y, loads * area, jacks)
