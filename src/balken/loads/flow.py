"""The way of loads above the foundation: from the highest piece down, each hands on what lies on it
to what carries it.

Joists to headers and beams, headers to trimmers, beams to beams, posts and walls, walls to what
stands or lies under them, posts to what they stand on. Where a piece hangs on another of the same
height, the one that hangs goes first.
"""

import itertools
import math
from collections import Counter
from collections.abc import Callable, Iterable, Sequence
from functools import cached_property, partial
from typing import Final, NamedTuple

import shapely
from msgspec.structs import replace

from balken.framing import kinds
from balken.framing.beams.supports import BESIDE
from balken.framing.hosts.walls import foot_floors
from balken.framing.layout import net_area
from balken.framing.member import Member, Part, Support
from balken.framing.pieces import near_spots, ring_of
from balken.framing.roofs.gables import GableWall
from balken.framing.structure import Structure
from balken.geometry.plane import TOUCH, Point, add, distance_to_segment, dot, left, sub, unit
from balken.loads.drawn import pieces_of, put_together
from balken.loads.handing import Handed, handed_on
from balken.loads.joists_under import Joists, joists_by_level, rafters_by_plate
from balken.loads.leeward import leeward_of
from balken.loads.parcels import OpenEnd, Parcel, Parcels
from balken.loads.slabs import Carrier, share_slab
from balken.loads.statics import Shared, leans, shared
from balken.model.cases import NOTHING, Cases, total
from balken.model.drawn_loads import DrawnLoad
from balken.model.names import HostName, MemberName, Rest, family_of, piece_letters, whole
from balken.model.project import Project, level, wall_base, wall_top
from balken.model.walls import Wall, reach, wall_length
from balken.recall import remembered_piece
from balken.site.bodies import bodies, storey_walls
from balken.site.wall_weights import wall_dead

PIECE: Final = 600.0
"""Wall weight goes down in pieces about this long, mm."""
ON_JOISTS: Final = 50.0
"""And onto joists in pieces of this length, mm, so that each joist takes what stands on it."""
REST: Final = 10.0
"""A post stands on what ends this near to its foot, mm."""
JOISTED: Final = 60.0
"""Joists lie this far under a post's foot at most: a subfloor between, mm."""
LAID_ON: Final = 700.0
"""A beam this far under the foot of a wall, with joists between, still carries it, mm."""


_Act = tuple[float, Rest, Callable[[], None]]
"""What hands on: its height and name, which settle its turn, and the handing."""


