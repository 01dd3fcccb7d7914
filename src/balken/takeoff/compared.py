"""Two versions of a building compared: pieces that came, went or changed, with volumes, cost and how far they
are used; what a person decided, item by item."""

from collections.abc import Callable, Iterator, Sequence
from typing import Final, NamedTuple

import msgspec

from balken.framing.member import Member
from balken.model.names import MemberName
from balken.model.project import Project
from balken.takeoff.cost import whole_cost
from balken.takeoff.listing import Column, Listing, Row
from balken.works.building import Checked

MOVED: Final = 1.0
"""A piece that lies no further off than this is where it was, mm."""
USED: Final = 0.005
"""And one that is used no more or less than this is used as it was."""


class Earlier(NamedTuple):
    """A version that is compared with a later one, and what it is called."""

    words: str
    checked: Checked


class Difference(NamedTuple):
    """What became of one piece."""

    state: str
    """``came``, ``went`` or ``changed``."""
    name: MemberName
    before: Member | None
    after: Member | None
    words: str


def differences(before: Checked, after: Checked) -> list[Difference]:
    """All pieces that are not the same in two versions, by their names."""
    old = {m.id: m for m in before.structure.members}
    new = {m.id: m for m in after.structure.members}
    found = [Difference("went", n, m, None, "") for n, m in old.items() if n not in new]
    for name, m in new.items():
        if name not in old:
            found.append(Difference("came", name, None, m, ""))
            continue
        words = ", ".join(_changes(before, after, old[name], m))
        if words:
            found.append(Difference("changed", name, old[name], m, words))
    return found


def _changes(before: Checked, after: Checked, a: Member, b: Member) -> Iterator[str]:
    """What is other of a piece, in words."""
    if a.section != b.section:
        yield f"{a.section} → {b.section}"
    if a.material != b.material:
        yield f"{a.material} → {b.material}"
    if abs(a.length - b.length) > MOVED:
        yield f"{abs(b.length - a.length):.0f} mm {'longer' if b.length > a.length else 'shorter'}"
    off = max(abs(p - q) for p, q in zip((*a.start, *a.end), (*b.start, *b.end)))
    if off > MOVED:
        yield f"moved by {off:.0f} mm"
    if a.cuts != b.cuts:
        yield "cut otherwise"
    was, now = (x.used.get(a.id, (0.0, ""))[0] for x in (before, after))
    if abs(was - now) > USED:
        yield f"used to {now:.2f} where it was {was:.2f}"


def differences_list(before: Checked, after: Checked) -> Listing:
    """The pieces that are not the same, as a list."""
    rows = []
    for d in differences(before, after):
        m = d.after or d.before
        assert m is not None, "a piece is in one of the two"
        rows.append(
            Row(
                (
                    d.state,
                    m.mark,
                    m.role,
                    d.before.section if d.before else "",
                    d.after.section if d.after else "",
                    d.before.length if d.before else None,
                    d.after.length if d.after else None,
                    d.words,
                ),
                (d.name,),
            )
        )
    return Listing("compared", "Two versions", columns_of_changes("before"), tuple(rows))


def columns_of_changes(before: str) -> tuple[Column, ...]:
    """The columns of what became of pieces, after what the earlier state is called."""
    return (
        Column("state", "state"),
        Column("mark", "mark"),
        Column("role", "is"),
        Column("was", f"section {before}"),
        Column("section", "section now"),
        Column("length_before", f"length {before}", "length"),
        Column("length", "length now", "length"),
        Column("what", "what"),
    )


class Sum(NamedTuple):
    """A figure of the whole building in both versions."""

    words: str
    before: float
    after: float


def sums_of(before: Checked, after: Checked) -> list[Sum]:
    """Pieces, wood and concrete (m³), cost, and how far the most used piece is used."""

    def both(words: str, figure: Callable[[Checked], float]) -> Sum:
        return Sum(words, float(figure(before)), float(figure(after)))

    return [
        both("pieces", lambda c: len(c.structure.members)),
        both("wood, m³", lambda c: _volume(c, concrete=False)),
        both("concrete, m³", lambda c: _volume(c, concrete=True)),
        both("cost", whole_cost),
        both("most used to", lambda c: max((u for u, _ in c.used.values()), default=0.0)),
    ]


def _volume(checked: Checked, *, concrete: bool) -> float:
    members = checked.structure.members
    mine = (checked.structure.volume(m) for m in members if bool(m.kind.concrete) == concrete)
    return sum(mine) / 1e9


class Item(NamedTuple):
    """A record that a person decided, in both versions."""

    field: str
    """Of the project, such as ``walls``."""
    key: str
    state: str
    words: str
    """The fields that are other."""


def items_of(before: Project, after: Project) -> list[Item]:
    """What was decided otherwise: records that came, went or changed, and single settings."""
    found: list[Item] = []
    for field in Project.__struct_fields__:
        a, b = getattr(before, field), getattr(after, field)
        if a == b or field in ("identity", "format"):
            continue
        if _has_keys(a) and _has_keys(b):
            found += _keyed(field, a, b)
        else:
            found.append(Item(field, "", "changed", ", ".join(_fields(a, b))))
    return found


def _has_keys(records: object) -> bool:
    return isinstance(records, tuple) and all(hasattr(r, "id") for r in records)


def _keyed(field: str, a: Sequence[msgspec.Struct], b: Sequence[msgspec.Struct]) -> Iterator[Item]:
    old = {r.id: r for r in a}  # type: ignore[attr-defined]
    new = {r.id: r for r in b}  # type: ignore[attr-defined]
    for key in old:
        if key not in new:
            yield Item(field, key, "went", "")
    for key, record in new.items():
        if key not in old:
            yield Item(field, key, "came", "")
        elif record != old[key]:
            yield Item(field, key, "changed", ", ".join(_fields(old[key], record)))


def _fields(a: object, b: object) -> list[str]:
    """The names of the fields in which two records differ."""
    if not isinstance(a, msgspec.Struct) or type(a) is not type(b):
        return []
    return [n for n in a.__struct_fields__ if getattr(a, n) != getattr(b, n)]


def taken_back(before: Project, after: Project, item: Item) -> Project:
    """The later version with one item as the earlier one had it; what leans on it may be told as a fault.

    Args:
        before: the earlier version.
        after: the later one.
        item: of :func:`items_of`.
    """
    a, b = getattr(before, item.field), getattr(after, item.field)
    if not item.key:
        return msgspec.structs.replace(after, **{item.field: a})
    old = next((r for r in a if r.id == item.key), None)
    if item.state == "came":
        kept = tuple(r for r in b if r.id != item.key)
    elif item.state == "went":
        kept = (*b, old)
    else:
        kept = tuple(old if r.id == item.key else r for r in b)
    return msgspec.structs.replace(after, **{item.field: kept})
