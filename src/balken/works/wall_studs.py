"""What comes down on each stud of a wall, what wind presses on its face, and whether it holds.

A wall spreads what comes in rows over its studs; what stands at one place goes to the studs right under
it, and a header hands what it carries to its jacks.
"""

from typing import Final, NamedTuple

from balken.design.lines import Check
from balken.design.seats import treated_sill, under_wall
from balken.design.strip_loads import stands_alone
from balken.design.studs import OF_WIND, Cut, Stud, stud_checks
from balken.design.terms import Terms
from balken.design.under import Under
from balken.framing import kinds
from balken.framing.hosts.walls import rule_of, stands_on_concrete
from balken.framing.member import Member
from balken.framing.structure import Structure
from balken.geometry.plane import Point, dot, sub
from balken.loads.parcels import Parcel
from balken.loads.path import LoadPath
from balken.loads.wall_wind import outside_walls, pressure_on_wall
from balken.model.cases import NOTHING, Cases, total
from balken.model.names import HostName, MemberName, whole
from balken.model.project import Bore, Project, wall, wall_build_up
from balken.model.walls import Wall, direction_of
from balken.recall import remembered
from balken.works.terms import terms_of

UNDER: Final = 1.0
"""What stands at one place goes to the studs under it and this much beside, in thicknesses."""
SIDE_BY_SIDE: Final = 1.1
"""Studs whose middles lie no further apart than this, in thicknesses, are nailed to one another."""
UPRIGHTS: Final = (kinds.WALL_STUD, kinds.KING, kinds.JACK)


class OnStuds(NamedTuple):
    """What each upright of a wall takes, and the width of face that it holds against wind."""

    forces: dict[MemberName, Cases]
    faces: dict[MemberName, float]
    apart: dict[MemberName, float]
    """How far the farther of its two neighbours stands."""


class OnWalls:
    """What comes down on the uprights of each wall of a building, worked out where it is asked for."""

    def __init__(self, project: Project, structure: Structure, path: LoadPath) -> None:
        self._project, self._path = project, path
        self._uprights: dict[HostName, list[Member]] = {}
        self._known: dict[HostName, OnStuds] = {}
        self._outside: dict[str, frozenset[str]] = {}
        for m in structure.of(*UPRIGHTS):
            self._uprights.setdefault(m.host, []).append(m)

    def is_outside(self, item: Wall) -> bool:
        """Whether a wall stands at the outside of its storey."""
        if item.base not in self._outside:
            self._outside[item.base] = outside_walls(self._project, item.base)
        return item.id in self._outside[item.base]

    def of(self, host: HostName) -> OnStuds:
        """Of one wall; nothing of one that has none."""
        if host not in self._known:
            item = wall(self._project, whole(host.key))
            parcels, mine = self._path.on_walls.get(host, ()), self._uprights.get(host, [])
            self._known[host] = _shared_out(tuple(mine), parcels, item.start, direction_of(item))
        return self._known[host]


@remembered
def _shared_out(
    uprights: tuple[Member, ...], parcels: tuple[Parcel, ...], start: Point, way: Point
) -> OnStuds:
    at = {m.id: dot(sub(m.start[:2], start), way) for m in uprights}
    jacks = {m.id for m in uprights if m.kind is kinds.JACK}
    tall = sorted((x, name) for name, x in at.items() if name not in jacks)
    forces: dict[MemberName, list[Cases]] = {name: [] for name in at}
    thick = min((m.solid.bounds()[1][0] - m.solid.bounds()[0][0] for m in uprights), default=38.0)
    thick = max(38.0, min(thick, 60.0))
    for p in parcels:
        x = dot(sub((p.x, p.y), start), way)
        if isinstance(p.source, MemberName) and p.source.family == "wall header":
            under = [n for n in jacks if abs(at[n] - x) <= 2.6 * thick]
        elif stands_alone(p):
            under = [n for s, n in tall if abs(s - x) <= (UNDER + 0.5) * thick]
        else:
            under = []
        if not under:
            under = _nearest(tall, x, p.wide)
        for name in under:
            forces[name].append(p.most / len(under))
    sides = _sides([x for x, _ in tall])
    wide = _faces(tall, [sum(s) / 2 for s in sides], thick)
    apart = {name: max(sides[i]) for i, (_, name) in enumerate(tall)}
    return OnStuds({name: total(f) if f else NOTHING for name, f in forces.items()}, wide, apart)


