"""The whole structure of a project: every host framed from the few records it reads."""

import itertools
from collections.abc import Iterable, Mapping
from itertools import chain

import msgspec
from msgspec.structs import replace

from balken.framing import kinds
from balken.framing.beams.supports import stand
from balken.framing.concrete import Concrete, trim_concrete
from balken.framing.ground.anchors import Bolts
from balken.framing.ground.bolting import bolts_of
from balken.framing.hosts import beams, floors, lintels, over, roofs, runs, supports, walls
from balken.framing.hosts.roof_shapes import seen_of, shapes_of
from balken.framing.hosts.runs import Step
from balken.framing.hosts.sites import Sites
from balken.framing.kinds import MemberKind
from balken.framing.member import Framed, Member, Part, Size, framed_of
from balken.framing.roofs.gables import GableWall
from balken.framing.roofs.shape import RoofShape
from balken.framing.walls.face import Lack
from balken.geometry.roof_planes import Face
from balken.model.names import HostName, MemberName, Rest, piece_letters
from balken.recall import remembered_piece


class Structure(msgspec.Struct, frozen=True):
    """All members, in a lasting order, and what could not be framed."""

    parts: tuple[Part, ...]
    """All members as they were made together: parts that did not change are the same objects as
    before an edit."""
    members: tuple[Member, ...]
    gone: tuple[MemberName, ...]
    """Changes by hand whose member is no longer there."""
    unframed: tuple[tuple[Rest | None, str], ...]
    """Hosts that could not be framed, and why."""
    concrete: Concrete = Concrete({}, {})
    """What is left of concrete that meets other concrete."""
    bolts: dict[MemberName, Bolts] = {}
    """Anchor bolts per piece of sill."""
    steps: tuple[Step, ...] = ()
    """Steps of all footings."""
    standing: tuple[Member, ...] = ()
    """Posts and piers, to be found without looking through everything."""
    about: dict[MemberName, tuple[Member, ...]] = {}
    """By the name of each of them, what a post can stand on that lies under or over it, in any
    height."""

    by_kind: dict[MemberKind, tuple[Member, ...]] = {}
    roofs: dict[HostName, RoofShape] = {}
    """The shape of each roof, by its host's name."""
    seen: dict[HostName, tuple[Face, ...]] = {}
    """What is seen of the planes of each roof."""
    gables: tuple[GableWall, ...] = ()
    """What of walls rises over their top to a roof."""
    lacks: dict[HostName, tuple[Lack, ...]] = {}
    """What of each wall cannot be framed, and by how much."""

    def of(self, *wanted: MemberKind) -> list[Member]:
        """The members of these kinds, kind by kind."""
        return [m for kind in wanted for m in self.by_kind.get(kind, ())]

    def in_host(self, host: HostName, *wanted: MemberKind) -> list[Member]:
        """The members of these kinds of one host. A part is of one host."""
        mine = (p for p in self.parts if p.members and p.members[0].host == host)
        return [m for part in mine for m in part.members if m.kind in wanted]

    def volume(self, member: Member) -> float:
        """A member's volume, concrete counted once, mm³."""
        mesh = self.concrete.meshes.get(member.id)
        return member.solid.volume if mesh is None else mesh.volume


def frame(
    sites: Sites, sizes: dict[HostName, Size], headers: Mapping[HostName, Size] | None = None
) -> Structure:
    """Frame a whole building, host after host: what carries before what it carries.

    Args:
        sites: what each host is framed from.
        sizes: section and spacing per floor and roof.
        headers: what the headers of each wall are cut from, where that is known.
    """
    ground = [runs.frame(s) for s in sites.runs]
    standing = supports.frame(sites.supports)
    beamed = beams.frame(sites.beams, ground, standing)
    floored = {s.host: floors.frame(s, sizes.get(s.host)) for s in sites.floors}
    shapes = shapes_of(sites.roofs, sizes)
    seen = dict(zip(shapes.onward, seen_of(tuple(shapes.onward.values()))))
    roofed = roofs.frame(sites.roofs, shapes, sizes, floored)
    valleys = over.frame(sites.roofs, shapes, seen, sizes)
    slabs = _of(floored.values(), kinds.FLOOR_SLAB)
    ridges = _of(roofed.values(), kinds.RIDGE_BEAM, kinds.PURLIN)
    stood = stand(standing.members, beamed.members, _members(ground), slabs, ridges)
    by_host = floored | roofed
    gables = roofs.gables(sites.roofs, shapes.framed, sizes)
    above = [*by_host.values(), beamed]
    walled = walls.frame_all(
        sites.walls, headers or {}, walls.points_on(above), walls.rows_on(sites.walls, above)
    )
    over_openings = lintels.frame_all(sites.lintels)
    framed = [
        *ground,
        *(f for f, _ in over_openings.values()),
        *(w for w, _ in walled.values()),
        *walls.frame_gables(sites.walls, gables),
        *by_host.values(),
        *_left(valleys, sites),
        beamed,
        framed_of(stood.members),
    ]
    parts = _each_named_once(tuple(part for f in framed for part in f.parts))
    by_kind = _by_kind(parts)
    return Structure(
        parts,
        tuple(chain.from_iterable(part.members for part in parts)),
        _gone(sites, framed, valleys),
        (*sites.beams.faults, *_faults(by_host | {h: w for h, (w, _) in walled.items()})),
        trim_concrete(_meeting(by_kind)),
        _bolts(parts, by_kind, sites),
        tuple(chain.from_iterable(map(runs.steps_of, sites.runs))),
        tuple(m for m in stood.members if m.kind in (kinds.POST, kinds.PIER)),
        stood.about,
        by_kind,
        shapes.framed,
        seen,
        gables,
        _lacks({host: done.lacks for host, (_, done) in walled.items()}, over_openings),
    )


