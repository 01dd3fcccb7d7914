"""The way of the loads: every area load to a member, every reaction to what carries it, down to the
soil.

A load travels as a parcel: a place in plan and its force per case. Nothing is lost on the way: a
parcel that finds nothing underneath is kept as an open end, and what was applied is added up by
another road to compare.
"""

import math
from collections.abc import Callable, Iterable
from functools import partial
from typing import Final, NamedTuple

import msgspec
import shapely
from msgspec.structs import replace

from balken.framing import kinds
from balken.framing.hosts.floor_bearing import bearings_of_floor
from balken.framing.member import Bearings, Member, Part
from balken.framing.pieces import polygons_of
from balken.framing.structure import Structure
from balken.geometry.plane import TOUCH, Ring, box, signed_area
from balken.geometry.roof_lines import measures
from balken.loads.between_piers import Spanning, onto_piers, spanning
from balken.loads.drawn import size_of
from balken.loads.flow import PIECE, Flow, face_area, slab_area
from balken.loads.heaped import Heap, as_loads
from balken.loads.parcels import OpenEnd, Parcel, Parcels
from balken.loads.reduction import lessened, reductions
from balken.loads.step_snow import step_heaps
from balken.loads.valley_snow import valley_heaps
from balken.model.cases import NOTHING, Cases, greatest_of, total
from balken.model.catalogue import sections_of, weight_of
from balken.model.floors import FloorArea
from balken.model.names import HostName, MemberName, Rest, whole
from balken.model.product_rows import WOOD_WEIGHT
from balken.model.project import Host, Project, host_records
from balken.model.roofs import RoofArea
from balken.model.walls import straightened
from balken.recall import remembered_piece
from balken.site.wall_weights import wall_dead

BALANCE: Final = 1e-9
"""Load is all there where sums made by two roads differ by no more than this part of what is
applied."""

SPECK: Final = 0.01
"""No less than this is told as lost, N: a gram. Outlines with curved walls are known to a
ten-thousandth of a millimetre."""


class Beside(msgspec.Struct, frozen=True, gc=False):
    """Load on a floor or a roof that none of its members carries (or, less than nothing, that two
    of them carry), N per case; and the area it lies on, mm²."""

    host: HostName
    forces: Cases
    area: float


class LoadPath(msgspec.Struct, frozen=True):
    """Where all load goes. Forces in N."""

    applied: Cases
    beside: tuple["Beside", ...]
    """What of the load on a floor or a roof none of its members carries."""
    soil: dict[MemberName, Cases]
    """Per footing piece, own weight included."""
    onto: dict[Rest, Cases]
    """What each wall, post, sill and stem takes over from above."""
    open_ends: tuple[OpenEnd, ...]
    reactions: dict[MemberName, tuple[Cases, ...]]
    """Per member that spans, at each of its supports."""
    carried: dict[MemberName, tuple[Parcel, ...]]
    """What lies on members besides the area they carry: ends of others, walls, posts."""
    rests: dict[MemberName, tuple[tuple[Rest, Ring], ...]]
    """What each slab lies on, with the outline of the place."""
    onto_more: dict[Rest, Cases] = {}
    """What walls and posts take besides when live load stands on some spans only."""
    soil_more: dict[MemberName, Cases] = {}
    """What comes onto each footing piece besides, likewise."""
    points: dict[MemberName, tuple[Parcel, ...]] = {}
    """What each footing piece is loaded with, one by one, its own weight left out."""
    handed: tuple[tuple[Rest, Rest, Cases], ...] = ()
    """Who hands what to whom, one by one, joists but for that lie plainly on two bearings."""
    handed_parts: tuple[tuple[Rest, tuple[Parcel, ...]], ...] = ()
    """What such joists hand to each of their bearings."""
    heaped: tuple[Heap, ...] = ()
    """Snow on lower roofs beside what lies evenly on them."""
    on_trusses: dict[MemberName, tuple[Parcel, ...]] = {}
    """What of drawn loads and heaped snow comes onto each truss, by its first bottom chord."""
    reduced: dict[MemberName, float] = {}
    """How much of its live load counts on each post, pad and beam that carries a large area."""
    on_walls: dict[HostName, tuple[Parcel, ...]] = {}
    """What came onto each wall, headers having handed theirs to their jacks."""
    spanning: Spanning = {}
    """Grade beams that span, and the piers under each."""

    def onto_most(self, name: Rest) -> Cases | None:
        """The greatest that a wall or post takes over, per case; None where nothing comes."""
        even = self.onto.get(name)
        return (
            None if even is None else self._lessened(name, even + self.onto_more.get(name, NOTHING))
        )

    def soil_most(self, name: MemberName, none: Cases = NOTHING) -> Cases:
        """The greatest that a footing hands to the soil, per case; ``none`` where nothing comes."""
        return self._lessened(name, self.soil.get(name, none) + self.soil_more.get(name, NOTHING))

    def _lessened(self, name: Rest, forces: Cases) -> Cases:
        """With what of the live load counts over a large area."""
        share = self.reduced.get(name, 1.0) if isinstance(name, MemberName) else 1.0
        return forces if share == 1.0 else replace(forces, live=forces.live * share)

    @property
    def soil_total(self) -> Cases:
        """Sum over all footings."""
        return total(self.soil.values())


