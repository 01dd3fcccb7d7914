"""Levels that follow, names that are whole names, letters without an end, and roofs out of
sight."""

import json

import pytest

from balken.exchange.native import ReadError, from_text, to_text
from balken.model.edits import set_floor
from balken.model.names import piece_letters
from balken.model.project import Project, level
from balken.works.building import work_out
from balken.works.column import follow
from buildings import house


def test_letters_of_pieces_have_no_end() -> None:
    names = [piece_letters(n) for n in range(800)]
    assert names[0] == "a"
    assert names[25:28] == ["z", "aa", "ab"]
    assert len(set(names)) == 800


def test_a_level_that_floors_hang_on_follows_the_deepest(plain: Project) -> None:
    """A shallower floor drawn beside must not lift the foundation under the deeper one."""
    free = next(x for x in plain.levels if not x.held)
    before = level(plain, free.id).elevation
    deep = follow(set_floor(plain, "F1", section="2x12"))
    assert level(deep, free.id).elevation < before
    from msgspec.structs import replace

    first = next(f for f in deep.floors if f.id == "F1")
    both = replace(deep, floors=(*deep.floors, replace(first, id="F9", name="Wing", section="2x8")))
    assert level(follow(both), free.id).elevation == level(deep, free.id).elevation


def test_ten_skylights_up_one_row_make_members_of_their_own() -> None:
    from balken.session.demo import shown_demo

    names = [m.id for m in work_out(shown_demo()).structure.members]
    assert len(set(names)) == len(names)


HOSTILE = (
    b'{"format":4,"name":"x","system":"us","walls":5}',
    b'{"format":0,"levels":{"a":1}}',
    b'{"format":3,"roofs":[null]}',
    b'{"format":2,"site":[]}',
    b'{"format":1e400}',
    b"[" * 50_000,
    b'{"a":' * 20_000 + b"1" + b"}" * 20_000,
    b'"\\ud800"',
    b"\xff\xfe",
    b"",
    b"null",
    b'{"format":5,"name":"' + b"x" * 100_000 + b'","system":"us"}',
)


@pytest.mark.parametrize("text", HOSTILE)
def test_hostile_text_is_refused_in_words(text: bytes) -> None:
    with pytest.raises(ReadError):
        from_text(text)


@pytest.mark.parametrize("old", range(6))
def test_older_formats_with_strange_values_are_refused_in_words(old: int) -> None:
    """The steps up trust nothing: each key of a file in turn holds what it must not."""
    raw = json.loads(to_text(house()))
    raw["format"] = old
    for key in raw:
        for strange in (5, None, [3], {"x": 1}, "text", [[]]):
            if key == "format":
                continue
            try:
                from_text(json.dumps({**raw, key: strange}).encode())
            except ReadError:
                continue