class Flow:
    """One run of loads from the roof down; what is left over arrives at the foundation."""

    def __init__(
        self,
        project: Project,
        structure: Structure,
        areas: Callable[[HostName, float], Cases],
    ) -> None:
        self.project, self.structure = project, structure
        self.parcels: Parcels = {}
        self.ends: list[OpenEnd] = []
        self.onto: dict[Rest, Cases] = {}
        self.onto_more: dict[Rest, Cases] = {}
        self.reactions: dict[MemberName, tuple[Cases, ...]] = {}
        self.carried: dict[MemberName, tuple[Parcel, ...]] = {}
        self.rests: dict[MemberName, tuple[Carrier, ...]] = {}
        self.allowed_for: list[Cases] = []
        """Weights of partitions that an allowance of the floor they stand on stands for."""
        self.handed: list[tuple[Rest, Rest, Cases]] = []
        """Who handed what to whom, one by one; of plain joists see ``handed_parts``."""
        self.on_walls: dict[HostName, tuple[Parcel, ...]] = {}
        """What came onto each wall, headers having handed theirs to their jacks."""
        self.laden: set[HostName] = set()
        """Walls whose headers carry more than the wall itself."""
        self.handed_parts: list[tuple[Rest, tuple[Parcel, ...]]] = []
        """What plain joists handed to one of their bearings, as they did."""
        self._area = areas
        self._by_id = {m.id: m for m in structure.members}

    @cached_property
    def _leeward(self) -> dict[HostName, float]:
        """How much heavier snow may lie on one side of a roof's ridge."""
        return {
            HostName("roof", r.id): leeward_of(self.project, self.structure, r)
            for r in self.project.roofs
        }

    @cached_property
    def _joists(self) -> dict[str, Joists]:
        return joists_by_level(self.project, self.structure)

    @cached_property
    def _allowing(self) -> set[str]:
        """The levels whose floors have an allowance for partitions in their dead load."""
        return {f.level for f in self.project.floors if f.partitions is not None}

    @cached_property
    def _rafters(self) -> dict[str, Joists]:
        return rafters_by_plate(self.project, self.structure)

    @cached_property
    def _beneath(self) -> "_Beneath":
        return _beneath(self.project, self.structure)

    @cached_property
    def _feet(self) -> dict[MemberName, Rest]:
        return feet(self.structure)

    def run(self) -> None:
        """Send everything down to the foundation."""
        for wall in self.project.walls:
            self.parcels.setdefault(HostName("wall", wall.id), []).extend(
                wall_weight(self.project, wall)
            )
        # A gable over a curved wall has the weight of the wall, not of one of its pieces.
        weights = {whole(w.id): wall_dead(self.project, w) for w in self.project.walls}
        for gable in self.structure.gables:
            for parcel in gable_weight(gable, weights[whole(gable.wall)]):
                under = HostName("wall", self._piece_under(gable.wall, (parcel.x, parcel.y)))
                self.parcels.setdefault(under, []).append(parcel)
        for load in self.project.loads:
            self._drawn(load)
        for _, _, act in sorted(self._acts(), key=lambda a: (-a[0], a[1])):
            act()

    def _piece_under(self, wall: str, spot: Point) -> str:
        """The straight piece of a curved wall that lies under a place; a straight wall itself."""
        pieces = [w for w in self.project.walls if whole(w.id) == wall]
        nearest = min(pieces, key=lambda w: distance_to_segment(spot, w.start, w.end), default=None)
        return nearest.id if nearest else wall

    def _acts(self) -> Iterable[_Act]:
        """What hands on, with its height: walls, members, and parts of joists that can go
        together.

        What lies on another is higher than it; only what hangs at its side may have the same
        underside.
        """
        handed = [(part, self._handed(part)) for part in self.structure.parts if part.members]
        alone = [
            m
            for part, h in handed
            if not h.plain
            for m in part.members
            if m.kind.flows and len(m.carrier.supports) > 1
        ]
        struts = self.structure.of(kinds.STRUT)
        height = {m.id: _underside(m) for m in alone} | {m.id: m.start[2] + TOUCH for m in struts}
        hung = [
            m for m in alone if m.kind.carries or any(s.hung for s in m.carrier.supports)
        ] + struts
        carriers = {c for m in hung for c in map(self.resolve, m.carrier.supports)}
        for part, h in handed:
            if h.plain and not h.names.isdisjoint(carriers):  # a header hangs on a joist of it
                height.update((m.id, h.height) for m in part.members)
            elif h.plain:
                yield h.height, part.members[0].id, partial(self._part, part, h)
        for name in _hanging_first(hung, self.resolve):
            for s in _taking(self._by_id[name]):
                carrier = self.resolve(s)
                if carrier in height:
                    height[carrier] = min(height[carrier], height[name] - 1e-3)
        for name, z in height.items():
            m = self._by_id[name]
            yield z, name, partial(self._strut if m.kind is kinds.STRUT else self._span, m)
        for m in self.structure.of(kinds.POST):
            yield m.start[2], m.id, partial(self._post, m)
        for m in self.structure.of(kinds.FLOOR_SLAB):
            yield m.solid.origin[2], m.id, partial(self._slab, m)
        for wall in self.project.walls:
            host = HostName("wall", wall.id)
            yield wall_base(self.project, wall), host, partial(self._wall, host, wall)

    def _handed(self, part: Part) -> Handed:
        host = part.members[0].host
        return handed_on(part, self._area(host, 0.0) if host.kind == "floor" else NOTHING)

    def resolve(self, support: Support) -> Rest | None:
        """The name of what a support is on: of a beam cut in pieces, the piece that lies
        there."""
        return self._piece_at(support.on, support.point)

    def _piece_at(self, on: Rest | None, place: Point) -> Rest | None:
        if not isinstance(on, MemberName) or on.family != "beam" or on in self._by_id:
            return on
        for n in itertools.count():
            piece = self._by_id.get(replace(on, piece=piece_letters(n)))
            if piece is None:
                break
            (ax, ay, _), (bx, by, _) = piece.carrier.start, piece.carrier.end
            along = (
                (place[0] - ax) * (bx - ax) + (place[1] - ay) * (by - ay)
            ) / piece.carrier.length
            if -TOUCH <= along <= piece.carrier.length + TOUCH:
                return piece.id
        return on

    def _part(self, part: Part, handed: Handed) -> None:
        if not handed.names.isdisjoint(self.parcels):
            for m in part.members:
                self._span(m)
            return
        self.reactions.update(handed.reactions)
        self.ends += handed.ends
        for on, parcels in handed.onto:
            if self._takes(on):
                self.handed_parts.append((on, parcels))
                self.parcels.setdefault(on, []).extend(parcels)
            else:
                for p in parcels:
                    self._give(p.source, on, (p.x, p.y), p.forces, p.more)

    def _takes(self, on: Rest) -> bool:
        return on in self._by_id or isinstance(on, HostName)

    def _give(
        self, source: Rest, on: Rest | None, place: Point, forces: Cases, more: Cases = NOTHING
    ) -> None:
        if not forces and not more:
            return
        on = self._piece_at(on, place)
        if on is not None and self._takes(on):
            self.handed.append((source, on, forces))
            self.parcels.setdefault(on, []).append(Parcel(*place, forces, source, more))
        else:
            self.ends.append(OpenEnd(source, *place, forces))

    def _span(self, member: Member) -> None:
        if member.kind in (kinds.WALL_HEADER, kinds.LINTEL):
            self._over_opening(member)
        mine = tuple(self.parcels.pop(member.id, ()))
        found, whole = _shared(member, self._area(member.host, member.carrier.slope), mine)
        if mine:
            self.carried[member.id], self.onto[member.id] = mine, whole
        self.reactions[member.id] = found.even
        for support, forces, more in zip(member.carrier.supports, found.even, found.more):
            besides = more + self._to_leeward(member, support, forces)
            self._give(member.id, support.on, support.point, forces, besides)

    def _over_opening(self, header: Member) -> None:
        """Let a header or lintel take what has come onto its wall over it; what it rests on gives it
        back to the wall at both sides of the opening."""
        on_wall = self.parcels.get(header.host, [])
        start, way = header.start[:2], unit(sub(header.end[:2], header.start[:2]))
        over = [p for p in on_wall if 0.0 < dot(sub((p.x, p.y), start), way) < header.length]
        if not over:
            return
        if any(p.source != header.host for p in over):
            self.laden.add(header.host)
        taken = {id(p) for p in over}
        self.parcels[header.host] = [p for p in on_wall if id(p) not in taken]
        self.parcels.setdefault(header.id, []).extend(over)

    def _to_leeward(self, member: Member, support: Support, forces: Cases) -> Cases:
        """What snow carried over a ridge adds where a rafter bears: one side may have it, and what
        carries it has it with that side. At a ridge the other side has as much less."""
        times = self._leeward.get(member.host, 1.0)
        at_ridge = isinstance(support.on, MemberName) and support.on.family.startswith("ridge")
        if times <= 1.0 or member.kind is not kinds.RAFTER or at_ridge:
            return NOTHING
        return Cases(snow=forces.snow * (times - 1))

    def _post(self, member: Member) -> None:
        mine = self.parcels.get(member.id, [])
        if not mine:
            return
        self._take(member.id, mine)
        under = self._feet.get(member.id)
        if under:  # else it stands on the foundation, or on nothing
            del self.parcels[member.id]
            x, y = member.start[0], member.start[1]
            taken = Parcel(x, y, self.onto[member.id], member.id, self.onto_more[member.id])
            self.handed.append((member.id, under, taken.forces))
            self.parcels.setdefault(under, []).append(taken)

    def _take(self, name: Rest, parcels: Sequence[Parcel]) -> None:
        """Keep what comes onto a piece, of even load and besides."""
        self.onto[name] = total([p.forces for p in parcels])
        self.onto_more[name] = total([p.more for p in parcels])

    def _strut(self, member: Member) -> None:
        mine = self.parcels.pop(member.id, [])
        if mine:
            self._take(member.id, mine)
            foot = member.carrier.supports[0]
            self._give(
                member.id, foot.on, foot.point, self.onto[member.id], self.onto_more[member.id]
            )

    def _slab(self, member: Member) -> None:
        mine = self.parcels.pop(member.id, [])
        area = self._area(member.host, 0.0)
        pressure = area + Cases(member.solid.depth * self.project.site.concrete)
        carriers = self._slab_carriers(member)
        handed = share_slab(member, pressure, tuple(mine), tuple(carriers))
        self.carried[member.id], self.rests[member.id] = tuple(mine), tuple(carriers)
        if not handed:
            x, y = member.start[0], member.start[1]
            sums = total([pressure * slab_area(member), *(p.forces for p in mine)])
            self.ends.append(OpenEnd(member.id, x, y, sums))
        for on, parcel in handed:
            self.handed.append((member.id, on, parcel.forces))
            self.parcels.setdefault(on, []).append(parcel)

    def _slab_carriers(self, slab: Member) -> list[Carrier]:
        """The walls, beams and posts whose top meets a slab's underside inside its
        outline."""
        bottom = slab.solid.origin[2]
        shape = shapely.Polygon(slab.solid.plan()).buffer(TOUCH)
        found: list[Carrier] = []
        for name, ring, top in self._beneath.tops:
            if abs(top - bottom) > SLAB_ON:
                continue
            under = shapely.make_valid(
                shapely.Polygon(ring)
            )  # walls that were drawn across one another fold their bodies
            if shape.intersects(under):
                part = shapely.intersection(shape, under)
                found += [
                    (name, tuple(g.exterior.coords[:-1]))
                    for g in getattr(part, "geoms", [part])
                    if g.area > TOUCH
                ]
        for m in self.structure.members:
            if (
                m.kind is kinds.POST
                and abs(m.end[2] - bottom) <= SLAB_ON
                and shape.contains(shapely.Point(m.start[:2]))
            ):
                found.append((m.id, m.solid.plan()))
        return found

    def _wall(self, name: HostName, wall: Wall) -> None:
        mine = self.parcels.pop(name, [])
        if not mine:
            return
        self._take(name, mine)
        self.on_walls[name] = tuple(mine)
        alone = name not in self.laden and all(p.source.host == name for p in mine)
        joists = self._joists.get(wall.base) if alone else None
        foot = wall_base(self.project, wall)
        for parcel, carrier in zip(mine, self._beneath.carriers(mine, foot + TOUCH, name)):
            if carrier is None and joists is not None and wall.base in self._allowing:
                self.allowed_for.append(parcel.forces)
            elif carrier is None and joists is not None:
                self._onto_joists(name, wall, parcel, joists)
            elif carrier is not None:
                self.handed.append((name, carrier, parcel.forces))
                self.parcels.setdefault(carrier, []).append(parcel)
            else:
                self.ends.append(OpenEnd(name, parcel.x, parcel.y, parcel.forces))

    def _drawn(self, load: DrawnLoad) -> None:
        """Lay a drawn load on what spans under it: a beam, a wall or a slab close under its level,
        else the joist or rafter nearest to each piece of it."""
        name, pieces = HostName("load", load.id), list(pieces_of(load))
        height = level(self.project, load.level).elevation
        spans = [x[load.level] for x in (self._joists, self._rafters) if load.level in x]
        close = self._beneath.carriers(pieces, height + TOUCH, name, height - LAID_ON)
        any_low = self._beneath.carriers(pieces, height + TOUCH, name)
        on: dict[Rest | None, list[Parcel]] = {}
        for piece, near, low in zip(pieces, close, any_low):
            under = (joists.under((piece.x, piece.y)) for joists in spans)
            joist = next((m.id for m in under if m is not None), None)
            on.setdefault(near or joist or low, []).append(piece)
        for carrier, mine in on.items():
            for parcel in put_together(mine):
                if carrier is None:
                    self.ends.append(OpenEnd(name, parcel.x, parcel.y, parcel.forces))
                else:
                    self.handed.append((name, carrier, parcel.forces))
                    self.parcels.setdefault(carrier, []).append(parcel)

    def _onto_joists(self, name: HostName, wall: Wall, parcel: Parcel, joists: Joists) -> None:
        """Hand a piece of a wall's weight to the joists under it, each what stands nearest to it:
        pieces are longer than joists are apart."""
        way, count = unit(sub(wall.end, wall.start)), max(1, round(parcel.wide / ON_JOISTS))
        share = parcel.forces / count
        under: dict[MemberName | None, list[Point]] = {}
        for i in range(count):
            spot = add((parcel.x, parcel.y), way, ((i + 0.5) / count - 0.5) * parcel.wide)
            joist = joists.under(spot)
            under.setdefault(joist.id if joist else None, []).append(spot)
        for on, spots in under.items():
            x, y = (math.fsum(p[axis] for p in spots) / len(spots) for axis in (0, 1))
            forces = share * len(spots)
            if on:
                wide = parcel.wide * len(spots) / count
                self.handed.append((name, on, forces))
                self.parcels.setdefault(on, []).append(
                    Parcel(x, y, forces, parcel.source, wide=wide)
                )
            else:
                self.ends.append(OpenEnd(name, x, y, forces))