def area_loads(record: Host | None, slope: float = 0.0) -> Cases:
    """The load per plan area of a floor, or of a roof of a slope, N/mm² per case; dead load
    lies on the slope. Nothing of other hosts."""
    if isinstance(record, RoofArea):
        dead = record.dead * math.hypot(1.0, slope)
        lifts = record.trusses.uplift if record.framing == "trusses" else 0.0
        lifts = lifts if record.uplift is None else record.uplift
        pressed = record.pressed or 0.0
        return Cases(dead, roof_live=record.live, snow=record.snow, wind=pressed, uplift=-lifts)
    if isinstance(record, FloorArea):
        return Cases(record.dead, record.live)
    return NOTHING


def take_down(project: Project, structure: Structure) -> LoadPath:
    """Follow every load to the soil."""
    heaped = (*step_heaps(project, structure), *valley_heaps(project, structure))
    project = replace(project, loads=(*project.loads, *as_loads(project, heaped)))
    whole, project = project, replace(project, walls=straightened(project.walls))
    records = host_records(project)
    flow = Flow(project, structure, lambda host, slope: area_loads(records.get(host), slope))
    own = list(_own_loads(project, structure))
    for name, parcel in own:
        flow.parcels.setdefault(name, []).append(parcel)
    flow.run()
    soil = _into_soil(structure, flow.parcels, flow)
    flow.ends += _on_members_that_hand_nothing_on(
        structure, flow, lambda m: area_loads(records.get(m.host), m.carrier.slope)
    )
    on_areas = loads_on_areas(whole, structure)
    spans = spanning(project, structure)
    reduced: dict[MemberName, float] = {}
    if project.site.left_open.live_on_areas == "reduced":
        arrive = partial(_arriving, replace(project, loads=()), structure)
        reduced = reductions(project, structure, _onto(flow, soil), arrive)
    for name in reduced.keys() & flow.carried.keys():
        flow.carried[name] = lessened(flow.carried[name], reduced[name])
    return LoadPath(
        _applied(whole, structure, own, on_areas) - total(flow.allowed_for),
        tuple(_beside(whole, structure, on_areas)),
        {name: total([p.forces for p in all_]) for name, all_ in soil.items()},
        flow.onto,
        tuple(flow.ends),
        flow.reactions,
        flow.carried,
        flow.rests,
        flow.onto_more,
        {name: total([p.more for p in all_]) for name, all_ in soil.items()},
        _points(soil) | _points({name: list(flow.carried.get(name, ())) for name in spans}),
        tuple(flow.handed),
        tuple(flow.handed_parts),
        heaped,
        _drawn_on_trusses(project, structure, flow),
        reduced,
        flow.on_walls,
        spans,
    )


def _points(found: dict[MemberName, list[Parcel]]) -> dict[MemberName, tuple[Parcel, ...]]:
    """What each piece is loaded with, its own weight left out."""
    return {name: tuple(p for p in all_ if p.source != name) for name, all_ in found.items()}


