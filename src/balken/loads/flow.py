"""The way of loads above the foundation: from the highest piece down, each hands on what lies on it to what carries it.

Joists to headers and beams, headers to trimmers, beams to beams, posts and walls, walls to what stands or lies under
them, posts to what they stand on. Where a piece hangs on another of the same height, the one that hangs goes first.
"""

import math
from collections.abc import Callable, Iterable
from typing import Any, Final, NamedTuple

import numpy as np
import shapely

from balken.framing.member import CARRYING_ROLES, SPANNING_ROLES, Member, Support
from balken.framing.pieces import polygons_of, ring_of
from balken.framing.structure import Structure
from balken.geometry.plane import TOUCH, Point, add, left, sub, unit
from balken.loads.joists_under import joists_by_level
from balken.loads.parcels import NOTHING, Cases, OpenEnd, Parcel, Parcels, total
from balken.loads.slabs import Carrier, share_slab
from balken.loads.statics import shares
from balken.model.bodies import bodies, storey_walls
from balken.model.memo import Memo
from balken.model.project import Project, wall_base, wall_top
from balken.model.walls import Wall, reach, wall_length

PIECE: Final = 600.0
"""Wall weight goes down in pieces about this long, mm."""
STANDING: Final = ("stem", "edge", "grade beam")
"""Roles of a foundation that walls stand on."""
FLOWING: Final = (*SPANNING_ROLES, *CARRYING_ROLES)
UNDER_POST: Final = ("beam", "post", "floor slab", "trimmer", "header", "joist")
"""What a post can stand on above the foundation, the surest first."""
BESIDE: Final = 30.0
"""A post stands on what lies this near to its middle, mm."""
IN_FLOOR: Final = ("trimmer", "header", "joist")
REST: Final = 10.0
"""A post stands on what ends this near to its foot, mm."""
JOISTED: Final = 60.0
"""Joists lie this far under a post's foot at most: a subfloor between, mm."""
LAID_ON: Final = 700.0
"""A beam this far under the foot of a wall, with joists between, still carries it, mm."""


