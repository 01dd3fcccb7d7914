"""Live loads at one place on floors: the longest joist of each floor is held against one in its middle,
and one by its support."""

from typing import Final, NamedTuple

from msgspec.structs import replace

from balken.design.around import Surroundings
from balken.design.beam_checks import Answer
from balken.design.carrying import asked_of, judged, sums_of
from balken.framing import kinds
from balken.framing.member import Member, clear_span
from balken.framing.structure import Structure
from balken.geometry.plane import Point, add, sub, unit
from balken.loads.cases import Combination, Sums
from balken.loads.parcels import Parcel
from balken.model.cases import NOTHING, Cases
from balken.model.floors import FloorArea
from balken.model.names import HostName, MemberName
from balken.model.project import Project, host_records
from balken.model.uses import POINTS
from balken.works.terms import terms_of


class Placed(NamedTuple):
    """A joist under a point load at one of its places, and the checks that count there.

    Right by a support shear alone does: what presses there goes into the support through the deck
    and the joists beside it as well (common practice, no source).
    """

    where: str
    counts: tuple[str, ...]
    answer: Answer

    @property
    def worst(self) -> tuple[float, str]:
        """The greatest utilisation of those that count, and its name."""
        named = zip(self.answer.ratios, self.answer.names)
        return max((r, n) for r, n in named if n in self.counts)


BY_SUPPORT: Final = 1.0
"""By its support a load stands so many depths from it: nearer, it goes straight down (NDS-2018
3.4.3.1; EN 1995-1-1 6.1.7(3))."""


def check_point_loads(
    project: Project, structure: Structure, around: Surroundings
) -> dict[MemberName, tuple[Placed, ...]]:
    """The longest joist of every section of each floor whose use has a point load: dead load and that
    load alone."""
    records, terms = host_records(project), terms_of(project)
    found: dict[MemberName, tuple[Placed, ...]] = {}
    for m in _longest(project, structure):
        floor = records[m.host]
        assert isinstance(floor, FloorArea), "joists are of floors"
        load = POINTS[project.code][floor.use]
        spacing = m.carrier.area / max(m.carrier.carries[1] - m.carrier.carries[0], 1.0)
        force = load.force * min(1.0, spacing / load.patch)
        wood = sums_of(terms, floor, terms.sections[m.section])
        sums = Sums(tuple(_alone(c) for c in wood.every if c.factors.live and not c.factors.snow))
        asked, where = [], []
        counts = {"in its middle": ("Bending", "Shear", "Bearing"), "by its support": ("Shear",)}
        for words, spot in _places(m):
            parcel = Parcel(*spot, Cases(live=force), HostName("load", "point"))
            one = asked_of(terms, floor, m, (parcel,), around.of(m))
            if one is not None and sums.every:
                area = Cases(floor.dead)
                loaded = replace(one.loaded, area=area, parcels=(parcel,), sums=sums)
                asked.append(replace(one, loaded=loaded))
                where.append(words)
        answers = zip(where, judged(asked))
        found[m.id] = tuple(
            Placed(words, counts[words], a) for words, a in answers if a is not None
        )
    return {name: placed for name, placed in found.items() if placed}


def _alone(c: Combination) -> Combination:
    """A sum without limits of sag: those are for what lies evenly."""
    return Combination(c.name, c.factors, c.duration, (NOTHING, NOTHING))


def _longest(project: Project, structure: Structure) -> list[Member]:
    floors = {HostName("floor", f.id): f for f in project.floors}
    uses = POINTS[project.code]
    best: dict[tuple[HostName, str], Member] = {}
    for m in structure.of(kinds.JOIST):
        floor = floors.get(m.host)
        if floor is None or floor.use not in uses or m.carrier.area <= 0 or clear_span(m) <= 0:
            continue
        key = (m.host, m.section)
        if key not in best or (clear_span(m), m.id) > (clear_span(best[key]), best[key].id):
            best[key] = m
    return list(best.values())


def _places(m: Member) -> tuple[tuple[str, Point], ...]:
    """The middle of its longest way, and a place by its first support."""
    way = unit(sub(m.end[:2], m.start[:2]))
    first, last = m.carrier.supports[0], m.carrier.supports[-1]
    middle = add(m.start[:2], way, (first.at + last.at) / 2)
    near = first.at + first.length / 2 + BY_SUPPORT * m.solid.depth
    return ("in its middle", middle), ("by its support", add(m.start[:2], way, near))
