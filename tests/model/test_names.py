"""Names are values: told apart whatever they are called, and read back from their text as they
were."""

import itertools
import string

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from balken.framing import kinds
from balken.framing.member import Part
from balken.framing.structure import _each_named_once
from balken.model.edits.roofs import add_roof_opening, set_roof
from balken.model.names import (
    LETTERED,
    HostName,
    MemberName,
    NameTextError,
    added_key,
    added_row,
    host_name,
    keys_of,
    member_name,
    piece_letters,
    wall_below,
    wall_key,
    whole,
)
from balken.model.project import Project
from balken.works.building import work_out
from buildings import house, walled
from named import the

KEYS = st.text(string.ascii_letters + string.digits + "._-+", min_size=1, max_size=8)
"""Keys of records hold no slashes, colons, tildes or spaces (``model/record.py: Key``)."""
FAMILIES = st.sampled_from(
    [*sorted(LETTERED), "rafter", "hip jack", "footing", "bottom chord", "strut"]
)


@given(KEYS, FAMILIES, KEYS, st.one_of(st.just(""), KEYS))
def test_every_name_is_read_back_as_it_was(key: str, family: str, row: str, piece: str) -> None:
    name = MemberName(HostName("floor", key), family, row, piece)
    assert member_name(str(name)) == name


@given(
    st.lists(st.tuples(KEYS, st.one_of(st.just(""), KEYS)), min_size=2, max_size=6, unique=True),
    FAMILIES,
)
def test_no_two_names_are_written_alike(places: list[tuple[str, str]], family: str) -> None:
    host = HostName("run", "G1")
    texts = [str(MemberName(host, family, *place)) for place in places]
    assert len(set(texts)) == len(texts)


@pytest.mark.parametrize(
    "text",
    ["", "x", "floor:F1", "floor:/joist:01", "attic:F1/joist:01", "floor:F1/joist", "floor:F1/:1"],
)
def test_text_that_is_no_member_is_refused_and_quoted(text: str) -> None:
    with pytest.raises(NameTextError, match=f"“{text.split(chr(47))[0]}"):
        member_name(text)


@pytest.mark.parametrize("text", ["", "floor", "floor:", "attic:A1", "floor:F1/joist:01a"])
def test_text_that_is_no_host_is_refused(text: str) -> None:
    with pytest.raises(NameTextError):
        host_name(text)


def test_letters_never_end() -> None:
    letters = [piece_letters(n) for n in range(800)]
    assert letters[:3] == ["a", "b", "c"]
    assert letters[25:28] == ["z", "aa", "ab"]
    assert len(set(letters)) == 800


def test_a_name_that_begins_like_another_is_another() -> None:
    """W1 is not W10, nor W1.2, nor a piece of the curved wall W1."""
    names = [HostName("wall", k) for k in ("W1", "W10", "W1.2", "W1~1")]
    assert keys_of(names, "wall") == ["W1", "W10", "W1.2", "W1~1"]
    assert [wall_key(n) for n in names] == ["W1", "W10", "W1.2", "W1"]
    sills = [MemberName(HostName("run", "G1"), "sill", k) for k in ("W1", "W10", "W1~2", "W1~p2")]
    assert [wall_below(n) for n in sills] == ["W1", "W10", "W1", "W1"]
    assert wall_below(MemberName(HostName("floor", "F1"), "joist", "W1", "a")) == ""
    assert added_key(MemberName(HostName("floor", "F1"), "joist", added_row("K1"), "a")) == "K1"
    assert added_key(MemberName(HostName("floor", "F1"), "joist", "K1", "a")) == ""
    assert whole("W1~p2") == "W1"


def renamed(project: Project, names: dict[str, str]) -> Project:
    """A project whose walls have other keys."""
    walls = tuple(replace(w, id=names[w.id]) for w in project.walls)
    floors = tuple(replace(f, walls=tuple(names[k] for k in f.walls)) for f in project.floors)
    roofs = tuple(
        replace(
            r,
            walls=tuple(names[k] for k in r.walls),
            sides=tuple(replace(s, side=names.get(s.side, s.side)) for s in r.sides),
        )
        for r in project.roofs
    )
    runs = tuple(replace(r, walls=tuple(names[k] for k in r.walls)) for r in project.runs)
    return replace(project, walls=walls, floors=floors, roofs=roofs, runs=runs)


PREFIXES = ("W1", "W10", "W11", "W1.2", "W1a", "W", "kitchen", "kitchen.2")


@pytest.mark.parametrize(
    "make", [lambda: house(storeys=2), lambda: walled([(0, 0), (9000, 0), (9000, 6000), (0, 6000)])]
)
def test_a_building_is_the_same_whatever_its_walls_are_called(make: object) -> None:
    """Names that are prefixes of one another do no harm: the same members carry the same loads."""
    plain: Project = make()  # type: ignore[operator]
    names = dict(
        zip(
            (w.id for w in plain.walls),
            itertools.chain(PREFIXES, (f"V{n}" for n in itertools.count())),
        )
    )
    before, after = work_out(plain), work_out(renamed(plain, names))
    assert sorted(m.role for m in before.structure.members) == sorted(
        m.role for m in after.structure.members
    )
    assert after.path.soil_total == pytest.approx(before.path.soil_total)
    assert len(after.used) == len(before.used)
    assert sorted(r for r, _ in after.used.values()) == pytest.approx(
        sorted(r for r, _ in before.used.values())
    )
    for m in after.structure.members:
        assert member_name(str(m.id)) == m.id


def test_ten_skylights_in_a_row_give_every_piece_its_own_name() -> None:
    project = set_roof(house(18000.0, 8000.0, system="metric"), "R1", overhang=300.0)
    for n in range(10):
        project, _ = add_roof_opening(project, "R1", (1500.0 + 1600.0 * n, 2000.0), (500.0, 700.0))
    members = work_out(project).structure.members
    assert len({m.id for m in members}) == len(members)
    assert len([m for m in members if m.kind is kinds.HEADER]) == 20


def test_two_members_of_one_name_are_told_apart() -> None:
    first = work_out(house()).structure.members[0]
    (part,) = _each_named_once((Part((first, first, first)),))
    assert [m.id.piece for m in part.members] == [
        first.id.piece,
        first.id.piece + "b",
        first.id.piece + "c",
    ]
    assert the(str(part.members[2].id)) == part.members[2].id
