"""Tiers: what fills the building between two levels, from the footing up. The way round the
program."""

from collections.abc import Container, Sequence
from typing import Final, Literal

import msgspec
from msgspec.structs import replace

from balken.framing.hosts.floor_bearing import bearings_of_floor
from balken.framing.hosts.heights import build_up_of
from balken.framing.hosts.runs import heights_of
from balken.model.beams import Beam, BeamBay
from balken.model.floors import FloorArea
from balken.model.foundations import WITH_STEM, walls_on
from balken.model.names import HostKind, HostName, MemberName, Name, ThingName
from balken.model.project import Level, Project, column, level, levels_of
from balken.works.building import Checked

EMPTY: Final = 2440.0
"""Height of a storey that nothing says anything about, mm."""


class Tier(msgspec.Struct, frozen=True):
    """One tier: the host that fills it, its name, and its heights, mm."""

    id: Name
    name: str
    kind: Literal["ground", "walls", "floor", "ceiling", "roof"]
    low: float
    high: float
    walls_on: str
    """The level whose walls belong on its plan."""
    hosts: tuple[HostName, ...] = ()
    """What stands in it: all foundations share one tier, and so do the floors of a level with their
    beams."""

    @property
    def key(self) -> str:
        """The key of what it is named for: a floor, a roof, a foundation, a level."""
        return self.id.host.key if isinstance(self.id, MemberName) else self.id.key

    @property
    def host(self) -> HostName | None:
        """The floor, roof or foundation it is named for; None of walls, and of beams alone."""
        return self.id if isinstance(self.id, HostName) else None

    def holds(self, host: Name | None) -> bool:
        """Whether a host stands in this tier."""
        return host == self.id or host in self.hosts


def tiers(checked: Checked) -> tuple[Tier, ...]:
    """The tiers of a building from the lowest up."""
    project = checked.project
    found = [_foundation(project)] if project.runs else _pads(project)
    found += _floors(checked) + _walls(project) + _roofs(checked)
    return tuple(sorted(found, key=lambda t: (t.low, t.high)))


def _walls(project: Project) -> list[Tier]:
    """A tier for the walls on each level, and for floors on which walls may come to stand."""
    floors = [x.id for x in levels_of(column(project), "floor")]
    found = []
    for base in dict.fromkeys([*(w.base for w in project.walls), *floors]):
        mine = [w for w in project.walls if w.base == base]
        tops = [level(project, w.top).elevation for w in mine]
        item = level(project, base)
        high = max(tops) if tops else _next_up(project, item)
        key, name = ThingName("walls", base), f"{item.name} walls"
        hosts = tuple(HostName("wall", w.id) for w in mine)
        found.append(Tier(key, name, "walls", item.elevation, high, base, hosts))
    return found


def _pads(project: Project) -> list[Tier]:
    """The tier of pads and piers where there is no other foundation."""
    up = column(project)
    footing = next(iter(levels_of(up, "footing_top")), None)
    bases = [level(project, s.base).elevation for s in project.point_supports if s.kind != "post"]
    if footing is None or not bases:
        return []
    walls_on = next((x.id for x in levels_of(up, "floor")), "")
    key = ThingName("ground", "pads")
    return [Tier(key, "Foundation", "ground", min(bases), footing.elevation, walls_on)]


def _floors(checked: Checked) -> list[Tier]:
    """A tier for the floors of each level with the beams under them, and one for beams that
    carry none."""
    project = checked.project
    beams = _beams_by_level(project)
    groups: dict[tuple[str, str], list[FloorArea]] = {}
    for floor in project.floors:
        groups.setdefault((floor.level, build_up_of(project, floor).use), []).append(floor)
    found = []
    for (key, use), floors in groups.items():
        mine = tuple(beams.pop(key, ())) if use == "floor" else ()
        found.append(_floor(checked, floors, mine))
    alone = (_beams_alone(checked, key, names) for key, names in beams.items())
    return [*found, *(tier for tier in alone if tier is not None)]


def _beams_by_level(project: Project) -> dict[str, list[HostName]]:
    """The beams and bays at each level, but for those at the plates of a roof where no floor
    lies."""
    at_roofs = {r.plate for r in project.roofs} - {f.level for f in project.floors}
    found: dict[str, list[HostName]] = {}
    both: tuple[tuple[HostKind, Sequence[Beam | BeamBay]], ...] = (
        ("beam", project.beams),
        ("bay", project.bays),
    )
    for kind, records in both:
        for record in records:
            if record.level not in at_roofs:
                found.setdefault(record.level, []).append(HostName(kind, record.id))
    return found


