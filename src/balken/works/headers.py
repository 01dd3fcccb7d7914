"""Headers of walls, chosen under what comes down over each opening: the cheapest that passes with as many
jacks as its ends need to bear on."""

import math
from collections.abc import Sequence
from typing import Final, NamedTuple

from msgspec.structs import replace

from balken.design.around import Around, Surroundings
from balken.design.beam_checks import Answer, Asked, judge_all
from balken.design.carrying import NEARLY, asked_of, sums_of
from balken.design.effects import Loaded, effects_of
from balken.design.terms import Terms
from balken.framing import kinds
from balken.framing.hosts.walls import FIRST_HEADERS, HEADER, openings_under, rule_of
from balken.framing.member import Member, Size
from balken.framing.structure import Structure
from balken.loads.parcels import Parcel, at_most
from balken.loads.path import LoadPath
from balken.model.cases import NOTHING
from balken.model.catalogue import BOX, BOX_DEPTHS, BOX_FLANGES, price_per_mm
from balken.model.names import HostName
from balken.model.project import Project, wall, wall_top
from balken.model.sections import Section
from balken.model.wall_frames import HeaderKind
from balken.model.walls import Opening, Wall
from balken.recall import remembered_each
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
SOLID: Final[dict[System, tuple[str, ...]]] = {
    "us": tuple(f"{b}x{d}" for b in (4, 6) for d in (4, 6, 8, 10, 12)),
    "metric": tuple(f"89x{d}" for d in (89, 140, 184, 235)),
}
"""And those of one piece."""
BOXES: Final[dict[System, tuple[str, ...]]] = {
    system: tuple(
        f"{BOX}{flange}x{depth}{sides}"
        for flange in BOX_FLANGES[system]
        for depth, _ in BOX_DEPTHS[system]
        for sides in (" one side", "")
    )
    for system in BOX_FLANGES
}
"""And those made up of plates and panels."""
OF_KIND: Final[dict[HeaderKind, dict[System, tuple[str, ...]]]] = {
    "built up": OFFERED,
    "solid": SOLID,
    "box": BOXES,
    "flat": OFFERED,
}
MOST_JACKS: Final = 4
BEARING: Final = "Bearing"


class Trial(NamedTuple):
    """A header of one section: how far it is used but for its bearing, and the jacks that needs."""

    section: Section
    worst: float
    jacks: int


class Opened(NamedTuple):
    """All that the choice of a header hangs on."""

    terms: Terms
    wall: Wall
    member: Member
    carried: tuple[Parcel, ...]
    around: Around
    room: float
    """From its underside to that of the plates, mm."""
    held: str
    """The section that is held for it; empty where it is chosen."""
    most_jacks: int
    """No more than so many studs stand under an end of it."""
    kind: HeaderKind
    stud_depth: float
    """Of the wall's studs, mm."""


def choose_headers(
    project: Project, structure: Structure, path: LoadPath, around: Surroundings
) -> dict[HostName, Size]:
    """For each framed wall what its headers are cut from, and how many jacks stand under their ends."""
    depths = {m.host: m.solid.depth for m in structure.of(kinds.JACK)}
    asked = [
        _opened(project, m, path, around, depths.get(m.host, math.inf))
        for m in structure.of(kinds.WALL_HEADER)
    ]
    found: dict[HostName, dict[str, tuple[str, int]]] = {}
    for one, best in zip(asked, best_of(asked)):
        if best is not None:
            mine = found.setdefault(one.member.host, {})
            for opening in openings_under(one.member, one.wall):
                mine[opening.id] = (best.section.name, best.jacks)
    return {
        host: Size(
            FIRST_HEADERS[project.system],
            0.0,
            tuple((key, jacks) for key, (_, jacks) in sorted(mine.items())),
            tuple(((HEADER, key), name) for key, (name, _) in sorted(mine.items())),
        )
        for host, mine in found.items()
    }


def under_one_header(structure: Structure, item: Wall, key: str) -> tuple[Opening, ...]:
    """The openings under the header of one, by its key; itself alone where it has none."""
    for header in structure.in_host(HostName("wall", item.id), kinds.WALL_HEADER):
        under = openings_under(header, item)
        if any(o.id == key for o in under):
            return under
    return tuple(o for o in item.openings if o.id == key)