SLAB_ON: Final = 10.0
"""A slab lies on what ends this near to its underside, mm."""


@remembered_piece
def slab_area(slab: Member) -> float:
    """The net area of a slab in plan, mm²."""
    from balken.loads.slabs import patches

    return float(patches(slab)[2].sum())


def _underside(m: Member) -> float:
    if m.kind is kinds.RAFTER:
        return math.inf
    if m.solid.across:
        return m.solid.bounds()[0][2]
    return min(z for _, z in m.solid.outline)


def _taking(m: Member) -> tuple[Support, ...]:
    """The supports that take load from a piece: what leans on others hands nothing on to
    them."""
    return m.carrier.supports[:-1] if leans(m) else m.carrier.supports


def _hanging_first(
    members: list[Member], resolve: Callable[[Support], Rest | None]
) -> list[MemberName]:
    """Members so that each comes before those it hangs or lies on; of a ring of them none."""
    ids = {m.id for m in members}
    onto = {m.id: _carriers_in(ids, map(resolve, _taking(m))) for m in members}
    waits = Counter(c for carriers in onto.values() for c in carriers)
    free = sorted(ids - set(waits))
    found = []
    while free:
        name = free.pop()
        found.append(name)
        for c in onto[name]:
            waits[c] -= 1
            if waits[c] == 0:
                free.append(c)
    return found