def _faces(
    tall: list[tuple[float, MemberName]], faces: list[float], thick: float
) -> dict[MemberName, float]:
    """The width of face that each upright holds; those that stand side by side hold theirs as one."""
    found: dict[MemberName, float] = {}
    first = 0
    for i, (x, _) in enumerate(tall):
        last = i + 1 == len(tall) or tall[i + 1][0] - x > SIDE_BY_SIDE * thick
        if last:
            each = sum(faces[first : i + 1]) / (i + 1 - first)
            found |= {name: each for _, name in tall[first : i + 1]}
            first = i + 1
    return found


def _nearest(tall: list[tuple[float, MemberName]], x: float, wide: float) -> list[MemberName]:
    """The studs under what is spread along a wall, else the one nearest to it."""
    under = [name for s, name in tall if abs(s - x) <= wide / 2]
    if under:
        return under
    nearest = min(tall, key=lambda t: abs(t[0] - x), default=None)
    return [nearest[1]] if nearest else []


def _sides(places: list[float]) -> list[tuple[float, float]]:
    """How far the next upright stands on both sides: half the way to each is what of the face one
    holds."""
    found = []
    for i, x in enumerate(places):
        before = x - places[i - 1] if i else 0.0
        after = places[i + 1] - x if i + 1 < len(places) else 0.0
        found.append((before, after))
    return found


def _is_sheathed(project: Project, item: Wall) -> bool:
    """Whether panels outside and boards inside hold the studs of a wall."""
    body = wall_build_up(project, item)
    roles = [x.role for x in body.layers] if body else []
    core = roles.index("core") if "core" in roles else -1
    return core > 0 and "sheathing" in roles[:core] and "lining" in roles[core:]


def _plate_under(terms: Terms, project: Project, item: Wall) -> Under:
    """What studs press on: the plates of the site, or what is treated where they stand on concrete."""
    if stands_on_concrete(project, item):
        return treated_sill(terms)
    return under_wall(terms, None)


def checks_of_upright(
    project: Project, structure: Structure, on_walls: OnWalls, member: Member
) -> tuple[Check, ...]:
    """The checks of a stud, king or jack; none where its wood has no values."""
    return _checks(project, structure, on_walls, member, NOTHING)


def pushed_checks(
    project: Project, structure: Structure, on_walls: OnWalls, member: Member, push: Cases
) -> tuple[Check, ...]:
    """The same of a stud that the panels beside it push, while wind blows along the wall and not on its
    face."""
    return _checks(project, structure, on_walls, member, push)


def _cut(bore: Bore, depth: float) -> Cut:
    return Cut(f"{bore.kind} {bore.id}", bore.kind == "notch", bore.size, bore.up - depth / 2)


def _checks(
    project: Project, structure: Structure, on_walls: OnWalls, member: Member, push: Cases
) -> tuple[Check, ...]:
    terms, item = terms_of(project), wall(project, whole(member.host.key))
    rule, section = rule_of(project, item), terms.sections.get(member.section)
    if rule is None or section is None:
        return ()
    species, _, grade = member.material.partition(" ")
    worth = terms.timber.worth(species, grade, section)
    if worth is None:
        return ()
    on = on_walls.of(member.host)
    forces = on.forces.get(member.id, NOTHING) + push
    in_gable = member.kind is kinds.GABLE_STUD
    face = rule.spacing if in_gable else on.faces.get(member.id, 0.0)
    sheltered = member.kind is kinds.JACK or bool(push)
    outside = on_walls.is_outside(item)
    pressure = (
        0.0
        if sheltered
        else pressure_on_wall(project, structure, item, member.length, face, outside=outside)
    )
    if not any(forces) and not pressure:
        return ()
    # Beside an opening, and beside one taken away by hand, no other is near that would share.
    apart = max(rule.spacing, on.apart.get(member.id, 0.0))
    more, clause = terms.timber.on_studs(section, apart, _is_sheathed(project, item))
    sums = terms.timber.sums(1, terms.on_floors)
    stud = Stud(
        section,
        1,
        member.length,
        worth,
        forces,
        pressure * face,
        more,
        clause,
        _plate_under(terms, project, item),
        tuple(_cut(b, section.depth) for b in project.bores if b.member == member.id),
    )
    return stud_checks(terms.timber, sums, OF_WIND if project.code == "us" else 1.0, stud)
