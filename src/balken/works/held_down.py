"""What wind lifts, from the roof down to where dead load holds it: a strap where an end lifts, and a
place where even the soil is not pressed."""

from collections.abc import Iterable, Mapping
from typing import Final

import msgspec
from msgspec.structs import replace

from balken.framing import kinds
from balken.framing.structure import Structure
from balken.loads.path import LoadPath
from balken.loads.wind import WindRules
from balken.model.cases import Cases
from balken.model.names import HostName, MemberName, Rest


class Strap(msgspec.Struct, frozen=True, gc=False):
    """What must be held down where one thing bears on another: a demand on a strap or an anchor."""

    what: Rest
    on: Rest | None
    force: float
    """Of one connection, N, as the combination has it."""


def net_uplift(forces: Cases, rules: WindRules) -> float:
    """What is left to hold of wind against dead load, N or N/mm; nothing where dead load holds it:
    0.6 D + 0.6 W (ASCE 7-16 2.4.1 no. 7), 0.9 G + 1.5 W (EN 1990 table A1.2(A))."""
    if forces.uplift >= 0:
        return 0.0
    return max(0.0, -(rules.held * forces.dead + rules.blown * forces.uplift))


def straps(
    rules: WindRules,
    structure: Structure,
    path: LoadPath,
    shares: Mapping[MemberName, float] | None = None,
) -> tuple[Strap, ...]:
    """Every end of a member that lifts, then walls and posts that lift whole.

    Args:
        rules: of the code.
        structure: all members.
        path: where loads go.
        shares: by how much more than their roof some rafters are lifted, as components.
    """
    more = shares or {}
    by_id = {m.id: m for m in structure.members}
    found = [
        Strap(name, support.on, net_uplift(_raised(forces, more.get(name, 1.0)), rules))
        for name, ends in path.reactions.items()
        for support, forces in zip(by_id[name].carrier.supports, ends)
    ]
    found += [
        Strap(name, None, net_uplift(forces, rules))
        for name, forces in path.onto.items()
        if isinstance(name, HostName) or by_id[name].kind in HELD_WHOLE
    ]
    return tuple(s for s in found if s.force > 0)


def _raised(forces: Cases, share: float) -> Cases:
    return forces if share == 1.0 else replace(forces, uplift=forces.uplift * share)


HELD_WHOLE: Final = (kinds.POST, kinds.PIER, kinds.SILL, kinds.STRUT)
"""What is fixed to what it stands on."""


def lifted_off(rules: WindRules, path: LoadPath) -> Iterable[tuple[MemberName, float]]:
    """What the soil under a footing would have to pull, N: even with its own weight it lifts."""
    for name, forces in path.soil.items():
        force = net_uplift(forces, rules)
        if force > 0:
            yield name, force


def host_of(strap: Strap) -> HostName:
    """The roof, floor, wall or support that lifts."""
    return strap.what if isinstance(strap.what, HostName) else strap.what.host


def worst_by_host(straps: Iterable[Strap]) -> dict[HostName, Strap]:
    """The greatest strap of each roof, floor, wall and support."""
    found: dict[HostName, Strap] = {}
    for s in straps:
        host = host_of(s)
        if host not in found or s.force > found[host].force:
            found[host] = s
    return found