def _drawn_on_trusses(
    project: Project, structure: Structure, whole: Flow
) -> dict[MemberName, tuple[Parcel, ...]]:
    """The way of drawn loads, heaped snow and walls alone, down to trusses: what lies on them, and
    what hangs on them brings. Of the whole way of loads trusses know the rest by their strips."""
    trusses = {m.id for m in structure.of(kinds.BOTTOM_CHORD)}
    stands = (p.source for name in trusses for p in whole.carried.get(name, ()))
    if not trusses or not (project.loads or any(isinstance(s, HostName) for s in stands)):
        return {}
    flow = Flow(project, structure, lambda host, slope: NOTHING)
    flow.run()
    return {name: flow.carried[name] for name in trusses & flow.carried.keys()}


def _arriving(
    project: Project, structure: Structure, areas: Callable[[HostName, float], Cases]
) -> dict[MemberName, Cases]:
    """What comes onto each member where such areas are loaded, and walls stand."""
    flow = Flow(project, structure, areas)
    flow.run()
    return _onto(flow, _into_soil(structure, flow.parcels, flow))


def _onto(flow: Flow, soil: dict[MemberName, list[Parcel]]) -> dict[MemberName, Cases]:
    """What comes onto each member, those on the soil too."""
    found = {name: c for name, c in flow.onto.items() if isinstance(name, MemberName)}
    return found | {name: total([p.forces for p in all_]) for name, all_ in soil.items()}


def _on_members_that_hand_nothing_on(
    structure: Structure, flow: Flow, loads: Callable[[Member], Cases]
) -> Iterable[OpenEnd]:
    """What lies on members that rest on less than two places, and so hand nothing on."""
    for m in structure.members:
        if (
            m.id not in flow.reactions
            and (m.carrier.area or m.carrier.line)
            and m.kind is not kinds.FLOOR_SLAB
        ):
            forces = loads(m) * m.carrier.area + m.carrier.line * m.carrier.length
            if forces:
                yield OpenEnd(m.id, *place_of(m), forces)


class OnArea(NamedTuple):
    """What lies on a floor or a roof: its plan area, mm², and forces, N."""

    host: HostName
    plan: float
    forces: Cases


def loads_on_areas(project: Project, structure: Structure) -> list[OnArea]:
    """What lies on each floor and roof by its outline alone, framed or not; a slab takes all
    that lies on it."""
    found = []
    for floor in project.floors:
        bearings = bearings_of_floor(project, floor)
        if bearings:
            host = HostName("floor", floor.id)
            area = floor_area(structure, floor, bearings)
            found.append(OnArea(host, area, area_loads(floor) * area))
    for roof in project.roofs:
        host = HostName("roof", roof.id)
        shape = structure.roofs.get(host)
        if shape is not None and all(host != h for h, _ in structure.unframed):
            size = measures(shape.roof)
            loads = area_loads(roof)
            found.append(
                OnArea(
                    host,
                    size.plan,
                    Cases(loads.dead * size.true) + loads.variable * size.plan,
                )
            )
    return found


def _beside(project: Project, structure: Structure, on_areas: list[OnArea]) -> Iterable[Beside]:
    """Compare what lies on each floor and roof with what its members carry of it."""
    slabs, records = {m.host for m in structure.of(kinds.FLOOR_SLAB)}, host_records(project)
    carried: dict[HostName, list[Cases]] = {}
    areas: dict[HostName, list[float]] = {}
    for m in structure.members:
        if m.carrier.area and m.host not in slabs:
            carried.setdefault(m.host, []).append(
                area_loads(records.get(m.host), m.carrier.slope) * m.carrier.area
            )
            areas.setdefault(m.host, []).append(m.carrier.area)
    for host, plan, forces in on_areas:
        short = forces - total(carried.get(host, ()))
        if host not in slabs and greatest_of(short) > max(SPECK, BALANCE * max(forces)):
            yield Beside(host, short, plan - math.fsum(areas.get(host, ())))


