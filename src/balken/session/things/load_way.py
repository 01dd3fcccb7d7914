"""What sits on something, and its way to the soil, on its slip."""

from collections.abc import Iterator
from functools import partial
from typing import Final

from balken.loads.ways import way_down
from balken.model.names import HostName, MemberName, Rest
from balken.model.record import Code
from balken.model.walls import called
from balken.session.desk import Desk
from balken.session.rows import Fact, Heading, Line, Link, Rows
from balken.units import format_force

MOST = 8
REDUCED_BY: Final[dict[Code, str]] = {
    "us": "by its area, ASCE 7-16 4.7.2",
    "eu": "by its area, EN 1991-1-1 6.3.1.2(10)",
}


def load_way(desk: Desk, name: Rest) -> Rows:
    """What gives its load to something, with amounts, and what carries that to the soil."""
    ways, system = desk.load_ways(), desk.system
    givers = sorted(ways.givers.get(name, {}).items(), key=lambda g: (-g[1], str(g[0])))
    if givers:
        yield Heading("Sits on it", format_force(sum(f for _, f in givers), system))
        yield from _links(desk, givers)
    share = desk.checked.path.reduced.get(name, 1.0) if isinstance(name, MemberName) else 1.0
    if share < 1.0:
        yield Fact("of live load counts", f"{share:.0%}, {REDUCED_BY[desk.project.code]}")
    takers = list(way_down(ways, name).items())
    if takers:
        yield Heading("Its way to the soil", format_force(takers[0][1], system))
        yield from _links(desk, takers)
        if any(t in desk.checked.path.soil for t, _ in takers):
            yield Line("and so into the soil.", quiet=True, small=True)


def _links(desk: Desk, of: list[tuple[Rest, float]]) -> Iterator[Line | Link]:
    for name, force in of[:MOST]:
        words = rest_called(desk, name)
        yield Link(words, format_force(force, desk.system), partial(desk.select, name))
    if len(of) > MOST:
        rest = sum(f for _, f in of[MOST:])
        yield Line(
            f"and {len(of) - MOST} more, {format_force(rest, desk.system)} together",
            quiet=True,
            small=True,
        )


def rest_called(desk: Desk, name: Rest) -> str:
    """A member by its mark, a wall or a drawn load by its name."""
    if isinstance(name, HostName):
        drawn = (x.name for x in desk.project.loads if name == HostName("load", x.id))
        if load := next(drawn, ""):
            return load
        found = next((w for w in desk.project.walls if w.id == name.key), None)
        return called(found) if found else name.key
    member = next((m for m in desk.checked.structure.members if m.id == name), None)
    return f"{member.role} {member.mark}" if member else str(name)
