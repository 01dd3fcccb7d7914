"""The page of everything that was changed by hand: to go to, and to take back."""

from functools import partial
from typing import Any

from balken.model.edits import drop_change
from balken.model.edits.hosts import drop_changes, remove_member
from balken.model.names import MemberName, added_key, added_row, in_words
from balken.model.project import AddedMember, Change
from balken.session.desk import Desk
from balken.session.rows import Button, Fact, Heading, Line, Links, Rows, Title
from balken.session.things.pieces import change_words


def by_hand(desk: Desk) -> Rows:
    """Fill the slip with everything that was changed by hand: to go to, and to take back one by one
    or all."""
    project = desk.project
    count = len(project.changes) + len(project.added)
    yield Title("Changed by hand", "", str(count))
    if not count:
        yield Line(
            "Nothing was changed by hand: every piece is as the rules and the calculation make it.",
            quiet=True,
        )
        return
    yield Line("These stay through every regeneration, until they are taken back.", quiet=True)
    marks = {m.id: m.mark for m in desk.checked.structure.members}
    hosts = sorted({c.member.host for c in project.changes} | {a.host for a in project.added})
    for host in hosts:
        yield Heading(in_words(host))
        for change in project.changes:
            if change.member.host == host:
                yield from _line(desk, change, marks)
        for item in project.added:
            if item.host == host:
                yield from _added(desk, item, marks)
        words = f"Take back all of {in_words(host)}"
        yield Links(
            [(words, partial(_edit, desk, "take changes back", partial(drop_changes, host=host)))]
        )
    yield Button("Take back everything", lambda: desk.edit("take all changes back", drop_changes))


def _edit(desk: Desk, words: str, change: Any) -> object:
    return desk.edit(words, change)


def _line(desk: Desk, change: Change, marks: dict[MemberName, str]) -> Rows:
    mark = marks.get(change.member, f"{change.member.family} {change.member.place}")
    yield Fact(mark, change_words(change, desk.system))
    words: list[tuple[str, Any]] = []
    if change.member in marks:
        words.append(("show", lambda: desk.select(change.member)))
    words.append(
        (
            "take back",
            lambda: desk.edit("take a change back", partial(drop_change, member=change.member)),
        )
    )
    yield Links(words)


def _added(desk: Desk, item: AddedMember, marks: dict[MemberName, str]) -> Rows:
    name = next((k for k in marks if k.host == item.host and added_key(k) == item.id), None)
    yield Fact(marks[name] if name else added_row(item.id), "added")
    words: list[tuple[str, Any]] = [("show", lambda: desk.select(name))] if name else []
    key = MemberName(item.host, "joist", added_row(item.id))
    words.append(
        ("take back", lambda: desk.edit("take a piece back", partial(remove_member, member=key)))
    )
    yield Links(words)
