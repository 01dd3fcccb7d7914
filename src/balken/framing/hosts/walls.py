"""Walls of studs as hosts: from an architect's wall, its build-up and what bears on it to studs, plates and
headers."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from itertools import pairwise
from typing import Final, NamedTuple

import msgspec
import shapely

from balken.framing import kinds
from balken.framing.member import Framed, Member, Size, framed_of, unframed
from balken.framing.roofs.gables import GableWall
from balken.framing.walls.face import Face, Hole, LaidOut, Lift, Moved
from balken.framing.walls.gables import gable_members
from balken.framing.walls.layout import lay_out, layout_places
from balken.framing.walls.meeting import Band, Ends, ends_of
from balken.framing.walls.pieces import Stands, members_of
from balken.geometry.plane import TOUCH, Point, add, dot, left, sub
from balken.model.catalogue import BOX, BOX_DEPTHS, BOX_FLANGES, catalogue_of, sections_of
from balken.model.foundations import FoundationRun, walls_on
from balken.model.names import HostName, added_key, added_row
from balken.model.product_rows import WOOD_WEIGHT
from balken.model.project import (
    Change,
    Project,
    changes_on,
    level,
    wall_base,
    wall_build_up,
    wall_top,
)
from balken.model.sections import Product, Section
from balken.model.usual import WOOD
from balken.model.wall_frames import HeaderKind, StudRule
from balken.model.walls import Opening, Wall, direction_of, layer_bands, reach, wall_length
from balken.recall import remembered
from balken.site.wall_weights import weight_of_layer
from balken.units import System

HEADER: Final = "wall header"
FIRST_HEADERS: Final[dict[System, str]] = {"us": "2-2x8", "metric": "2-38x184"}
FIRST_SOLID: Final[dict[System, str]] = {"us": "4x8", "metric": "89x184"}
"""What headers are framed from until their loads are known; box headers of flanges like the studs."""
GABLE: Final = frozenset(["gable plate", "rake plate", "gable stud"])
"""Families that are framed with the roof, not with the wall below."""
NEAR: Final = 400.0
"""Walls whose ends come this near may meet, mm."""


class Site(msgspec.Struct, frozen=True):
    """What one wall is framed from."""

    wall: Wall
    rule: StudRule
    band: tuple[float, float]
    """How far the faces of its stud layer lie to the left of its line, mm."""
    ends: Ends
    foot: float
    tall: float
    wood: tuple[str, str]
    on_concrete: bool
    steps: tuple[tuple[float, float], ...]
    """Where its foot steps, and how high it lies from there over its own."""
    skin: float
    """Weight of the panels on its studs, N/mm²."""
    changes: tuple[Change, ...]
    system: System
    products: tuple[Product, ...]

    @property
    def host(self) -> HostName:
        """The name its members bear."""
        return HostName("wall", self.wall.id)


def rule_of(project: Project, wall: Wall) -> StudRule | None:
    """How a wall is framed: by its own rule, else by its build-up's; None where it is not."""
    body = wall_build_up(project, wall)
    rule = wall.studs or (body.studs if body else None)
    return rule if rule is not None and rule.framed else None


def band_of(project: Project, wall: Wall) -> Band:
    """The stud layer of a wall: its core, or all of it where its layers are not known."""
    heights = (wall_base(project, wall), wall_top(project, wall))
    body = wall_build_up(project, wall)
    cores = [x for x in layer_bands(wall, body) if x[0].role == "core"] if body else []
    if cores:
        faces = [f for _, a, b in cores for f in (a, b)]
        return Band(wall, min(faces), max(faces), *heights)
    far, near = reach(wall)
    return Band(wall, near, far, *heights)


def sites_of_walls(project: Project) -> tuple[Site, ...]:
    """What all framed walls are framed from."""
    framed = [(w, rule_of(project, w)) for w in project.walls]
    bands = [band_of(project, w) for w, rule in framed if rule is not None and not w.bulge]
    near = _Near(bands)
    return tuple(_site(project, w, rule, near) for w, rule in framed if rule is not None)


class _Near:
    """Finds the walls whose frames may meet that of another."""

    def __init__(self, bands: Sequence[Band]) -> None:
        self._bands = bands
        self._tree = shapely.STRtree([_room(b) for b in bands])

    def of(self, band: Band) -> list[Band]:
        """The others that come near one, in their order."""
        found = sorted(self._tree.query(_room(band)).tolist())
        others = (self._bands[i] for i in found)
        return [b for b in others if b.wall.id != band.wall.id and _come_near(band, b)]


