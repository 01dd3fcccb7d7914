"""The way of the loads: every area load to a member, every reaction to what carries it, down to the soil.

A load travels as a parcel: a place in plan and its force per case. Nothing is lost on the way: a parcel that finds
nothing underneath is kept as an open end, and what was applied is added up by another road to compare.
"""

import math
from collections.abc import Iterable

import msgspec
import numpy as np
import shapely
from msgspec.structs import replace
from numpy.typing import NDArray

from balken.analysis.simple import reactions
from balken.framing.member import SPANNING_ROLES, Member
from balken.framing.structure import Structure, bed_of_floor, bed_of_roof
from balken.geometry.plane import TOUCH, Point, add, box, distance, left, signed_area, sub, unit
from balken.loads.cases import CASES
from balken.loads.joists_under import Joists, joists_by_level, shared
from balken.model.bodies import bodies, storey_walls
from balken.model.memo import Memo
from balken.model.project import FloorArea, GableRoof, Project, host_record, wall_base, wall_top
from balken.model.walls import Wall, reach, straightened, wall_length

Forces = NDArray[np.float64]
STANDING = ("stem", "edge", "grade beam")
"""Roles of a foundation that walls stand on."""
PIECE = 600.0
"""Wall weight goes down in pieces about this long, mm."""


class Parcel(msgspec.Struct, frozen=True):
    """A load on its way down."""

    x: float
    y: float
    forces: tuple[float, ...]
    source: str


class OpenEnd(msgspec.Struct, frozen=True):
    """Load that arrives where nothing carries it further."""

    source: str
    x: float
    y: float
    forces: tuple[float, ...]


class LoadPath(msgspec.Struct, frozen=True):
    """Where all load goes. Forces in N per case of :data:`CASES`."""

    applied: tuple[float, ...]
    soil: dict[str, tuple[float, ...]]
    """Per footing piece, own weight included."""
    onto: dict[str, tuple[float, ...]]
    """What each wall, sill and stem takes over from above."""
    open_ends: tuple[OpenEnd, ...]
    reactions: dict[str, tuple[tuple[float, ...], tuple[float, ...]]]
    """Per spanning member, at its first and last support."""

    @property
    def soil_total(self) -> tuple[float, ...]:
        """Sum over all footings."""
        return _total(list(self.soil.values()))


def _total(forces: list[tuple[float, ...]]) -> tuple[float, ...]:
    return tuple(math.fsum(f[i] for f in forces) for i in range(len(CASES)))


def area_loads(project: Project, host: str) -> tuple[float, float, float, float]:
    """Return the load per plan area of a floor or roof, N/mm² per case; dead load on a slope is spread on the plan."""
    record = host_record(project, host)
    if isinstance(record, GableRoof):
        return record.dead * math.hypot(1.0, record.rise / 12), 0.0, record.live, record.snow
    if isinstance(record, FloorArea):
        return record.dead, record.live, 0.0, 0.0
    return 0.0, 0.0, 0.0, 0.0


def take_down(project: Project, structure: Structure, memo: Memo) -> LoadPath:
    """Follow every load to the soil."""
    whole, project = project, replace(project, walls=straightened(project.walls))
    found = _reactions(project, structure)
    parcels: dict[str, list[Parcel]] = {}
    ends: list[OpenEnd] = []
    for member in structure.members:
        for support, forces in zip(member.supports, found.get(member.id, ())):
            if any(forces):
                parcel = Parcel(*support.point, forces, member.id)
                if support.on:
                    parcels.setdefault(support.on, []).append(parcel)
                else:
                    ends.append(OpenEnd(member.id, parcel.x, parcel.y, forces))
    for wall in project.walls:
        parcels.setdefault(f"wall:{wall.id}", []).extend(_wall_weight(project, wall))
    onto: dict[str, tuple[float, ...]] = {}
    _down_the_walls(project, structure, memo, parcels, onto, ends)
    soil = _into_soil(project, structure, parcels, onto, ends)
    return LoadPath(_applied(whole, structure, memo), soil, onto, tuple(ends), found)