HANDED_DOWN: Final = (
    (kinds.SILL, (kinds.STEM, kinds.EDGE, kinds.GRADE_BEAM, kinds.SLAB)),
    (kinds.CORBEL, (kinds.STEM,)),
    (kinds.STEM, (kinds.FOOTING,)),
    (kinds.LINK, (kinds.FOOTING,)),
    (
        kinds.POST,
        (kinds.PIER, kinds.PAD, kinds.FOOTING, kinds.EDGE, kinds.GRADE_BEAM, kinds.SLAB),
    ),
    (kinds.PIER, (kinds.PAD, kinds.FOOTING, kinds.SLAB)),
)
"""Who hands its load to whom, from the top down; of those under a place the first kind counts."""


def _into_soil(
    structure: Structure, parcels: Parcels, flow: Flow
) -> dict[MemberName, list[Parcel]]:
    """Hand all that reached the foundation down to the soil; return what lies on each piece that
    rests on it."""
    for kind, under in HANDED_DOWN:
        if kind is kinds.PIER:
            _beams_onto_piers(structure, parcels, flow)
        laden = [m for m in structure.of(kind) if m.id in parcels]
        mine = [(m, p) for m in laden for p in parcels[m.id]]
        for m in laden:
            taken = parcels.pop(m.id)
            flow.onto[m.id] = total([p.forces for p in taken])
            flow.onto_more[m.id] = total([p.more for p in taken])
        for (m, p), carrier in zip(mine, _carriers(mine, structure.of(*under))):
            if carrier is None:
                flow.ends.append(OpenEnd(m.id, p.x, p.y, p.forces))
            else:
                # What a post or pier brings stands where it stands, whatever lies on it.
                alone = Parcel(p.x, p.y, p.forces, m.id, p.more) if kind.anywhere else p
                flow.handed.append((m.id, carrier, p.forces))
                parcels.setdefault(carrier, []).append(alone)
    bearing = {m.id for m in structure.members if m.kind.on_soil}
    soil: dict[MemberName, list[Parcel]] = {}
    for name, left in parcels.items():
        if isinstance(name, MemberName) and name in bearing:
            soil[name] = left
        else:
            flow.ends += [OpenEnd(name, p.x, p.y, p.forces) for p in left]
    return soil


def _beams_onto_piers(structure: Structure, parcels: Parcels, flow: Flow) -> None:
    """Hand what lies on grade beams that span to the piers under them."""
    by_id = {m.id: m for m in structure.of(kinds.GRADE_BEAM)}
    for name, piers in spanning(flow.project, structure).items():
        taken = parcels.pop(name, [])
        flow.onto[name] = total([p.forces for p in taken])
        flow.onto_more[name] = total([p.more for p in taken])
        flow.carried[name] = tuple(taken)
        for pier, parcel in onto_piers(by_id[name], piers, taken):
            flow.handed.append((name, pier, parcel.forces))
            parcels.setdefault(pier, []).append(parcel)


def _carriers(mine: list[tuple[Member, Parcel]], beneath: list[Member]) -> list[MemberName | None]:
    """For each parcel the first of what may carry it that lies under it, or None: of its own
    foundation, else of another that runs under its end."""
    own: dict[int, int] = {}
    others: dict[int, int] = {}
    if mine and beneath:
        spots = shapely.points([(p.x, p.y) for _, p in mine])
        tree = shapely.STRtree(polygons_of(beneath))
        for i, k in zip(*tree.query(spots, predicate="dwithin", distance=TOUCH).tolist()):
            m = mine[i][0]
            if m.kind.anywhere or beneath[k].host == m.host:
                own[i] = min(own.get(i, k), k)
            elif m.kind is kinds.STEM or (m.kind is kinds.SILL and _lies_on(m, beneath[k])):
                others[i] = min(others.get(i, k), k)
    found = others | own
    return [beneath[found[i]].id if i in found else None for i in range(len(mine))]


def _lies_on(m: Member, below: Member) -> bool:
    """Whether a piece touches what is below it."""
    return abs(m.solid.bounds()[0][2] - below.solid.top()) <= TOUCH


