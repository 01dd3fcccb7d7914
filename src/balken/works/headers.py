"""Headers of walls, chosen under what comes down over each opening: the cheapest that passes with as many
jacks as its ends need to bear on."""

import math
from collections.abc import Iterable, Sequence
from typing import Final, NamedTuple

from msgspec.structs import replace

from balken.design.around import Surroundings
from balken.design.beam_checks import Answer, Asked, judge_all
from balken.design.carrying import NEARLY, asked_of, sums_of
from balken.design.effects import Loaded, effects_of
from balken.framing import kinds
from balken.framing.hosts.walls import FIRST_HEADERS, HEADER, rule_of
from balken.framing.member import Member, Size
from balken.framing.structure import Structure
from balken.loads.parcels import at_most
from balken.loads.path import LoadPath
from balken.model.cases import NOTHING
from balken.model.catalogue import price_per_mm
from balken.model.names import HostName, MemberName
from balken.model.project import Project, host_records, wall, wall_top
from balken.model.sections import Section
from balken.units import System
from balken.works.terms import terms_of

OFFERED: Final[dict[System, tuple[str, ...]]] = {
    "us": (
        *(f"{n}-2x{d}" for n in (2, 3) for d in (4, 6, 8, 10, 12)),
        *(f"{n}-LVL 1-3/4x{d}" for n in (2, 3) for d in ("7-1/4", "9-1/2", "11-7/8", "14")),
    ),
    "metric": tuple(
        f"{n}-{b}x{d}" for n in (2, 3) for b in (38, 45) for d in (89, 140, 184, 235, 286)
    ),
}
"""What headers are chosen from; those the catalogue does not hold are left out."""
MOST_JACKS: Final = 4
BEARING: Final = "Bearing"


class Trial(NamedTuple):
    """A header of one section: how far it is used but for its bearing, and the jacks that needs."""

    section: Section
    worst: float
    jacks: int


def choose_headers(
    project: Project, structure: Structure, path: LoadPath, around: Surroundings
) -> dict[HostName, Size]:
    """For each framed wall what its headers are cut from, and how many jacks stand under their ends."""
    asked = [_asked(project, m, path, around) for m in structure.of(kinds.WALL_HEADER)]
    # What loads do to a header does not hang on what it is cut from: worked out once for each.
    effects = effects_of([one.loaded for one in asked])
    pairs = [
        (one, trial, e) for one, e in zip(asked, effects) if e is not None for trial in one.trials
    ]
    answers = judge_all([trial for _, trial, _ in pairs], [e for *_, e in pairs])
    trials: dict[MemberName, list[Trial]] = {}
    for (one, trial, _), answer in zip(pairs, answers):
        section = one.sections[id(trial)]
        trials.setdefault(one.member.id, []).append(_trial(section, answer))
    found: dict[HostName, dict[str, tuple[str, int]]] = {}
    for one in asked:
        best = _best(one.member, trials.get(one.member.id, []))
        if best is not None:
            mine = found.setdefault(one.member.host, {})
            mine[one.member.id.row] = (best.section.name, best.jacks)
    return {
        host: Size(
            FIRST_HEADERS[project.system],
            0.0,
            tuple((key, jacks) for key, (_, jacks) in sorted(mine.items())),
            tuple(((HEADER, key), name) for key, (name, _) in sorted(mine.items())),
        )
        for host, mine in found.items()
    }


class _Header(NamedTuple):
    """A header and all that it may be cut from."""

    member: Member
    loaded: Loaded
    trials: tuple[Asked, ...]
    sections: dict[int, Section]
    """By the trial."""


def _asked(project: Project, m: Member, path: LoadPath, around: Surroundings) -> _Header:
    """A header with every section that has room over its opening."""
    terms, item = terms_of(project), wall(project, m.host.key)
    rule = rule_of(project, item)
    names: Iterable[str] = OFFERED[project.system]
    if rule is not None and rule.header_section:
        names = (rule.header_section,)
    sections = [terms.sections[n] for n in names if n in terms.sections]
    low = m.solid.bounds()[0][2]
    plates = (rule.top_plates if rule else 2) * PLATE
    room = wall_top(project, item) - plates - low
    fits = [s for s in sections if s.depth <= room + 0.5] or sections[:1]
    record, carried = host_records(project)[m.host], path.carried.get(m.id, ())
    found = ((s, asked_of(terms, record, _cut_from(m, s), carried, around.of(m), s)) for s in fits)
    known = [(s, a) for s, a in found if a is not None]
    own = terms.sections.get(m.section)
    sums = sums_of(terms, record, own or fits[0])
    loaded = Loaded(m, NOTHING, at_most(carried), sums)
    return _Header(m, loaded, tuple(a for _, a in known), {id(a): s for s, a in known})


PLATE: Final = 38.1
"""mm."""


def _best(m: Member, trials: Sequence[Trial]) -> Trial | None:
    """The cheapest that passes, else the strongest."""
    if not trials:
        return None
    grade = m.material.partition(" ")[2]
    passing = [t for t in trials if t.worst <= NEARLY and t.jacks <= MOST_JACKS]
    if not passing:
        return min(trials, key=lambda t: t.worst)
    return min(passing, key=lambda t: (price_per_mm(t.section, grade), t.section.depth))


def _cut_from(m: Member, section: Section) -> Member:
    material = section.product.id if section.product else m.material
    return replace(m, section=section.name, material=material)


def _trial(section: Section, answer: Answer) -> Trial:
    by_name = dict(zip(answer.names, answer.ratios))
    bearing = by_name.pop(BEARING, 0.0)
    extra = max((c.ratio for c in answer.extra), default=0.0)
    jacks = max(1, math.ceil(bearing - 1e-9)) if math.isfinite(bearing) else MOST_JACKS + 1
    return Trial(section, max([*by_name.values(), extra]), jacks)