def _reactions(project: Project, structure: Structure) -> dict[str, tuple[tuple[float, ...], tuple[float, ...]]]:
    hosts = {m.host for m in structure.members if m.role in SPANNING_ROLES}
    loads = {h: area_loads(project, h) for h in hosts}
    found = {}
    for member in structure.members:
        if member.role not in SPANNING_ROLES or len(member.supports) < 2:
            continue
        total = [q * member.area for q in loads[member.host]]
        first, last = member.supports[0], member.supports[-1]
        if member.role == "rafter":
            # A ridge board carries nothing: the pair leans together and the plates take all (IRC 2021 R802.3).
            pairs = [(t, 0.0) for t in total]
        elif last.at - first.at < TOUCH:
            pairs = [(t / 2, t / 2) for t in total]  # both ends lie on one spot: nothing spans
        else:
            pairs = [reactions(t, *member.carries, first.at, last.at) for t in total]
        found[member.id] = (tuple(p[0] for p in pairs), tuple(p[1] for p in pairs))
    return found


def _wall_weight(project: Project, wall: Wall) -> list[Parcel]:
    length = wall_length(wall)
    weight = _face_area(project, wall) * project.site.wall_dead
    count = max(1, min(2000, round(length / PIECE)))
    direction = unit(sub(wall.end, wall.start))
    middle = add(wall.start, left(direction), sum(reach(wall)) / 2)
    zeros = (0.0,) * (len(CASES) - 1)
    return [
        Parcel(*add(middle, direction, (i + 0.5) * length / count), (weight / count, *zeros), f"wall:{wall.id}")
        for i in range(count)
    ]


def _face_area(project: Project, wall: Wall) -> float:
    height = wall_top(project, wall) - wall_base(project, wall)
    return max(0.0, wall_length(wall) * height - sum(o.width * o.height for o in wall.openings))


def _down_the_walls(
    project: Project,
    structure: Structure,
    memo: Memo,
    parcels: dict[str, list[Parcel]],
    onto: dict[str, tuple[float, ...]],
    ends: list[OpenEnd],
) -> None:
    """Hand each wall's load to the wall under it, or to the foundation, from the top storey down."""
    storeys: dict[str, shapely.Polygon] = {}
    for base in sorted({w.base for w in project.walls}):
        shapes = memo(bodies, storey_walls(project, base))
        storeys.update(_shapes((k, b.ring) for k, b in shapes.items()))
    ground = _shapes((s.id, s.solid.plan()) for s in structure.members if s.role in STANDING)
    heights = {x.id: x.elevation for x in project.levels}
    foot = {w.id: heights[w.base] + w.base_offset for w in project.walls}
    top = {w.id: heights[w.top] + w.top_offset for w in project.walls}
    from_the_top = sorted(project.walls, key=lambda w: (-top[w.id], w.id))
    ranked = [(f"wall:{w.id}", storeys[w.id]) for w in from_the_top] + ground
    tops = np.array([top[w.id] for w in from_the_top] + [-np.inf] * len(ground))
    beneath = _Beneath(ranked, tops)
    floors = joists_by_level(project, structure)
    for wall in sorted(project.walls, key=lambda w: (-foot[w.id], w.id)):
        name = f"wall:{wall.id}"
        mine = parcels.pop(name, [])
        if not mine:
            continue
        onto[name] = _total([p.forces for p in mine])
        floor = floors.get(wall.base) if all(p.source == name for p in mine) else None
        for parcel, carrier in zip(mine, beneath.carriers(mine, foot[wall.id] + TOUCH, name)):
            if carrier is not None:
                parcels.setdefault(carrier, []).append(parcel)
            elif floor is None or not _onto_joist(parcel, floor, parcels, ends):
                ends.append(OpenEnd(name, parcel.x, parcel.y, parcel.forces))


