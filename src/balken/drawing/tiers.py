"""Tiers: what fills the building between two levels, from the footing up. The way round the
program."""

from collections.abc import Sequence
from typing import Final, Literal

import msgspec

from balken.framing.hosts.floor_bearing import bed_of_floor
from balken.framing.hosts.heights import build_up_of
from balken.framing.hosts.runs import heights_of
from balken.model.beams import Beam, BeamBay
from balken.model.floors import FloorArea
from balken.model.foundations import WITH_STEM, walls_on
from balken.model.names import HostKind, HostName, MemberName, Name, ThingName
from balken.model.project import Level, Project, column, level
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
    found: list[Tier] = []
    if project.runs:
        found.append(_foundation(project))
    found += _floors(checked)
    floors = [x.id for x in column(project) if x.role == "floor"]
    for base in dict.fromkeys([*(w.base for w in project.walls), *floors]):
        tops = [level(project, w.top).elevation for w in project.walls if w.base == base]
        item = level(project, base)
        high = max(tops) if tops else _next_up(project, item)
        found.append(
            Tier(
                ThingName("walls", base), f"{item.name} walls", "walls", item.elevation, high, base
            )
        )
    footing = next((x for x in column(project) if x.role == "footing_top"), None)
    if footing and not project.runs and any(s.kind != "post" for s in project.point_supports):
        low = min(
            level(project, s.base).elevation for s in project.point_supports if s.kind != "post"
        )
        found.append(
            Tier(
                ThingName("ground", "pads"),
                "Foundation",
                "ground",
                low,
                footing.elevation,
                next(iter(floors), ""),
            )
        )
    found += _roofs(checked)
    return tuple(sorted(found, key=lambda t: (t.low, t.high)))


def _floors(checked: Checked) -> list[Tier]:
    """A tier for the floors of each level with the beams under them, and one for beams that
    carry none."""
    project = checked.project
    beams: dict[str, list[HostName]] = {}
    both: tuple[tuple[HostKind, Sequence[Beam | BeamBay]], ...] = (
        ("beam", project.beams),
        ("bay", project.bays),
    )
    for kind, records in both:
        for record in records:
            if record.level not in {r.plate for r in project.roofs} or any(
                f.level == record.level for f in project.floors
            ):
                beams.setdefault(record.level, []).append(HostName(kind, record.id))
    groups: dict[tuple[str, str], list[FloorArea]] = {}
    for floor in project.floors:
        groups.setdefault((floor.level, build_up_of(project, floor).use), []).append(floor)
    found = []
    for (key, use), floors in groups.items():
        first = floors[0]
        mine = tuple(beams.pop(key, ())) if use == "floor" else ()
        hosts = tuple(HostName("floor", f.id) for f in floors) + mine
        bed = bed_of_floor(checked.built, first)
        low = bed.height if bed else level(project, first.bears_on).elevation
        names = {HostName("floor", f.id) for f in floors}
        members = [m for m in checked.structure.members if m.host in names]
        high = max((m.solid.top() for m in members), default=low + 1)
        name = first.name if len(floors) == 1 else level(project, key).name
        slab = all(build_up_of(project, f).kind == "slab" for f in floors)
        words = name if use == "ceiling" else f"{name} {'slab' if slab else 'joists'}"
        walls = tuple(k for f in floors for k in f.walls)
        of_use: Literal["floor", "ceiling"] = "floor" if use == "floor" else "ceiling"
        found.append(Tier(hosts[0], words, of_use, low, high, _base_of(project, walls), hosts))
    for key, names_ in beams.items():
        members = [m for m in checked.structure.members if m.host in names_]
        if members:
            low = min(m.solid.bounds()[0][2] for m in members)
            high = max(m.solid.top() for m in members)
            walls_under = next((w.base for w in project.walls if w.top == key), "")
            found.append(
                Tier(
                    ThingName("beams", key),
                    f"{level(project, key).name} beams",
                    "floor",
                    low,
                    high,
                    walls_under,
                    tuple(names_),
                )
            )
    return found


def _roofs(checked: Checked) -> list[Tier]:
    """A tier for the roofs on each plate level."""
    project = checked.project
    found = []
    for plate in dict.fromkeys(r.plate for r in project.roofs):
        roofs = [r for r in project.roofs if r.plate == plate]
        names = {HostName("roof", r.id) for r in roofs}
        low = level(project, plate).elevation
        high = max(
            (m.solid.top() for m in checked.structure.members if m.host in names), default=low + 1
        )
        walls = tuple(k for r in roofs for k in r.walls)
        hosts = (*(HostName("roof", r.id) for r in roofs), *_beams_at(project, plate))
        found.append(
            Tier(
                HostName("roof", roofs[0].id),
                "Roof",
                "roof",
                low,
                high,
                _base_of(project, walls),
                hosts,
            )
        )
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
    heights = [heights_of(project, r) for r in project.runs]
    strips = [h for h, r in zip(heights, project.runs) if r.kind in WITH_STEM]
    low = min(h[0] for h in strips or heights)
    high = max(h[2] for h in strips or heights)
    if high - low < 1.0:
        low = high - max(max(r.edge_depth, r.slab_thickness, 1.0) for r in project.runs)
    walls = tuple(k for r in project.runs for k in walls_on(r))
    hosts = tuple(HostName("run", r.id) for r in project.runs)
    return Tier(hosts[0], "Foundation", "ground", low, high, _base_of(project, walls), hosts)


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