def _carriers_in(ids: set[MemberName], carriers: Iterable[Rest | None]) -> list[MemberName]:
    return [c for c in carriers if isinstance(c, MemberName) and c in ids]


class _Top(NamedTuple):
    name: Rest
    ring: tuple[Point, ...]
    top: float


class _Beneath:
    """Walls, beams, slabs and stems by rank, the highest first: what lies under a place and ends
    low enough takes the load."""

    def __init__(self, ranked: list[_Top]) -> None:
        self.tops = ranked
        self._heights = [r.top for r in ranked]
        self._tree = shapely.STRtree([shapely.Polygon(r.ring) for r in ranked])

    def carriers(
        self, parcels: list[Parcel], highest: float, but: Rest, lowest: float = -math.inf
    ) -> list[Rest | None]:
        """For each parcel the first carrier under it that ends no higher, and no lower than a
        height; or None."""
        spots = shapely.points([(p.x, p.y) for p in parcels])
        found: list[Rest | None] = [None] * len(parcels)
        best = [len(self.tops)] * len(parcels)
        for i, rank in zip(*self._tree.query(spots, predicate="dwithin", distance=TOUCH).tolist()):
            one = self.tops[rank]
            low = highest - LAID_ON if family_of(one.name) in ("beam", "floor slab") else lowest
            if rank < best[i] and low <= one.top <= highest and one.name != but:
                best[i], found[i] = rank, one.name
        return found