class _Beneath:
    """Walls and stems by rank, the highest walls first: what lies under a place and ends low enough takes the load."""

    def __init__(self, ranked: list["Carrier"], tops: Forces) -> None:
        self.names = [name for name, _ in ranked]
        self.tops = tops
        self.tree = shapely.STRtree([shape for _, shape in ranked])

    def carriers(self, parcels: list[Parcel], highest: float, but: str) -> list[str | None]:
        """Return for each parcel the first carrier under it that ends no higher, or None."""
        spots = shapely.points([(p.x, p.y) for p in parcels])
        found: list[str | None] = [None] * len(parcels)
        best = [len(self.names)] * len(parcels)
        for i, rank in zip(*self.tree.query(spots, predicate="dwithin", distance=TOUCH).tolist()):
            if rank < best[i] and self.tops[rank] <= highest and self.names[rank] != but:
                best[i], found[i] = rank, self.names[rank]
        return found


def _onto_joist(parcel: Parcel, floor: Joists, parcels: dict[str, list[Parcel]], ends: list[OpenEnd]) -> bool:
    """Hand the weight of a wall that carries nothing to the joist under it; tell whether there is one."""
    spot = (parcel.x, parcel.y)
    joist = floor.under(spot)
    if joist is None:
        return False
    for support, forces in shared(joist, spot, parcel.forces):
        if support.on:
            parcels.setdefault(support.on, []).append(Parcel(*support.point, forces, joist.id))
        elif any(forces):
            ends.append(OpenEnd(joist.id, *support.point, forces))
    return True


Carrier = tuple[str, shapely.Polygon]


def _shapes(rings: Iterable[tuple[str, tuple[Point, ...]]]) -> list[Carrier]:
    return [(name, shapely.Polygon(ring)) for name, ring in rings]


def _carriers(parcels: list[Parcel], carriers: list[Carrier]) -> list[str | None]:
    """Return for each parcel the first carrier that lies under it, or None."""
    if not carriers:
        return [None] * len(parcels)
    shapes = np.array([shape for _, shape in carriers])
    spots = shapely.points([(p.x, p.y) for p in parcels])
    near = shapely.distance(shapes[:, None], spots[None, :]) <= TOUCH
    first, found = near.argmax(axis=0), near.any(axis=0)
    return [carriers[int(first[i])][0] if found[i] else None for i in range(len(parcels))]


ON_SOIL = ("footing", "edge", "grade beam", "pad", "slab")
"""Roles that hand their load to the soil."""
HANDED_DOWN = (
    ("sill", ("stem", "edge", "grade beam", "slab")), ("corbel", ("stem",)), ("stem", ("footing",)), ("link", ("footing",)),
    ("post", ("pier", "pad", "footing", "edge", "grade beam", "slab")), ("pier", ("pad", "footing", "slab")),
)  # fmt: skip
"""Who hands its load to whom, from the top down; of those under a place the first kind counts."""
FROM_ANYWHERE = ("post", "pier")
"""Roles that stand on what any foundation gives; the others on their own alone."""


def _into_soil(
    project: Project,
    structure: Structure,
    parcels: dict[str, list[Parcel]],
    onto: dict[str, tuple[float, ...]],
    ends: list[OpenEnd],
) -> dict[str, tuple[float, ...]]:
    by_id = {m.id: m for m in structure.members}
    for name, parcel in _own_loads(project, structure):
        parcels.setdefault(name, []).append(parcel)
    shapes: dict[tuple[str, str], list[Carrier]] = {}
    carriers = {role for _, under in HANDED_DOWN for role in under}
    for m in structure.members:
        if m.role in carriers:
            shape = (m.id, shapely.Polygon(m.solid.plan()))
            for host in (m.host, ""):
                shapes.setdefault((host, m.role), []).append(shape)
    for role, under in HANDED_DOWN:
        for name in [n for n in parcels if n in by_id and by_id[n].role == role]:
            mine = parcels.pop(name)
            onto[name] = _total([p.forces for p in mine])
            host = "" if role in FROM_ANYWHERE else by_id[name].host
            beneath = [shape for r in under for shape in shapes.get((host, r), ())]
            for parcel, carrier in zip(mine, _carriers(mine, beneath)):
                if carrier is None:
                    ends.append(OpenEnd(name, parcel.x, parcel.y, parcel.forces))
                else:
                    parcels.setdefault(carrier, []).append(parcel)
    soil = {}
    for name, mine in parcels.items():
        if name in by_id and by_id[name].role in ON_SOIL:
            soil[name] = _total([p.forces for p in mine])
        else:
            ends += [OpenEnd(name, p.x, p.y, p.forces) for p in mine]
    return soil


