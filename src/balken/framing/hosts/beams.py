"""Beams and bays of beams as one host: they meet and carry one another, and are fitted together."""

import msgspec

from balken.framing import kinds
from balken.framing.beams.fitting import Placed, Under, frame_beams
from balken.framing.by_hand import by_hand
from balken.framing.hosts.beam_heights import placed_beams
from balken.framing.member import Framed, Member, Strip, framed_of
from balken.model.catalogue import sections_of
from balken.model.names import HostName, whole
from balken.model.project import Change, Project, wall_top
from balken.model.sections import Product
from balken.recall import remembered, remembered_piece
from balken.site.bodies import bodies, storey_walls
from balken.units import System


class Site(msgspec.Struct, frozen=True):
    """What all beams are framed from: where each lies, the walls under them, and which posts end at
    the beam they carry (``tied``)."""

    placed: tuple[Placed, ...]
    faults: tuple[tuple[HostName, str], ...]
    """The beams and bays that lie nowhere, and why."""
    walls: tuple[Under, ...]
    tied: dict[HostName, bool]
    changes: tuple[Change, ...]
    system: System
    products: tuple[Product, ...]


def site(project: Project) -> Site:
    """What the beams of a project are framed from."""
    placed, faults = placed_beams(project)
    return Site(
        placed,
        faults,
        tuple(_walls_under(project)) if placed else (),
        {HostName("support", s.id): s.tied for s in project.point_supports},
        tuple(c for c in project.changes if c.member.host.kind in ("beam", "bay")),
        project.system,
        project.products,
    )


def frame(site: Site, ground: list[Framed], standing: Framed) -> Framed:
    """The members of all beams, on posts, walls, and the tops of foundations."""
    if not site.placed:
        return Framed((), tuple(c.member for c in site.changes))
    posts = [m for m in standing.members if m.kind in (kinds.POST, kinds.PIER)]
    tops = [m for f in ground for m in f.members if m.kind in (kinds.STEM, kinds.SILL)]
    unders = (
        *(_on_post(m, site.tied[m.host]) for m in posts),
        *site.walls,
        *(_on_foundation(m) for m in tops),
    )
    return _frame(site.placed, unders, site.changes, site.system, site.products)


@remembered
def _frame(
    placed: tuple[Placed, ...],
    unders: tuple[Under, ...],
    changes: tuple[Change, ...],
    system: System,
    products: tuple[Product, ...],
) -> Framed:
    members = frame_beams(placed, unders, changes)
    strips = tuple(Strip(u.on, u.ring, False) for u in unders)
    present = {m.id for m in members}
    gone = tuple(sorted(c.member for c in changes if c.member not in present and not c.removed))
    return by_hand(framed_of(members, gone), changes, (), strips, sections_of(system, products))


def _walls_under(project: Project) -> list[Under]:
    found = []
    for base in sorted({w.base for w in project.walls}):
        tops = {w.id: wall_top(project, w) for w in project.walls if w.base == base}
        for key, body in bodies(storey_walls(project, base)).items():
            found.append(Under(HostName("wall", whole(key)), body.ring, tops[whole(key)]))
    return found


@remembered_piece
def _on_post(m: Member, tied: bool) -> Under:
    return Under(m.id, m.solid.plan(), m.end[2], tied)


def _on_foundation(m: Member) -> Under:
    return Under(m.id, m.solid.plan(), m.solid.top(), concrete=m.kind is kinds.STEM)