def _beneath(project: Project, structure: Structure) -> _Beneath:
    height = {w.id: wall_top(project, w) for w in project.walls}
    tops = [
        _Top(HostName("wall", key), body.ring, height[key])
        for base in sorted({w.base for w in project.walls})
        for key, body in bodies(storey_walls(project, base)).items()
    ]
    over = [
        _Top(m.id, ring_of(m), m.solid.top()) for m in structure.of(kinds.BEAM, kinds.FLOOR_SLAB)
    ]
    ranked = sorted([*tops, *over], key=lambda t: (-t.top, t.name))
    ground = [
        _Top(m.id, m.solid.plan(), -math.inf)
        for m in structure.of(*kinds.those(lambda k: k.under_walls))
    ]
    return _Beneath(ranked + ground)


def feet(structure: Structure) -> dict[MemberName, Rest]:
    """What posts stand on above the foundation, by their names; those on the foundation or
    on nothing are left out."""
    found: dict[MemberName, Rest] = {}
    lost = []
    for post in structure.standing:
        under, grounded = _foot(post, structure.about[post.id])
        if under:
            found[post.id] = under
        elif not grounded and post.kind is kinds.POST:
            lost.append(post)
    if lost:
        joists = structure.of(kinds.TRIMMER, kinds.HEADER, kinds.JOIST)
        spots = [(m.start[0], m.start[1]) for m in lost]
        for post, near in zip(lost, near_spots(spots, joists, BESIDE)):
            if best := _best(post, near):
                found[post.id] = best
    return found