class Flow:
    """One run of loads from the roof down; what is left over arrives at the foundation."""

    def __init__(self, project: Project, structure: Structure, memo: Memo, areas: Callable[[str], Cases]) -> None:
        self.project, self.structure, self._memo = project, structure, memo
        self.parcels: Parcels = {}
        self.ends: list[OpenEnd] = []
        self.onto: dict[str, Cases] = {}
        self.reactions: dict[str, tuple[Cases, ...]] = {}
        self.carried: dict[str, tuple[Parcel, ...]] = {}
        self.rests: dict[str, tuple[Carrier, ...]] = {}
        self._area = areas
        self._by_id = {m.id: m for m in structure.members}
        self._flowing = [m for m in structure.members if m.role in FLOWING and len(m.supports) > 1]
        self._own = _own_shares(self._flowing, areas)
        self._joists = joists_by_level(project, structure)
        self._beneath = _beneath(project, structure, memo)
        self._posts = _Feet(structure.members)

    def run(self) -> None:
        """Send everything down to the foundation."""
        for wall in self.project.walls:
            self.parcels.setdefault(f"wall:{wall.id}", []).extend(wall_weight(self.project, wall))
        walls = {f"wall:{w.id}": w for w in self.project.walls}
        for name in self._order(walls):
            if name in walls:
                self._wall(name, walls[name])
            else:
                member = self._by_id[name]
                {"post": self._post, "floor slab": self._slab}.get(member.role, self._span)(member)

    def _order(self, walls: dict[str, Wall]) -> list[str]:
        """Return walls and members from the highest down; what hangs on another before that other."""
        height = {m.id: _underside(m) for m in self._flowing}
        # What lies on another is higher than it; only what hangs at its side may have the same underside.
        hung = [m for m in self._flowing if m.role in CARRYING_ROLES or any(s.hung for s in m.supports)]
        for name in _hanging_first(hung, self.resolve):
            for s in self._by_id[name].supports:
                carrier = self.resolve(s)
                if carrier in height:
                    height[carrier] = min(height[carrier], height[name] - 1e-3)
        for m in self.structure.members:
            if m.role in ("post", "floor slab"):
                height[m.id] = m.start[2] if m.role == "post" else m.solid.origin[2]
        height.update({name: wall_base(self.project, w) for name, w in walls.items()})
        return sorted(height, key=lambda name: (-height[name], name))

    def resolve(self, support: Support) -> str:
        """Return the name of what a support is on: of a beam cut in pieces, the piece that lies there."""
        on = support.on
        if on in self._by_id or "/beam:" not in on:
            return on
        for letter in "abcdefghijklmnopqrstuvwxyz":
            piece = self._by_id.get(on + letter)
            if piece is None:
                break
            (ax, ay, _), (bx, by, _) = piece.start, piece.end
            along = ((support.point[0] - ax) * (bx - ax) + (support.point[1] - ay) * (by - ay)) / piece.length
            if -TOUCH <= along <= piece.length + TOUCH:
                return piece.id
        return on

    def _hand(self, source: str, support: Support, forces: Cases) -> None:
        if not any(forces):
            return
        on = self.resolve(support)
        there = on in self._by_id or on.startswith("wall:")
        if on and there:
            self.parcels.setdefault(on, []).append(Parcel(*support.point, forces, source))
        else:
            self.ends.append(OpenEnd(source, *support.point, forces))

    def _span(self, member: Member) -> None:
        mine = self.parcels.pop(member.id, [])
        own = self._own.get(member.id)
        if mine or own is None:
            found = self._memo.small(shares, member, self._area(member.host), tuple(mine))
            if mine:
                self.carried[member.id] = tuple(mine)
                self.onto[member.id] = total([p.forces for p in mine])
        else:
            found = own
        self.reactions[member.id] = found
        for support, forces in zip(member.supports, found):
            self._hand(member.id, support, forces)

    def _post(self, member: Member) -> None:
        mine = self.parcels.get(member.id, [])
        if not mine:
            return
        self.onto[member.id] = total([p.forces for p in mine])
        under = self._posts.under(member)
        if under:  # else it stands on the foundation, or on nothing
            del self.parcels[member.id]
            x, y = member.start[0], member.start[1]
            self.parcels.setdefault(under, []).append(Parcel(x, y, self.onto[member.id], member.id))

    def _slab(self, member: Member) -> None:
        mine = self.parcels.pop(member.id, [])
        area = self._area(member.host)
        weight = member.solid.depth * self.project.site.concrete
        carriers = self._slab_carriers(member)
        handed = share_slab(member, (area[0] + weight, *area[1:]), mine, carriers)
        self.carried[member.id], self.rests[member.id] = tuple(mine), tuple(carriers)
        if not handed:
            x, y = member.start[0], member.start[1]
            sums = total(
                [tuple(q * slab_area(member) for q in (area[0] + weight, *area[1:])), *(p.forces for p in mine)]
            )
            self.ends.append(OpenEnd(member.id, x, y, sums))
        for on, parcel in handed:
            self.parcels.setdefault(on, []).append(parcel)

    def _slab_carriers(self, slab: Member) -> list[Carrier]:
        """Return the walls, beams and posts whose top meets a slab's underside inside its outline."""
        bottom = slab.solid.origin[2]
        shape = shapely.Polygon(slab.solid.plan()).buffer(TOUCH)
        found: list[Carrier] = []
        for name, ring, top in self._beneath.tops:
            if abs(top - bottom) <= SLAB_ON and shape.intersects(shapely.Polygon(ring)):
                part = shapely.intersection(shape, shapely.Polygon(ring))
                found += [
                    (name, tuple(g.exterior.coords[:-1])) for g in getattr(part, "geoms", [part]) if g.area > TOUCH
                ]
        for m in self.structure.members:
            if m.role == "post" and abs(m.end[2] - bottom) <= SLAB_ON and shape.contains(shapely.Point(m.start[:2])):
                found.append((m.id, m.solid.plan()))
        return found

    def _wall(self, name: str, wall: Wall) -> None:
        mine = self.parcels.pop(name, [])
        if not mine:
            return
        self.onto[name] = total([p.forces for p in mine])
        joists = self._joists.get(wall.base) if all(p.source == name for p in mine) else None
        foot = wall_base(self.project, wall)
        for parcel, carrier in zip(mine, self._beneath.carriers(mine, foot + TOUCH, name)):
            if carrier is None and joists is not None:
                joist = joists.under((parcel.x, parcel.y))
                carrier = joist.id if joist else None
            if carrier is not None:
                self.parcels.setdefault(carrier, []).append(parcel)
            else:
                self.ends.append(OpenEnd(name, parcel.x, parcel.y, parcel.forces))