def _lacks(
    walled: Mapping[HostName, tuple[Lack, ...]], lintelled: lintels.Lintels
) -> dict[HostName, tuple[Lack, ...]]:
    """What of openings cannot be framed, by wall."""
    every = {**walled, **{host: lacks for host, (_, lacks) in lintelled.items()}}
    return {host: lacks for host, lacks in every.items() if lacks}


def _bolts(
    parts: tuple[Part, ...], by_kind: dict[MemberKind, tuple[Member, ...]], sites: Sites
) -> dict[MemberName, Bolts]:
    """The anchor bolts of sills, and of plates on concrete."""
    on_concrete = {s.host for s in sites.walls if s.on_concrete}
    plates = [m for m in by_kind.get(kinds.BOTTOM_PLATE, ()) if m.host in on_concrete]
    bolted = [*by_kind.get(kinds.SILL, ()), *plates]
    uprights = [
        m
        for kind in (kinds.WALL_STUD, kinds.KING, kinds.JACK)
        for m in by_kind.get(kind, ())
        if m.host in on_concrete
    ]
    return bolts_of(parts, bolted, uprights, sites.doors, sites.bolts_apart)


def _faults(by_host: dict[HostName, Framed]) -> list[tuple[HostName, str]]:
    """The hosts that could not be framed, and why."""
    return [(host, f.fault) for host, f in by_host.items() if f.fault]


def _left(valleys: list[tuple[Member, ...]], sites: Sites) -> list[Framed]:
    """What is framed over other roofs, without what was taken away by hand."""
    return [framed_of(m for m in members if m.id not in sites.away) for members in valleys]


def _meeting(by_kind: dict[MemberKind, tuple[Member, ...]]) -> list[Member]:
    """The members that give way to one another or have voids."""
    return [m for kind in (*kinds.CONCRETE, kinds.SUBFLOOR) for m in by_kind.get(kind, ())]


def _members(framed: Iterable[Framed]) -> tuple[Member, ...]:
    return tuple(m for f in framed for m in f.members)


def _of(framed: Iterable[Framed], *wanted: MemberKind) -> tuple[Member, ...]:
    """The members of these kinds that hosts gave; found part by part."""
    return tuple(
        m
        for f in framed
        for part in f.parts
        for kind, members in _kinds_in(part)
        if kind in wanted
        for m in members
    )


def _gone(
    sites: Sites, framed: Iterable[Framed], valleys: Iterable[tuple[Member, ...]]
) -> tuple[MemberName, ...]:
    """Changes by hand whose member is not there; what is framed over other roofs is found only
    after its roof missed it."""
    missed = sites.orphans.union(*(f.gone for f in framed))
    return tuple(sorted(missed - {m.id for members in valleys for m in members}))


def _each_named_once(parts: tuple[Part, ...]) -> tuple[Part, ...]:
    """Parts in which no two members share a name: loads, checks and lists go by names, and
    would lose the second."""
    names = [m.id for part in parts for m in part.members]
    if len(set(names)) == len(names):
        return parts
    taken: set[MemberName] = set()
    return tuple(part.after([_named_apart(m, taken) for m in part.members]) for part in parts)


def _named_apart(member: Member, taken: set[MemberName]) -> Member:
    """A member with letters behind its name and mark where another has them already."""
    if member.id not in taken:
        taken.add(member.id)
        return member
    for k in itertools.count(1):
        more = piece_letters(k)
        name = replace(member.id, piece=member.id.piece + more)
        if name not in taken:
            break
    taken.add(name)
    return replace(member, id=name, mark=member.mark + more)


def _by_kind(parts: tuple[Part, ...]) -> dict[MemberKind, tuple[Member, ...]]:
    found: dict[MemberKind, list[Member]] = {}
    for part in parts:
        for kind, members in _kinds_in(part):
            found.setdefault(kind, []).extend(members)
    return {kind: tuple(members) for kind, members in found.items()}


@remembered_piece
def _kinds_in(part: Part) -> tuple[tuple[MemberKind, tuple[Member, ...]], ...]:
    there = dict.fromkeys(m.kind for m in part.members)
    return tuple((kind, tuple([m for m in part.members if m.kind is kind])) for kind in there)