@remembered_piece
def _foot(post: Member, about: tuple[Member, ...]) -> tuple[MemberName | None, bool]:
    """The beam, post or slab under a post, and whether the foundation is."""
    grounded = any(m.kind.holds_posts and abs(_head(m) - post.start[2]) <= REST for m in about)
    return _best(
        post, [m for m in about if m.kind.carries_posts]
    ) if post.kind is kinds.POST else None, grounded


def _best(post: Member, near: Sequence[Member]) -> MemberName | None:
    best: tuple[int, MemberName] | None = None
    for m in near:
        gap = post.start[2] - _head(m)
        if m.id != post.id and -TOUCH <= gap <= (JOISTED if m.kind.in_floor else REST):
            rank = (m.kind.carries_posts, m.id)
            best = min(best or rank, rank)
    return best[1] if best else None


@remembered_piece
def _shared(member: Member, area: Cases, parcels: tuple[Parcel, ...]) -> tuple[Shared, Cases]:
    """What each support of a member takes, and the sum of what lies on it."""
    return shared(member, area, parcels), total([p.forces for p in parcels])


def _head(m: Member) -> float:
    return m.end[2] if m.kind is kinds.POST else m.solid.top()


def wall_weight(project: Project, wall: Wall) -> list[Parcel]:
    """The weight of a wall in pieces along its middle line, heavier where its foot steps down."""
    length, dead = wall_length(wall), wall_dead(project, wall)
    floors = foot_floors(project, wall)
    whole_area = face_area(project, wall)
    even = (whole_area - sum((a - b) * up for a, b, up in floors)) * dead
    count = max(1, min(2000, round(length / PIECE)))
    direction = unit(sub(wall.end, wall.start))
    middle = add(wall.start, left(direction), sum(reach(wall)) / 2)
    wide = length / count

    def below(low: float) -> float:
        """The area under its own foot between two places, less than nothing where it steps up."""
        return sum(-up * max(0.0, min(b, low + wide) - max(a, low)) for a, b, up in floors)

    return [
        Parcel(
            *add(middle, direction, (i + 0.5) * wide),
            Cases(even / count + below(i * wide) * dead),
            HostName("wall", wall.id),
            wide=wide,
        )
        for i in range(count)
    ]


def gable_weight(gable: GableWall, weight: float) -> list[Parcel]:
    """The weight of what rises over a wall in pieces along the middle of the wall, each of
    the strip over it."""
    first, last = min(s for s, _ in gable.ring), max(s for s, _ in gable.ring)
    count = max(1, min(2000, round((last - first) / PIECE)))
    wide = (last - first) / count
    strips = [
        net_area((gable.ring,), first + i * wide, first + (i + 1) * wide, -math.inf, math.inf)
        for i in range(count)
    ]
    middle = add(gable.start, left(gable.way), gable.thickness / 2)
    return [
        Parcel(
            *add(middle, gable.way, first + (i + 0.5) * wide),
            Cases(area * weight),
            HostName("wall", gable.wall),
            wide=wide,
        )
        for i, area in enumerate(strips)
    ]


def face_area(project: Project, wall: Wall) -> float:
    """The area of a wall's face without its openings, mm²; deeper where its foot steps down."""
    height = wall_top(project, wall) - wall_base(project, wall)
    holes = sum(o.width * o.height for o in wall.openings)
    below = sum((a - b) * up for a, b, up in foot_floors(project, wall))
    return max(0.0, wall_length(wall) * height + below - holes)
