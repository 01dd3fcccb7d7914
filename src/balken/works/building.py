"""The whole way through: size, frame, take the loads down, check. One function, the same for window
and commands."""

from typing import Final

import msgspec

from balken.design.beam_checks import Answer, explain_answer
from balken.design.lines import Check
from balken.design.pads import over_pads
from balken.design.side_by_side import HostCheck, PartCheck
from balken.design.sizing import TOLERANCE, Sized
from balken.design.strip_loads import Stretches
from balken.design.trusses import TrussRoof, row_of, truss_checks
from balken.framing.hosts.roof_bearing import bearings_of_roof
from balken.framing.member import Member
from balken.framing.structure import Structure
from balken.loads.path import LoadPath
from balken.loads.roof_snow import with_snow_of_site
from balken.loads.roof_wind import with_wind_of_site
from balken.loads.roof_zones import component_shares
from balken.loads.sideways import Storey
from balken.loads.wind import wind_by
from balken.model.names import HostName, MemberName
from balken.model.project import Project
from balken.recall import Recall, remembered_of_one, remembering
from balken.site.floor_weights import with_dead_of_layers
from balken.works.by_kind import CHECKS, Asked, checks_by_kind
from balken.works.carrying import (
    check_carrying,
)
from balken.works.held_down import Strap, straps
from balken.works.leaving_out import worked_out_in_part
from balken.works.lifted import check_lifted
from balken.works.point_loads import Placed, check_point_loads
from balken.works.rounds import around_of, in_rounds
from balken.works.side_by_side import check_side_by_side
from balken.works.sideways import sideways_of
from balken.works.sizes import softest
from balken.works.terms import beneath_of, terms_of
from balken.works.trusses import check_truss_roofs
from balken.works.wall_studs import OnWalls


class Checked(msgspec.Struct, frozen=True):
    """A project with everything that follows from it."""

    project: Project
    sizes: dict[HostName, Sized]
    structure: Structure
    path: LoadPath
    hosts: dict[HostName, list[PartCheck]]
    """Members that carry no more than their strip."""
    carrying: dict[MemberName, Answer]
    """Members that carry more than their strip of floor."""
    built: Project
    """The project with every beam cut from what was chosen for it, and what comes to its roofs from
    the snow and the wind of the site."""
    used: dict[MemberName, tuple[float, str]]
    """Utilisation and governing check per member that has checks."""
    trusses: dict[HostName, TrussRoof] = {}
    """Roofs of trusses, by their host's name."""
    sideways: tuple[Storey, ...] = ()
    """What wind and earthquake ask of each storey, where they are typed."""
    straps: tuple[Strap, ...] = ()
    """What the wind lifts, and must be held down."""
    lifted: dict[MemberName, Answer] = {}
    """How what it lifts is bent."""
    pointed: dict[MemberName, tuple[Placed, ...]] = {}
    """The longest joists of floors under a live load at one place."""


def work_out(project: Project, recall: Recall | None = None) -> Checked:
    """Size, frame, follow the loads and check a valid project. It never raises: what cannot be
    worked out is left out, and stands in the structure among what is not framed."""
    with remembering(recall):
        try:
            return _whole(project)
        except Exception as error:
            found, left = worked_out_in_part(project, _whole, error)
            unframed = (*found.structure.unframed, *((x.host, x.why) for x in left))
            structure = msgspec.structs.replace(found.structure, unframed=unframed)
            return msgspec.structs.replace(found, project=project, structure=structure)


def _whole(project: Project) -> Checked:
    loaded = with_dead_of_layers(with_wind_of_site(with_snow_of_site(project)))
    built, sizes, structure, path = in_rounds(loaded)
    around = around_of(built, structure, sizes)
    carrying = check_carrying(built, structure, path, around)
    hosts = check_side_by_side(built, structure, sizes, carrying, around)
    trusses = _trusses(built, structure, sizes, path)
    used: dict[MemberName, tuple[float, str]] = {}
    for item in (item for checks in hosts.values() for item in checks):
        used.update(item.used)
    used.update({name: answer.worst for name, answer in carrying.items()})
    for roof in trusses.values():
        used.update(roof.used)
    over, stretches = over_pads(structure), Stretches(structure)
    on_walls = OnWalls(built, structure, path)
    asked = Asked(built, structure, path, over, stretches, sizes, on_walls)
    for member in structure.of(*CHECKS):
        for extra in checks_by_kind(asked, member):
            if member.id not in used or extra.ratio > used[member.id][0]:
                used[member.id] = (extra.ratio, extra.name)
    zones = component_shares(built, structure)
    held = straps(wind_by(project.code, project.site.left_open), structure, path, zones)
    lifted = check_lifted(built, structure, path, around, held, zones)
    pointed = check_point_loads(built, structure, around)
    besides = [(name, LIFTED, answer.worst) for name, answer in lifted.items()]
    besides += [(name, POINT, one.worst) for name, placed in pointed.items() for one in placed]
    for name, begins, (ratio, check) in besides:
        if ratio > used.get(name, (0.0, ""))[0]:
            used[name] = (ratio, _named(begins, check))
    return Checked(
        project,
        sizes,
        structure,
        path,
        hosts,
        carrying,
        built,
        used,
        trusses,
        sideways_of(built, structure),
        held,
        lifted,
        pointed,
    )