def _own_loads(project: Project, structure: Structure) -> Iterable[tuple[MemberName, Parcel]]:
    """The weight of all concrete, counted once, and of posts, and what was typed along foundations and on
    posts, pads and piers."""
    along = {HostName("run", r.id): r.loads for r in project.runs if r.loads}
    on_posts = {HostName("support", s.id): s.loads for s in project.point_supports if s.loads}
    sections = sections_of(project.system, project.products)
    heavy = [kind for kind in kinds.CONCRETE if kind is not kinds.FLOOR_SLAB]
    for m in structure.of(*heavy, kinds.POST):
        if m.material == "concrete":
            weight = Cases(structure.volume(m) * project.site.concrete)
            yield from ((m.id, p) for p in _weight(m, weight))
        elif m.kind is kinds.POST and not on_posts.get(m.host, NOTHING).dead:
            known = sections.get(m.section)
            weigh = weight_of(known) * m.length if known else m.solid.volume * WOOD_WEIGHT
            yield m.id, _whole(m, Cases(weigh))
        if m.host in along and m.kind.under_walls:
            typed = along[m.host] * m.length
            yield from ((m.id, p) for p in _in_pieces(m, typed, m.host))
        if m.host in on_posts:
            yield m.id, Parcel(*place_of(m), on_posts[m.host], m.id)


def _weight(m: Member, weight: Cases) -> Iterable[Parcel]:
    """A member's own weight: of a wall piece by piece along it, of others in their middle."""
    return _in_pieces(m, weight, m.id) if m.kind is kinds.STEM else [_whole(m, weight)]


def _whole(m: Member, forces: Cases) -> Parcel:
    return Parcel(*place_of(m), forces, m.id)


def _in_pieces(m: Member, forces: Cases, source: Rest) -> list[Parcel]:
    """Share what lies evenly along a wall of concrete in pieces, so that each goes down where it
    lies."""
    count = max(1, min(2000, round(m.length / PIECE)))
    (ax, ay, _), (bx, by, _) = m.start, m.end
    each = forces / count
    middles = ((i + 0.5) / count for i in range(count))
    return [
        Parcel(ax + t * (bx - ax), ay + t * (by - ay), each, source, wide=m.length / count)
        for t in middles
    ]


def _applied(
    project: Project,
    structure: Structure,
    own: list[tuple[MemberName, Parcel]],
    on_areas: list[OnArea],
) -> Cases:
    """Add up what is applied from the records alone: outlines times loads, walls and concrete by
    their volume."""
    lying = total([x.forces for x in on_areas])
    pieces = straightened(project.walls)
    weights = {whole(w.id): wall_dead(project, w) for w in pieces}
    walls = sum(face_area(project, w) * weights[whole(w.id)] for w in pieces)
    gables = sum(g.area * weights[whole(g.wall)] for g in structure.gables)
    slabs = sum(slab_area(m) * m.solid.depth for m in structure.of(kinds.FLOOR_SLAB))
    return total(
        [
            lying,
            Cases(walls + gables + slabs * project.site.concrete),
            *(p.forces for _, p in own),
            *(_along(part) for part in structure.parts),
            *(Cases(**{x.case: x.amount * size_of(x)}) for x in project.loads),
        ]
    )


@remembered_piece
def _along(part: Part) -> Cases:
    """What lies along the members of a part: their own weight and what is typed on them."""
    return total([m.carrier.line * m.carrier.length for m in part.members if m.carrier.line])


def floor_area(structure: Structure, floor: FloorArea, bearings: Bearings) -> float:
    """The plan area a floor's load lies on: its outline without its openings, mm²."""
    slab = next(
        (m for m in structure.of(kinds.FLOOR_SLAB) if m.host == HostName("floor", floor.id)), None
    )
    if slab is not None:
        return slab_area(slab)
    whole = shapely.Polygon(bearings.outline)
    return float(
        whole.difference(shapely.union_all([shapely.Polygon(h.ring) for h in bearings.holes])).area
    )


def pressures(structure: Structure, path: LoadPath) -> dict[MemberName, Cases]:
    """The average soil pressure under each footing piece, N/mm² per case."""
    by_id = {m.id: m for m in structure.members}
    found = {}
    for name, forces in path.soil.items():
        member: Member = by_id[name]
        area = abs(signed_area(member.solid.plan()))
        found[name] = forces / area
    return found


@remembered_piece
def place_of(member: Member) -> tuple[float, float]:
    """The middle of a member in plan."""
    x0, y0, x1, y1 = box(member.solid.plan())
    return (x0 + x1) / 2, (y0 + y1) / 2
