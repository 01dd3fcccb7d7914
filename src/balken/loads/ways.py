"""What sits on what: whose load ends where, and with how much of it; and the way of a load to the
soil."""

from collections.abc import Iterator

import msgspec

from balken.loads.path import LoadPath
from balken.model.names import Name, Rest, ThingName


class LoadWays(msgspec.Struct, frozen=True):
    """All handing of loads: for each that takes, who gives to it and how much, N with all cases
    together; and for each that gives, who takes from it."""

    givers: dict[Rest, dict[Rest, float]]
    takers: dict[Rest, dict[Rest, float]]


def ways_of(path: LoadPath) -> LoadWays:
    """Who gives to whom, of all that a path has handed."""
    givers: dict[Rest, dict[Rest, float]] = {}
    takers: dict[Rest, dict[Rest, float]] = {}
    for giver, taker, force in _handings(path):
        of = givers.setdefault(taker, {})
        of[giver] = of.get(giver, 0.0) + force
        to = takers.setdefault(giver, {})
        to[taker] = to.get(taker, 0.0) + force
    return LoadWays(givers, takers)


def _handings(path: LoadPath) -> Iterator[tuple[Rest, Rest, float]]:
    for giver, taker, forces in path.handed:
        yield giver, taker, sum(forces.down)
    for taker, parcels in path.handed_parts:
        for p in parcels:
            yield p.source, taker, sum(p.forces.down)


def sits_on(ways: LoadWays, name: Rest) -> dict[Rest, float]:
    """Everything whose load ends on something, straight or through others: how much of it does, N.

    What hands on to several is counted to each by its share; each comes after all it gives to.
    """
    found: dict[Rest, float] = {}
    shares: dict[Rest, float] = {name: 1.0}
    for taker in _from(name, ways.givers):
        for giver, force in ways.givers.get(taker, {}).items():
            part = force * shares.get(taker, 0.0)
            found[giver] = found.get(giver, 0.0) + part
            given = sum(ways.takers[giver].values())
            if given > 0:
                shares[giver] = found[giver] / given
    return found


def way_down(ways: LoadWays, name: Rest) -> dict[Rest, float]:
    """Everything that carries the load of something, down to what stands on the soil: how much of
    it each takes, N; the nearest first."""
    found: dict[Rest, float] = {}
    given = sum(ways.takers.get(name, {}).values())
    shares: dict[Rest, float] = {name: given}
    for giver in _from(name, ways.takers):
        to = ways.takers.get(giver, {})
        whole = sum(to.values())
        for taker, force in to.items():
            part = shares.get(giver, 0.0) * force / whole if whole > 0 else 0.0
            found[taker] = found.get(taker, 0.0) + part
            shares[taker] = found[taker]
    return found


def _from(start: Rest, to: dict[Rest, dict[Rest, float]]) -> list[Rest]:
    """Everything that is come to from a start, each after all it is come to from. Loads go down
    only, so there is no way round."""
    order: list[Rest] = []
    done: set[Rest] = set()
    open_: list[tuple[Rest, bool]] = [(start, False)]
    while open_:
        name, left = open_.pop()
        if left:
            order.append(name)
        elif name not in done:
            done.add(name)
            open_.append((name, True))
            open_ += [(next_, False) for next_ in to.get(name, {}) if next_ not in done]
    return order[::-1]


def rest_of(name: Name | None) -> Rest | None:
    """What hands loads on under a name: a member, or a wall; None of everything else."""
    if name is None or isinstance(name, ThingName):
        return None
    return name
