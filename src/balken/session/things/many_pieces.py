"""The slip of many pieces at once: how many of which, how long and heavy they are, and which is used most."""

from collections.abc import Sequence
from functools import partial

from balken.drawing.words import pretty
from balken.model.catalogue import sections_of
from balken.model.names import MemberName
from balken.session.desk import Desk
from balken.session.rows import Fact, Heading, Link, Rows, Title
from balken.takeoff.weights import weight_of_member
from balken.units import format_force, format_length


def many_pieces_slip(desk: Desk, names: Sequence[MemberName]) -> Rows:
    """What is selected, kind by kind."""
    wanted = frozenset(names)
    members = [m for m in desk.checked.structure.members if m.id in wanted]
    sections = sections_of(desk.system, desk.project.products)
    weights = [weight_of_member(desk.checked, m, sections) or 0.0 for m in members]
    yield Title(f"{len(members)} pieces", "selected")
    yield Fact("in all", format_length(sum(m.length for m in members), desk.system))
    yield Fact("weight", format_force(sum(weights), desk.system))
    if members:
        yield Fact("heaviest", format_force(max(weights), desk.system))
    used = [m for m in members if m.id in desk.checked.used]
    if used:
        most = max(used, key=lambda m: desk.checked.used[m.id][0])
        ratio, check = desk.checked.used[most.id]
        yield Link(f"most used: {ratio:.2f}, {check}", most.mark, partial(desk.select, most.id))
    counts: dict[tuple[str, str], int] = {}
    for m in members:
        counts[m.role, m.section] = counts.get((m.role, m.section), 0) + 1
    yield Heading("Of these", "")
    for (role, section), count in sorted(counts.items()):
        yield Fact(role, f"{count} of {pretty(section)}" if section else f"{count}")