def _opened(
    project: Project, m: Member, path: LoadPath, around: Surroundings, stud_depth: float
) -> Opened:
    item = wall(project, m.host.key)
    rule = rule_of(project, item)
    plates = (rule.top_plates if rule else 2) * PLATE
    room = wall_top(project, item) - plates - m.solid.bounds()[0][2]
    under = openings_under(m, item)
    held = next((o.header for o in under if o.header), rule.header_section if rule else "")
    jacks = min((o.jacks for o in under if o.jacks), default=MOST_JACKS)
    kind = rule.header if rule is not None else "built up"
    carried = path.carried.get(m.id, ())
    return Opened(
        terms_of(project), item, m, carried, around.of(m), room, held, jacks, kind, stud_depth
    )


@remembered_each
def best_of(asked: list[Opened]) -> list[Trial | None]:
    """The header over each opening: all sections that have room over it are tried side by side."""
    trying = [_trying(one) for one in asked]
    # What loads do to a header does not hang on what it is cut from: worked out once for each.
    effects = effects_of([_loaded(one) for one in asked])
    pairs = [
        (n, section, trial, e)
        for n, (trials, e) in enumerate(zip(trying, effects))
        if e is not None
        for section, trial in trials
    ]
    answers = judge_all([trial for _, _, trial, _ in pairs], [e for *_, e in pairs])
    tried: list[list[Trial]] = [[] for _ in asked]
    for (n, section, *_), answer in zip(pairs, answers):
        tried[n].append(_trial(section, answer, _jacks_now(asked[n].member)))
    return [_best(one, trials) for one, trials in zip(asked, tried)]


def _trying(one: Opened) -> list[tuple[Section, Asked]]:
    """Every section that has room over an opening, with what is asked of it."""
    sections = one.terms.sections
    names = (one.held,) if one.held else OF_KIND[one.kind][one.terms.system]
    known = [s for n in names if (s := sections.get(n)) and (one.held or _is_narrow(one, s))]
    fits = [s for s in known if s.depth <= one.room + 0.5] or known[:1]
    asked = (
        (s, asked_of(one.terms, one.wall, _cut_from(one.member, s), one.carried, one.around, s))
        for s in fits
    )
    return [(s, a) for s, a in asked if a is not None]


def _is_narrow(one: Opened, section: Section) -> bool:
    """Whether a section has room between the faces of the studs; flanges of a box lie as wide as they are."""
    if section.box is not None:
        return abs(section.breadth - one.stud_depth) < WIDE
    return section.breadth <= one.stud_depth + 0.5


def _loaded(one: Opened) -> Loaded:
    own = (
        one.terms.sections.get(one.member.section)
        or one.terms.sections[FIRST_HEADERS[one.terms.system]]
    )
    return Loaded(one.member, NOTHING, at_most(one.carried), sums_of(one.terms, one.wall, own))


WIDE: Final = 1.0
"""Flanges of box headers and studs are as wide as each other within this, mm."""
PLATE: Final = 38.1
"""mm."""


def _best(one: Opened, trials: Sequence[Trial]) -> Trial | None:
    """The cheapest that passes, else the strongest."""
    if not trials:
        return None
    grade = one.member.material.partition(" ")[2]
    passing = [t for t in trials if t.worst <= NEARLY and t.jacks <= one.most_jacks]
    if not passing:
        return min(trials, key=lambda t: t.worst)
    return min(passing, key=lambda t: (price_per_mm(t.section, grade), t.section.depth))


def _cut_from(m: Member, section: Section) -> Member:
    material = section.product.id if section.product else m.material
    return replace(m, section=section.name, material=material)


def _jacks_now(m: Member) -> int:
    """How many jacks stand under an end of a header beside its opening."""
    ends = [m.carrier.supports[0], m.carrier.supports[-1]]
    inner = [s for s in m.carrier.supports if s.at in m.carrier.hinges]
    return max(1, round(max(s.length for s in inner or ends) / PLATE))


def _trial(section: Section, answer: Answer, now: int) -> Trial:
    by_name = dict(zip(answer.names, answer.ratios))
    bearing = by_name.pop(BEARING, 0.0)
    extra = max((c.ratio for c in answer.extra), default=0.0)
    needed = bearing * now
    jacks = max(1, math.ceil(needed - 1e-9)) if math.isfinite(needed) else MOST_JACKS + 1
    return Trial(section, max([*by_name.values(), extra]), jacks)