SLAB_ON: Final = 10.0
"""A slab lies on what ends this near to its underside, mm."""


def slab_area(slab: Member) -> float:
    """Return the net area of a slab in plan, mm²."""
    from balken.loads.slabs import patches

    return float(patches(slab)[2].sum())


def _underside(m: Member) -> float:
    if m.role == "rafter":
        return math.inf
    return min(z for _, z in m.solid.outline)


def _hanging_first(members: list[Member], resolve: Callable[[Support], str]) -> list[str]:
    """Return members so that each comes before those it hangs or lies on; a ring of them in any order."""
    ids = {m.id for m in members}
    onto = {m.id: [c for c in map(resolve, m.supports) if c in ids] for m in members}
    waits = dict.fromkeys(ids, 0)
    for carriers in onto.values():
        for c in carriers:
            waits[c] += 1
    free = sorted(m for m, n in waits.items() if n == 0)
    found = []
    while free:
        name = free.pop()
        found.append(name)
        for c in onto[name]:
            waits[c] -= 1
            if waits[c] == 0:
                free.append(c)
    return found


def _own_shares(members: list[Member], areas: Callable[[str], Cases]) -> dict[str, tuple[Cases, ...]]:
    """Return what members on two supports hand on of their own loads, all of them side by side."""
    plain = [m for m in members if len(m.supports) == 2 and not m.hinges and m.role not in ("rafter", "ledger")]
    if not plain:
        return {}
    hosts = {host: areas(host) for host in {m.host for m in plain}}
    area = np.array([m.area for m in plain])[:, None] * np.array([hosts[m.host] for m in plain])
    line = np.array([m.length for m in plain])[:, None] * np.array([m.line for m in plain])
    first = np.array([m.supports[0].at for m in plain])
    between = np.array([m.supports[1].at for m in plain]) - first
    safe = np.where(between < TOUCH, 1.0, between)

    def far(middle: Any) -> Any:
        return np.where(between < TOUCH, 0.5, (middle - first) / safe)[:, None]

    t_area = far(np.array([sum(m.carries) / 2 for m in plain]))
    t_line = far(np.array([m.length / 2 for m in plain]))
    ends = np.stack([area * (1 - t_area) + line * (1 - t_line), area * t_area + line * t_line], axis=1)
    return {m.id: (tuple(a), tuple(b)) for m, (a, b) in zip(plain, ends.tolist())}


class _Top(NamedTuple):
    name: str
    ring: tuple[Point, ...]
    top: float


class _Beneath:
    """Walls, beams, slabs and stems by rank, the highest first: what lies under a place and ends low enough takes the load."""

    def __init__(self, ranked: list[_Top]) -> None:
        self.tops = ranked
        self._heights = [r.top for r in ranked]
        self._tree = shapely.STRtree([shapely.Polygon(r.ring) for r in ranked])

    def carriers(self, parcels: list[Parcel], highest: float, but: str) -> list[str | None]:
        """Return for each parcel the first carrier under it that ends no higher, or None."""
        spots = shapely.points([(p.x, p.y) for p in parcels])
        found: list[str | None] = [None] * len(parcels)
        best = [len(self.tops)] * len(parcels)
        for i, rank in zip(*self._tree.query(spots, predicate="dwithin", distance=TOUCH).tolist()):
            one = self.tops[rank]
            low = highest - LAID_ON if "/beam:" in one.name or "/floor slab:" in one.name else -math.inf
            if rank < best[i] and low <= one.top <= highest and one.name != but:
                best[i], found[i] = rank, one.name
        return found