def _own_loads(project: Project, structure: Structure) -> Iterable[tuple[str, Parcel]]:
    """Return the weight of all concrete, counted once, and what was typed along foundations and on posts, pads and piers."""
    zeros = (0.0,) * (len(CASES) - 1)
    for m in structure.members:
        if m.material == "concrete":
            x, y = place_of(m)
            yield m.id, Parcel(x, y, (structure.volume(m) * project.site.concrete, *zeros), m.id)
    typed = {f"run:{r.id}": r.loads for r in project.runs if any(r.loads)}
    for m in structure.members:
        if m.host in typed and m.role in STANDING:
            yield m.id, Parcel(*place_of(m), tuple(q * m.length for q in typed[m.host]), m.id)
    on_posts = {f"support:{s.id}": s.loads for s in project.point_supports if any(s.loads)}
    for m in structure.members:
        if m.host in on_posts:
            yield m.id, Parcel(*place_of(m), on_posts[m.host], m.id)


def _applied(project: Project, structure: Structure, memo: Memo) -> tuple[float, ...]:
    """Add up what is applied from the records alone: outlines times loads, walls and concrete by their volume."""
    sums = [0.0] * len(CASES)
    for floor in project.floors:
        bed = bed_of_floor(project, floor, memo)
        if bed:
            area = abs(signed_area(bed.outline))
            for i, q in enumerate(area_loads(project, f"floor:{floor.id}")):
                sums[i] += q * area
    for roof in project.roofs:
        bed = bed_of_roof(project, roof, memo)
        if bed:
            area = roof_plan(bed.outline, roof.overhang, _eaves(structure, f"roof:{roof.id}"))
            for i, q in enumerate(area_loads(project, f"roof:{roof.id}")):
                sums[i] += q * area
    sums[0] += sum(_face_area(project, w) for w in straightened(project.walls)) * project.site.wall_dead
    for _, parcel in _own_loads(project, structure):
        for i, force in enumerate(parcel.forces):
            sums[i] += force
    return tuple(sums)


def roof_plan(outline: tuple[tuple[float, float], ...], overhang: float, along: tuple[float, float]) -> float:
    """Return the plan area of a gable roof: its rectangle, and the overhang along both eaves (``along``: direction)."""
    sides = [(sub(b, a), distance(a, b)) for a, b in zip(outline, [*outline[1:], outline[0]])]
    eaves = sum(length for side, length in sides if abs(side[0] * along[0] + side[1] * along[1]) > length / 2)
    return abs(signed_area(outline)) + eaves * overhang


def _eaves(structure: Structure, host: str) -> tuple[float, float]:
    ridge = next((m for m in structure.members if m.host == host and m.role == "ridge"), None)
    return (1.0, 0.0) if ridge is None else unit(sub(ridge.end[:2], ridge.start[:2]))


def pressures(structure: Structure, path: LoadPath) -> dict[str, tuple[float, ...]]:
    """Return the average soil pressure under each footing piece, N/mm² per case."""
    by_id = {m.id: m for m in structure.members}
    found = {}
    for name, forces in path.soil.items():
        member: Member = by_id[name]
        area = abs(signed_area(member.solid.plan()))
        found[name] = tuple(f / area for f in forces)
    return found


def place_of(member: Member) -> tuple[float, float]:
    """Return the middle of a member in plan."""
    x0, y0, x1, y1 = box(member.solid.plan())
    return (x0 + x1) / 2, (y0 + y1) / 2
