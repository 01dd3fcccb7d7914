"""How far everything is used: the worst of each kind, as a page of the slip."""

from functools import partial

from balken.drawing.reserve import ratio_words
from balken.drawing.words import pretty
from balken.framing.member import Member
from balken.session.desk import Desk
from balken.session.rows import Fact, Heading, Line, Link, Rows, Title
from balken.works.building import is_over


def reserve(desk: Desk) -> Rows:
    """The most used of each kind, and how many are used how far."""
    used = desk.checked.used
    members = [m for m in desk.checked.structure.members if m.id in used]
    yield Title("Reserve", "how far everything is used", str(len(members)))
    if not members:
        yield Line("Nothing is checked yet.", quiet=True)
        return
    yield Line(
        "On the plan each bar is as long as its piece is used; in space the darker the more. What is"
        " over stands in red.",
        quiet=True,
        small=True,
    )
    yield Heading("Used")
    for words, low, high in BANDS:
        count = sum(low < used[m.id][0] <= high for m in members)
        yield Fact(words, f"{count}")
    over = sum(is_over(used[m.id][0]) for m in members)
    yield Fact("over 1.00", f"{over}")
    yield Heading("The worst of each kind")
    for m in sorted(_worst(desk, members), key=lambda m: -used[m.id][0]):
        ratio, by = used[m.id]
        words = f"{m.role} {m.mark}"
        yield Link(
            words, f"{ratio_words(ratio)}  {by}, {pretty(m.section)}", partial(desk.select, m.id)
        )


BANDS = (
    ("up to 0.50", -1.0, 0.5),
    ("0.50 to 0.80", 0.5, 0.8),
    ("0.80 to 0.95", 0.8, 0.95),
    ("0.95 to 1.00", 0.95, 1.001),
)
"""Of utilisation, as they are counted."""


def _worst(desk: Desk, members: list[Member]) -> list[Member]:
    found: dict[str, Member] = {}
    for m in members:
        best = found.get(m.role)
        if best is None or desk.checked.used[m.id][0] > desk.checked.used[best.id][0]:
            found[m.role] = m
    return list(found.values())
