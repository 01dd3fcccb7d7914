"""The page of versions: kept by a name, compared with the building as it is, taken back item by item."""

from functools import partial
from typing import Final

from balken.session import versions
from balken.session.desk import Desk
from balken.session.rows import Button, Fact, Field, Heading, Line, Link, Rows, Title
from balken.takeoff.compared import Earlier, Item, sums_of

MOST: Final = 40
"""Items are told one by one up to so many."""
WORDS: Final = {
    "came": "came: take it out",
    "went": "went: bring it back",
    "changed": "take it back",
}


def versions_page(desk: Desk) -> Rows:
    """What was kept, and what is other since."""
    path = desk.building.path
    yield Title("Versions", "kept by a name")
    if path is None:
        yield Line(
            "Save the project first: its versions are kept in a folder beside it.", quiet=True
        )
    else:
        yield Field("keep this one as", "", partial(versions.keep_version, desk), example="tender")
        for v in versions.versions_of(path):
            yield Link(v.words, "compare", partial(versions.compare_with, desk, v.path, v.words))
    yield Button("Compare with a file …", partial(versions.ask_what_to_compare, desk))
    if desk.earlier is not None:
        yield from _compared(desk, desk.earlier)


def _compared(desk: Desk, earlier: Earlier) -> Rows:
    yield Heading(f"Since {earlier.words}")
    for s in sums_of(earlier.checked, desk.checked):
        was, now = (f"{x:,.2f}".removesuffix(".00") for x in (s.before, s.after))
        yield Fact(s.words, now if was == now else f"{was} → {now}")
    items = versions.items_now(desk)
    yield Heading("Decided otherwise", f"{len(items)}")
    for item in items[:MOST]:
        yield Link(_called(item), WORDS[item.state], partial(versions.take_back, desk, [item]))
    if len(items) > MOST:
        yield Line(f"And {len(items) - MOST} more.", quiet=True)
    if items:
        yield Button("Take all back", partial(versions.take_back, desk, items))
    words = "Draw the later one alone" if desk.drawn_over else "Draw both over one another"
    yield Button(words, partial(versions.turn_drawn_over, desk))
    yield Button("Show what came and changed", partial(versions.show_changed, desk))
    yield Line("The list Two versions (5) has it piece by piece.", quiet=True)
    yield Button("Compare no more", partial(versions.end_comparison, desk))


def _called(item: Item) -> str:
    what = f"{item.field.replace('_', ' ')} {item.key}".strip()
    return f"{what}: {item.words.replace('_', ' ')}" if item.words else what