def _trusses(
    built: Project, structure: Structure, sizes: dict[HostName, Sized], path: LoadPath
) -> dict[HostName, TrussRoof]:
    """The checks of all roofs of trusses, on the softest of what each lies on."""
    found = ((HostName("roof", r.id), bearings_of_roof(built, r)) for r in built.roofs)
    of_roofs = {host: bearings for host, bearings in found if bearings is not None}
    beneath = beneath_of(built, {})
    under = {host: softest(beneath, bearings) for host, bearings in of_roofs.items()}
    return check_truss_roofs(built, structure, sizes, of_roofs, under, path)


POINT: Final = "Point load, "
"""And against a live load at one place."""
LIFTED: Final = "Lifted, "
"""What the names of checks against wind that lifts begin with."""


def _named(begins: str, check: str) -> str:
    """The name of a check that is asked of a member besides what presses on it."""
    return f"{begins}{check[0].lower()}{check[1:]}"


def checks_of(checked: Checked, member: Member) -> tuple[Check, ...]:
    """All checks of a member with their lines, against what wind lifts too; empty where it rests all
    along and nothing is checked."""
    return (*_pressed(checked, member), *_lifted(checked, member), *_pointed(checked, member))


def _lifted(checked: Checked, member: Member) -> tuple[Check, ...]:
    """Bending and shear of a member that wind lifts."""
    answer = checked.lifted.get(member.id)
    if answer is None:
        return ()
    return tuple(
        msgspec.structs.replace(c, name=_named(LIFTED, c.name))
        for c in explain_answer(answer)
        if c.ratio > 0
    )


def _pointed(checked: Checked, member: Member) -> tuple[Check, ...]:
    """Bending and shear under a live load at one place, each where it is worst."""
    worst: dict[str, Check] = {}
    for placed in checked.pointed.get(member.id, ()):
        for c in explain_answer(placed.answer):
            name = f"{_named(POINT, c.name)} {placed.where}"
            if c.name not in placed.counts:
                continue
            if c.name not in worst or c.ratio > worst[c.name].ratio:
                worst[c.name] = msgspec.structs.replace(c, name=name)
    return tuple(c for c in worst.values() if c.ratio > 0)


def _pressed(checked: Checked, member: Member) -> tuple[Check, ...]:
    """What presses on a member, whatever it is."""
    answer = checked.carrying.get(member.id)
    if answer is not None:
        return explain_answer(answer)
    roof = checked.trusses.get(member.host)
    piece = row_of(member) if roof else None
    if roof is not None and piece is not None and any(t.row == piece[1] for t in roof.placed):
        return truss_checks(roof, piece[1])
    among = checked_among(checked, member)
    if among is not None:
        spans = terms_of(checked.built).timber.spans
        return spans.explain(among[0].batch, among[0].results, among[1])
    return checks_by_kind(_asked(checked), member)


@remembered_of_one
def _asked(checked: Checked) -> Asked:
    """What the checks of single members are asked with."""
    built, structure, path = checked.built, checked.structure, checked.path
    over, stretches = over_pads(structure), Stretches(structure)
    on_walls = OnWalls(built, structure, path)
    return Asked(built, structure, path, over, stretches, checked.sizes, on_walls)


def checked_among(checked: Checked, member: Member) -> tuple[HostCheck, int] | None:
    """Among which others a joist or rafter was checked, and as which of them; None where it
    was not."""
    for item in checked.hosts.get(member.host, ()):
        if item.among is not None and member.id in item.used:
            return item.among, item.among.ids.index(member.id)
    return None


def worst_of(checked: Checked, host: HostName) -> tuple[float, str, MemberName | None]:
    """The worst utilisation of a host's members, its check and the member."""
    mine = [
        (*checked.used[m.id], m.id)
        for m in checked.structure.members
        if m.host == host and m.id in checked.used
    ]
    return max(mine, default=(0.0, "", None), key=lambda w: (w[0], w[1], str(w[2])))


def is_over(ratio: float) -> bool:
    """Whether a utilisation is over 1.00 beyond rounding."""
    return ratio > 1 + TOLERANCE
