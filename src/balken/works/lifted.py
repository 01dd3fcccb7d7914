"""What the wind lifts is bent the other way: members with a net uplift are held against it, with their
lower edge pressed and held by nothing but their supports."""

from collections.abc import Iterable, Mapping
from typing import Final

from msgspec.structs import replace

from balken.design.around import Surroundings
from balken.design.beam_checks import Answer
from balken.design.carrying import asked_of, judged, sums_of
from balken.design.service import service_class
from balken.framing import kinds
from balken.framing.member import Member
from balken.framing.structure import Structure
from balken.loads.cases import Combination, Sums
from balken.loads.path import LoadPath
from balken.model.cases import NOTHING, Cases
from balken.model.names import MemberName
from balken.model.project import Project, host_records
from balken.works.held_down import Strap
from balken.works.terms import terms_of

ALIKE: Final = 10.0
"""Rafters whose lengths differ by less are as one, mm."""


def check_lifted(
    project: Project,
    structure: Structure,
    path: LoadPath,
    around: Surroundings,
    straps: Iterable[Strap],
    shares: Mapping[MemberName, float],
) -> dict[MemberName, Answer]:
    """Bending and shear of every member of which an end lifts, rafters alike answered by one of
    them; trusses have their own. ``shares`` has by how much more than their roof rafters are lifted, as
    components."""
    by_id = {m.id: m for m in structure.members}
    names = dict.fromkeys(s.what for s in straps if isinstance(s.what, MemberName))
    lifted = [
        by_id[n]
        for n in names
        if any(end.uplift for end in path.reactions.get(n, ())) and not by_id[n].kind.of_truss
    ]
    records, terms = host_records(project), terms_of(project)
    groups: dict[tuple[object, ...], list[Member]] = {}
    for m in lifted:
        if m.section in terms.sections and m.host in records:
            groups.setdefault(_alike(m, path, shares.get(m.id, 1.0)), []).append(m)
    wanted, whose = [], []
    for members in groups.values():
        m = max(members, key=lambda x: (shares.get(x.id, 1.0), x.length))
        asked = asked_of(terms, records[m.host], m, path.carried.get(m.id, ()), around.of(m))
        if asked is not None:
            name, held, blown, duration = terms.timber.uplift(service_class(records[m.host]))
            wood = sums_of(terms, records[m.host], terms.sections[m.section])
            lasting = duration if any(c.duration != 1.0 for c in wood.every) else 1.0
            sums = Sums((_up(name, held, blown, lasting),))
            blown_area = asked.loaded.area
            lifts = blown_area.uplift * shares.get(m.id, 1.0)
            loaded = replace(asked.loaded, sums=sums, area=replace(blown_area, uplift=lifts))
            wanted.append(replace(asked, loaded=loaded, push=None))
            whose.append(members)
    found: dict[MemberName, Answer] = {}
    for members, answer in zip(whose, judged(wanted)):
        if answer is not None:
            found |= {m.id: answer for m in members}
    return found


def _up(name: str, held: float, blown: float, duration: float) -> Combination:
    """Wind against dead load; how far it lifts is not limited."""
    return Combination(name, Cases(dead=held, uplift=blown), duration, (NOTHING, NOTHING))


def _alike(m: Member, path: LoadPath, share: float) -> tuple[object, ...]:
    """Rafters of a row that carry nothing else are as one; any other stands for itself."""
    if m.kind is kinds.RAFTER and m.id not in path.carried:
        area = m.carrier.area / max(m.carrier.length, 1.0)
        return (
            m.host,
            m.section,
            m.material,
            round(m.length / ALIKE),
            round(area),
            round(share, 1),
        )
    return (m.id,)