def _floor(checked: Checked, floors: list[FloorArea], beams: tuple[HostName, ...]) -> Tier:
    """The tier of the floors or ceilings of one level, with the beams under them."""
    project, first = checked.project, floors[0]
    mine = tuple(HostName("floor", f.id) for f in floors)
    bearings = bearings_of_floor(checked.built, first)
    low = bearings.height if bearings else level(project, first.bears_on).elevation
    high = _top_of(checked, mine, low)
    name = first.name if len(floors) == 1 else level(project, first.level).name
    build_ups = [build_up_of(project, f) for f in floors]
    walls = _base_of(project, tuple(k for f in floors for k in f.walls))
    if build_ups[0].use == "ceiling":
        return Tier(mine[0], name, "ceiling", low, high, walls, mine + beams)
    what = "slab" if all(b.kind == "slab" for b in build_ups) else "joists"
    return Tier(mine[0], f"{name} {what}", "floor", low, high, walls, mine + beams)


def _top_of(checked: Checked, hosts: Container[HostName], low: float) -> float:
    """The top of what stands in a tier; just over its foot where nothing does."""
    members = [m for m in checked.structure.members if m.host in hosts]
    return max((m.solid.top() for m in members), default=low + 1)


def _beams_alone(checked: Checked, key: str, hosts: list[HostName]) -> Tier | None:
    """The tier of beams that carry no floor; None where none of them is framed."""
    project = checked.project
    members = [m for m in checked.structure.members if m.host in hosts]
    if not members:
        return None
    low = min(m.solid.bounds()[0][2] for m in members)
    walls_under = next((w.base for w in project.walls if w.top == key), "")
    return Tier(
        ThingName("beams", key),
        f"{level(project, key).name} beams",
        "floor",
        low,
        _top_of(checked, hosts, low),
        walls_under,
        tuple(hosts),
    )


def _roofs(checked: Checked) -> list[Tier]:
    """A tier for the roofs on each plate level."""
    project = checked.project
    found = []
    for plate in dict.fromkeys(r.plate for r in project.roofs):
        roofs = [r for r in project.roofs if r.plate == plate]
        mine = tuple(HostName("roof", r.id) for r in roofs)
        low = level(project, plate).elevation
        walls = _base_of(project, tuple(k for r in roofs for k in r.walls))
        hosts = (*mine, *_beams_at(project, plate))
        names = ", ".join(r.name for r in roofs)
        top = _top_of(checked, mine, low)
        found.append(Tier(mine[0], f"Roof {names}", "roof", low, top, walls, hosts))
    if len(found) == 1:  # where there is one only, nothing is to be told apart
        return [replace(found[0], name="Roof")]
    return found


def _beams_at(project: Project, plate: str) -> tuple[HostName, ...]:
    """The beams on a plate level that carries roofs and no floor: they stand in the tier of
    the roofs."""
    if any(f.level == plate for f in project.floors):
        return ()
    beams = tuple(HostName("beam", b.id) for b in project.beams if b.level == plate)
    return (*beams, *(HostName("bay", b.id) for b in project.bays if b.level == plate))


def _foundation(project: Project) -> Tier:
    """The one tier of all foundations: from the lowest bottom to the highest top of what
    walls stand on."""
    runs = project.runs
    strips = [r for r in runs if r.kind in WITH_STEM] or list(runs)
    heights = [heights_of(project, r) for r in strips]
    low, high = min(h[0] for h in heights), max(h[2] for h in heights)
    if high - low < 1.0:
        low = high - max(1.0, *(max(r.edge_depth, r.slab_thickness) for r in runs))
    walls = _base_of(project, tuple(k for r in runs for k in walls_on(r)))
    hosts = tuple(HostName("run", r.id) for r in runs)
    return Tier(hosts[0], "Foundation", "ground", low, high, walls, hosts)


def _next_up(project: Project, item: Level) -> float:
    """The top of a storey without walls: the next plate or floor, else a usual height above
    it."""
    above = [
        x.elevation
        for x in project.levels
        if x.elevation > item.elevation and x.role in ("plate", "floor", "ridge")
    ]
    return min(above, default=item.elevation + EMPTY)


def _base_of(project: Project, keys: tuple[str, ...]) -> str:
    return next((w.base for w in project.walls if w.id in keys), "")
