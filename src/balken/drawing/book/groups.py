"""Members that are alike: the most used of them is shown, the others by their marks."""

from collections.abc import Iterable

import msgspec

from balken.framing.member import Member
from balken.model.names import HostKind
from balken.works.building import Checked

OWN_HOST: frozenset[HostKind] = frozenset({"beam", "bay", "support", "wall"})
"""Kinds of which a building has many small ones, or of one member each: alike members are gathered
whatever host they are of."""


class Group(msgspec.Struct, frozen=True):
    """Members of one kind, section and material, of one floor, roof or foundation."""

    worst: Member
    members: tuple[Member, ...]
    """The most used first."""
    title: str


def groups_of(checked: Checked) -> tuple[Group, ...]:
    """All members that have checks, alike ones together, from the ground up."""
    found: dict[tuple[str, ...], list[Member]] = {}
    for m in checked.structure.members:
        if m.id in checked.used:
            host = m.host.kind if m.host.kind in OWN_HOST else str(m.host)
            found.setdefault((host, m.role, m.section, m.material), []).append(m)
    return tuple(_group(checked, members) for members in _from_the_ground(found.values()))


def _from_the_ground(groups: Iterable[list[Member]]) -> list[list[Member]]:
    order = {"run": 0, "support": 1, "beam": 2, "bay": 2, "floor": 3, "wall": 4, "roof": 5}
    return sorted(groups, key=lambda g: (order.get(g[0].host.kind, 9), str(g[0].host), g[0].role))


def _group(checked: Checked, members: list[Member]) -> Group:
    by_use = sorted(members, key=lambda m: (-checked.used[m.id][0], m.mark))
    first = by_use[0]
    more = f" and {len(members) - 1} alike" if len(members) > 1 else ""
    return Group(first, tuple(by_use), f"{first.role.capitalize()} {first.mark}{more}")