def _beneath(project: Project, structure: Structure, memo: Memo) -> _Beneath:
    tops = [
        _Top(f"wall:{key}", body.ring, 0.0)
        for base in sorted({w.base for w in project.walls})
        for key, body in memo(bodies, storey_walls(project, base)).items()
    ]
    height = {f"wall:{w.id}": wall_top(project, w) for w in project.walls}
    tops = [t._replace(top=height[t.name]) for t in tops]
    over = [_Top(m.id, ring_of(m), m.solid.top()) for m in structure.members if m.role in ("beam", "floor slab")]
    ranked = sorted([*tops, *over], key=lambda t: (-t.top, t.name))
    ground = [_Top(m.id, m.solid.plan(), -math.inf) for m in structure.members if m.role in STANDING]
    return _Beneath(ranked + ground)


class _Feet:
    """What posts stand on above the foundation."""

    def __init__(self, members: Iterable[Member]) -> None:
        everything = list(members)
        self._sure = [m for m in everything if m.role in UNDER_POST and m.role not in IN_FLOOR]
        self._joists = [m for m in everything if m.role in IN_FLOOR]
        self._ground = [m for m in everything if m.role in ("pad", "pier", "footing", "stem", "slab", "edge")]
        self._trees: dict[int, Any] = {}

    def under(self, post: Member) -> str:
        """Return what lies under a post's foot, the surest first; empty where that is the foundation, or nothing."""
        found = self._best(post, self._sure)
        if found or any(abs(_head(m) - post.start[2]) <= REST for m in self._near(post, self._ground)):
            return found
        return self._best(post, self._joists)

    def _near(self, post: Member, members: list[Member]) -> list[Member]:
        if not members:
            return []
        if id(members) not in self._trees:
            self._trees[id(members)] = shapely.STRtree(polygons_of(members))
        hits = self._trees[id(members)].query(shapely.Point(post.start[:2]), predicate="dwithin", distance=BESIDE)
        return [members[k] for k in hits.tolist()]

    def _best(self, post: Member, members: list[Member]) -> str:
        best: tuple[int, str] | None = None
        for m in self._near(post, members):
            gap = post.start[2] - _head(m)
            if m.id != post.id and -TOUCH <= gap <= (JOISTED if m.role in IN_FLOOR else REST):
                rank = (UNDER_POST.index(m.role), m.id)
                best = min(best or rank, rank)
        return best[1] if best else ""


def _head(m: Member) -> float:
    return m.end[2] if m.role == "post" else m.solid.top()


def wall_weight(project: Project, wall: Wall) -> list[Parcel]:
    """Return the weight of a wall in pieces along its middle line."""
    length = wall_length(wall)
    weight = face_area(project, wall) * project.site.wall_dead
    count = max(1, min(2000, round(length / PIECE)))
    direction = unit(sub(wall.end, wall.start))
    middle = add(wall.start, left(direction), sum(reach(wall)) / 2)
    zeros = NOTHING[1:]
    return [
        Parcel(*add(middle, direction, (i + 0.5) * length / count), (weight / count, *zeros), f"wall:{wall.id}")
        for i in range(count)
    ]


def face_area(project: Project, wall: Wall) -> float:
    """Return the area of a wall's face without its openings, mm²."""
    height = wall_top(project, wall) - wall_base(project, wall)
    return max(0.0, wall_length(wall) * height - sum(o.width * o.height for o in wall.openings))
