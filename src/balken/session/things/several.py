"""The slip of several things at once: how many of what, and the fields they share."""

from balken.model.names import Name
from balken.session.desk import Desk, by_kind
from balken.session.rows import Heading, Line, Rows, Title


def several_slip(desk: Desk, names: tuple[Name, ...]) -> Rows:
    """The slip of everything that is selected."""
    there = by_kind(names)
    yield Title(f"{len(names)} selected")
    yield Line(counted(desk, names))
    if len(there) > 1:
        yield Line(
            "Fields stand under each kind; they change all of that kind.", quiet=True, small=True
        )
    for kind, some in there.items():
        thing = desk.things[kind]
        yield Heading(f"{thing.word}s", str(len(some)))
        if thing.several is not None:
            yield from thing.several(desk, tuple(some))


def counted(desk: Desk, names: tuple[Name, ...]) -> str:
    """What is selected in words: ``3 walls, 1 opening``."""
    found = []
    for kind, some in by_kind(names).items():
        word = desk.things[kind].word
        found.append(f"{len(some)} {word if len(some) == 1 else word + 's'}")
    return ", ".join(found)