def _room(band: Band) -> shapely.Polygon:
    """The box round a wall and what is near it."""
    (ax, ay), (bx, by) = band.wall.start, band.wall.end
    reach = NEAR + band.wall.thickness
    return shapely.box(
        min(ax, bx) - reach, min(ay, by) - reach, max(ax, bx) + reach, max(ay, by) + reach
    )


def _site(project: Project, wall: Wall, rule: StudRule, others: _Near) -> Site:
    band = band_of(project, wall)
    near = others.of(band)
    foot = wall_base(project, wall)
    usual = WOOD[project.code]
    return Site(
        wall,
        rule,
        (band.near, band.far),
        ends_of(band, near),
        foot,
        wall_top(project, wall) - foot,
        (rule.species or usual.species, rule.grade or usual.grade),
        stands_on_concrete(project, wall),
        foot_steps(project, wall),
        skin_of(project, wall),
        changes_on(project, HostName("wall", wall.id)),
        project.system,
        project.products,
    )


def stands_on_concrete(project: Project, wall: Wall) -> bool:
    """Whether the foot of a wall lies on a foundation, a slab, or the edge of one."""
    if level(project, wall.base).role in ("foundation_top", "slab"):
        return True
    foot = wall_base(project, wall)
    return any(abs(foot - top) < ON_TOP for _, top in _runs_under(project, wall))


def skin_of(project: Project, wall: Wall) -> float:
    """Weight of the sheathing of a wall, which is lifted with its frame, N/mm²."""
    body = wall_build_up(project, wall)
    layers = [x for x in body.layers if x.role == "sheathing"] if body else []
    return sum(weight_of_layer(x) * x.thickness for x in layers)


def foot_steps(project: Project, wall: Wall) -> tuple[tuple[float, float], ...]:
    """Where the foot of a framed wall steps with the foundation it stands on, mm from its start, and how
    high it lies from there over its own."""
    foot = wall_base(project, wall)
    return tuple(
        (s.at, -s.down)
        for run, top in _runs_under(project, wall)
        if abs(foot - top) < ON_TOP
        for part in run.parts
        if part.wall == wall.id
        for s in sorted(part.top_steps, key=lambda s: s.at)
    )


def foot_floors(project: Project, wall: Wall) -> list[tuple[float, float, float]]:
    """The stretches of a wall's foot: from, to along it, and how high each lies over its own, mm."""
    steps = foot_steps(project, wall)
    places = [0.0, *(at for at, _ in steps), wall_length(wall)]
    return [(a, b, up) for (a, b), up in zip(pairwise(places), (0.0, *(up for _, up in steps)))]


def _runs_under(project: Project, wall: Wall) -> Iterator[tuple[FoundationRun, float]]:
    """The foundations that a wall stands on, and how high the top of each lies under it, mm."""
    heights = {x.id: x.elevation for x in project.levels}
    for run in project.runs:
        if wall.id in walls_on(run):
            drop = next((p.top_drop for p in run.parts if p.wall == wall.id), 0.0)
            slab = run.slab_level if run.kind == "slab edge" and run.slab_level else run.top
            yield run, heights[slab] - drop


ON_TOP: Final = 10.0
"""A wall whose foot lies this near to the top of a foundation stands on it, mm."""


def _come_near(one: Band, two: Band) -> bool:
    """Whether the boxes round two walls meet, upright too."""
    a, b = one.wall, two.wall
    if min(one.top, two.top) - max(one.foot, two.foot) < NEAR / 4:
        return False
    return all(
        min(a.start[k], a.end[k]) - NEAR <= max(b.start[k], b.end[k]) + b.thickness
        and min(b.start[k], b.end[k]) - NEAR <= max(a.start[k], a.end[k]) + a.thickness
        for k in (0, 1)
    )


def studs_of(site: Site) -> Section | None:
    """What studs and plates are cut from: as held, else the widest that the stud layer takes; None
    where none does."""
    known = sections_of(site.system, site.products)
    if site.rule.section:
        return known.get(site.rule.section)
    room = site.band[1] - site.band[0] + 0.5
    two = [s for s in catalogue_of(site.system).sections.values() if s.nominal[0] == 2]
    fits = [s for s in two if s.plies == 1 and s.depth <= room]
    return max(fits, key=lambda s: s.depth, default=None)


class Borne(NamedTuple):
    """What bears on a wall, along it."""

    points: tuple[tuple[str, float, int], ...] = ()
    """At one place: its name, where, and how many studs stand under it."""
    rows: tuple[float, ...] = ()
    """The middles of joists, rafters and trusses, where its studs stand under them."""


NOTHING_BORNE: Final = Borne()


