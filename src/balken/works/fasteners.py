"""What fasteners are asked to hold: the ends that hang, the ends that wind lifts, the feet of rafters
that push."""

from collections.abc import Iterable, Iterator
from typing import NamedTuple

from balken.design.service import service_class
from balken.model.fasteners import Use
from balken.model.names import MemberName, Rest
from balken.model.project import host_records
from balken.works.building import Checked
from balken.works.terms import terms_of
from balken.works.thrust import thrust_of


class Demand(NamedTuple):
    """What one fastener, or one joint of them, must hold."""

    use: Use
    what: MemberName
    on: Rest | None
    force: float
    """N, by the worst combination of the code."""
    combination: str


def demands_of(checked: Checked) -> tuple[Demand, ...]:
    """All that fasteners are asked to hold, the greatest of each use first."""
    found = [*_hangers(checked), *_straps(checked), *_heels(checked)]
    return tuple(sorted(found, key=lambda d: (d.use, -d.force, str(d.what))))


def _hangers(checked: Checked) -> Iterator[Demand]:
    """Ends that hang at the side of another, with the worst sum of what comes to them."""
    built, path = checked.built, checked.path
    terms, records = terms_of(built), host_records(built)
    for m in checked.structure.members:
        hung = [(i, s) for i, s in enumerate(m.carrier.supports) if s.hung]
        if not hung or m.id not in path.reactions or m.host not in records:
            continue
        sums = terms.timber.sums(service_class(records[m.host]), terms.on_floors).every
        for i, support in hung:
            forces = path.reactions[m.id][i]
            worst, name = max((forces.weighed(c.factors), c.name) for c in sums)
            if worst > 0:
                yield Demand("hanger", m.id, support.on, worst, name)


def _straps(checked: Checked) -> Iterator[Demand]:
    name = terms_of(checked.built).timber.uplift(1)[0]
    for s in checked.straps:
        if isinstance(s.what, MemberName) and s.what.family not in ("post", "pier", "sill"):
            yield Demand("strap", s.what, s.on, s.force, name)


def _heels(checked: Checked) -> Iterator[Demand]:
    """The push of the worst pair of each roof, which the joints at their feet hold."""
    for roof in checked.built.roofs:
        found = thrust_of(checked.built, checked.structure, roof)
        if found is not None:
            yield Demand("heel", found.member, None, found.force, found.combination)


def over(checked: Checked, demands: Iterable[Demand]) -> Iterator[tuple[Demand, float]]:
    """What is asked of more than the chosen fastener holds, with how far it is used."""
    holds = {f.use: f.holds for f in checked.project.fasteners}
    for d in demands:
        if d.use in holds and d.force > holds[d.use] * (1 + 1e-9):
            yield d, d.force / holds[d.use]
