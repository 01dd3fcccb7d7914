"""Headers of walls, chosen under what comes down over each opening: the cheapest that passes with as many
jacks as its ends need to bear on."""

import math
from collections.abc import Iterable
from typing import Final, NamedTuple

from msgspec.structs import replace

from balken.design.around import Surroundings
from balken.design.beam_checks import Answer
from balken.design.carrying import NEARLY, asked_of, judged
from balken.framing import kinds
from balken.framing.hosts.walls import FIRST_HEADERS, HEADER, rule_of
from balken.framing.member import Member, Size
from balken.framing.structure import Structure
from balken.loads.path import LoadPath
from balken.model.catalogue import price_per_mm
from balken.model.names import HostName
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
    found: dict[HostName, dict[str, tuple[str, int]]] = {}
    for m in structure.of(kinds.WALL_HEADER):
        best = _best(project, m, path, around)
        if best is not None:
            found.setdefault(m.host, {})[m.id.row] = (best.section.name, best.jacks)
    return {
        host: Size(
            FIRST_HEADERS[project.system],
            0.0,
            tuple((key, jacks) for key, (_, jacks) in sorted(mine.items())),
            tuple(((HEADER, key), name) for key, (name, _) in sorted(mine.items())),
        )
        for host, mine in found.items()
    }


def _best(project: Project, m: Member, path: LoadPath, around: Surroundings) -> Trial | None:
    """The cheapest section with room over the opening that passes, else the strongest."""
    terms, item = terms_of(project), wall(project, m.host.key)
    rule = rule_of(project, item)
    if rule is None or rule.header_section:
        names: Iterable[str] = (rule.header_section,) if rule else ()
    else:
        names = OFFERED[project.system]
    sections = [terms.sections[n] for n in names if n in terms.sections]
    low = m.solid.bounds()[0][2]
    plates = (rule.top_plates if rule else 2) * 38.1
    room = wall_top(project, item) - plates - low
    fits = [s for s in sections if s.depth <= room + 0.5] or sections[:1]
    record = host_records(project)[m.host]
    carried = path.carried.get(m.id, ())
    asked = []
    for s in fits:
        one = asked_of(terms, record, _cut_from(m, s), carried, around.of(m), s)
        asked.append((s, one))
    known = [(s, a) for s, a in asked if a is not None]
    trials = [
        _trial(s, answer) for (s, _), answer in zip(known, judged([a for _, a in known])) if answer
    ]
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