def frame(site: Site, size: Size | None, borne: Borne = NOTHING_BORNE) -> tuple[Framed, LaidOut]:
    """The members of a wall, and what of it could not be framed.

    Args:
        site: what it is framed from.
        size: what its headers are cut from; None until it is known.
        borne: what bears on it.
    """
    studs = studs_of(site)
    nothing = LaidOut((), ())
    if site.wall.bulge:
        return unframed(
            f"{site.wall.name} is curved: curved walls are not framed of studs"
        ), nothing
    if studs is None:
        return unframed(f"no stud fits into the core of {site.wall.name}"), nothing
    if site.tall < 4 * studs.breadth:
        return unframed(f"{site.wall.name} is too low for plates and studs"), nothing
    return _framed(site, studs, size, borne)


@remembered
def _framed(site: Site, studs: Section, size: Size | None, borne: Borne) -> tuple[Framed, LaidOut]:
    known = sections_of(site.system, site.products)
    chosen = dict(size.cut) if size else {}
    headers = {o.id: _header_of(site, o.id, chosen, known, studs) for o in site.wall.openings}
    jacks = dict(size.plies) if size else {}
    face = face_of(site, studs, headers, jacks, borne)
    done = lay_out(face)
    at = _stands(site, studs, headers)
    away = {c.member for c in site.changes if c.removed}
    settled = face._replace(holes=done.holes)
    members = [m for m in members_of(settled, done.sticks, at) if m.id not in away]
    members = [_touched(m, site) for m in members]
    kept = {c.member for c in site.changes if not c.removed and c.member.family not in GABLE}
    gone = kept - {m.id for m in members}
    return framed_of(members, tuple(sorted(gone))), done


def _touched(m: Member, site: Site) -> Member:
    """A piece, marked where a person set or moved it."""
    by_hand = bool(added_key(m.id)) or any(c.member == m.id for c in site.changes)
    return msgspec.structs.replace(m, touched=True) if by_hand else m


def _stands(site: Site, studs: Section, headers: dict[str, Section]) -> Stands:
    way = direction_of(site.wall)
    return Stands(
        site.host,
        site.wall.base,
        add(site.wall.start, left(way), sum(site.band) / 2),
        way,
        site.foot,
        studs,
        " ".join(site.wood),
        site.on_concrete,
        headers,
    )


def frame_gables(sites: Iterable[Site], gables: Iterable[GableWall]) -> list[Framed]:
    """What rises to roofs over framed walls."""
    by_wall = {s.wall.id: s for s in sites}
    found = []
    for gable in gables:
        site = by_wall.get(gable.wall)
        studs = studs_of(site) if site is not None else None
        if site is not None and studs is not None:
            found.append(_gable(site, studs, gable))
    return found


@remembered
def _gable(site: Site, studs: Section, gable: GableWall) -> Framed:
    face = face_of(site, studs, {}, {}, openings=False)
    members = gable_members(gable, _stands(site, studs, {}), layout_places(face))
    away = {c.member for c in site.changes if c.removed}
    return framed_of(m for m in members if m.id not in away)


def openings_under(header: Member, item: Wall) -> tuple[Opening, ...]:
    """The openings of a wall that one header goes over, from the wall's start on."""
    way = direction_of(item)
    low, high = sorted(dot(sub(end[:2], item.start), way) for end in (header.start, header.end))
    lead = next((o for o in item.openings if o.id == header.id.row), None)
    return tuple(
        o
        for o in sorted(item.openings, key=lambda o: o.at)
        if lead is not None
        and low - TOUCH <= o.at
        and o.at + o.width <= high + TOUCH
        and abs(o.sill + o.height - lead.sill - lead.height) <= TOUCH
    )


def first_header(kind: HeaderKind, system: System, studs: Section) -> str:
    """What headers of a kind are framed from until their loads are known."""
    if kind == "box":
        wide = BOX_FLANGES[system]
        depth, _ = BOX_DEPTHS[system][0]
        return f"{BOX}{studs.name if studs.name in wide else wide[0]}x{depth}"
    return (FIRST_SOLID if kind == "solid" else FIRST_HEADERS)[system]


def _header_of(
    site: Site,
    key: str,
    chosen: dict[tuple[str, str], str],
    known: dict[str, Section],
    studs: Section,
) -> Section:
    first = first_header(site.rule.header, site.system, studs)
    held = next((o.header for o in site.wall.openings if o.id == key), "")
    name = held or site.rule.header_section or chosen.get((HEADER, key)) or first
    return known.get(name, known[first])  # a product that was held may be gone


def face_of(
    site: Site,
    studs: Section,
    headers: dict[str, Section],
    jacks: dict[str, int],
    borne: Borne = NOTHING_BORNE,
    *,
    openings: bool = True,
) -> Face:
    """A wall's frame before it is laid out."""
    flat = site.rule.header == "flat"
    holes = tuple(
        Hole(
            o.id,
            o.at,
            o.at + o.width,
            max(0.0, o.sill),
            o.sill + o.height,
            studs.breadth if flat else headers[o.id].depth,
            o.jacks or jacks.get(o.id, 1),
            o.kings or 1,
            o.sills or site.rule.sills,
            portal=o.portal,
        )
        for o in (site.wall.openings if openings else ())
    )
    ends = site.ends
    return Face(
        ends.low,
        ends.high,
        site.tall,
        studs.breadth,
        site.rule,
        holes,
        ends.start,
        ends.end,
        ends.tees,
        borne.points,
        site.steps,
        tuple((added_row(s.id), s.at) for s in site.wall.set_studs),
        tuple(
            Moved(c.member.family, c.member.row, c.member.piece, c.shift, c.up)
            for c in site.changes
            if c.shift or c.up
        ),
        _lift(site, studs),
        borne.rows,
    )


def _lift(site: Site, studs: Section) -> Lift | None:
    """What of a wall can be lifted in one; None where it is framed in its place."""
    rule = site.rule
    if not rule.lift_length and not rule.lift_weight:
        return None
    return Lift(rule.lift_length, rule.lift_weight, studs.depth, WOOD_WEIGHT, site.skin)


Points = dict[HostName, tuple[tuple[str, Point, float], ...]]
"""By wall what bears on it at one place: its name, where, and how wide it is, mm."""


def points_on(above: Iterable[Framed]) -> Points:
    """Beams and girder trusses that bear on walls."""
    found: dict[HostName, list[tuple[str, Point, float]]] = {}
    for framed in above:
        for m in framed.members:
            if not is_heavy(m):
                continue
            for i, s in enumerate(m.carrier.supports):
                if isinstance(s.on, HostName) and s.on.kind == "wall":
                    name = f"{m.host.key}{m.id.row}{'abcdefgh'[min(i, 7)]}"
                    found.setdefault(s.on, []).append((name, s.point, m.solid.depth))
    return {host: tuple(mine) for host, mine in found.items()}


def is_heavy(m: Member) -> bool:
    """Whether a beam or a girder truss brings its load to one place of a wall."""
    girder = m.kind is kinds.BOTTOM_CHORD and m.id.row.startswith("G")
    return girder or m.kind in (kinds.BEAM, kinds.RIDGE_BEAM)


Rows = dict[HostName, tuple[Point, ...]]
"""By wall where joists, rafters and trusses bear on it."""


def rows_on(sites: Iterable[Site], above: Iterable[Framed]) -> Rows:
    """What bears in rows on those walls whose studs stand under it."""
    wanted = {s.host for s in sites if s.rule.begins == "under joists"}
    found: dict[HostName, list[Point]] = {host: [] for host in wanted}
    if not wanted:
        return {}
    for framed in above:
        for m in framed.members:
            if m.kind.spans or m.kind is kinds.BOTTOM_CHORD:
                for s in m.carrier.supports:
                    if s.on in wanted:
                        found[s.on].append(s.point)
    return {host: tuple(places) for host, places in found.items()}


def frame_all(
    sites: Iterable[Site], headers: Mapping[HostName, Size], points: Points, rows: Rows
) -> dict[HostName, tuple[Framed, LaidOut]]:
    """All framed walls, each by itself."""
    return {
        s.host: frame(s, headers.get(s.host), Borne(_along(s, points), _rows(s, rows)))
        for s in sites
    }


def _rows(site: Site, rows: Rows) -> tuple[float, ...]:
    way = direction_of(site.wall)
    found = sorted(dot(sub(place, site.wall.start), way) for place in rows.get(site.host, ()))
    kept: list[float] = []
    for x in found:  # pieces that lap over the wall stand on one stud
        if not kept or x - kept[-1] > TOGETHER:
            kept.append(x)
    return tuple(kept)


TOGETHER: Final = 100.0
"""Joists that lie this near to one another stand on one stud, mm."""


def _along(site: Site, points: Points) -> tuple[tuple[str, float, int], ...]:
    """What bears on a wall at one place, along it: under each as many studs as it is wide, two at
    least."""
    way, studs = direction_of(site.wall), studs_of(site)
    thick = studs.breadth if studs else 38.0
    mine = points.get(site.host, ())
    found = (
        (name, dot(sub(place, site.wall.start), way), max(2, round(wide / thick + 0.3)))
        for name, place, wide in mine
    )
    return tuple(sorted(found, key=lambda f: (f[1], f[0])))
