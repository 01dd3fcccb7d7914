"""The frame of one wall: hand-worked walls, and random openings in which nothing may lie in the room of
anything else. Numbers of studs and lengths worked out by hand from the rules of IRC 2021 R602.3."""

import random
from collections import Counter
from itertools import combinations, pairwise

import pytest

from balken.framing import kinds
from balken.framing.walls.face import STOCK, Face, Hole, LaidOut, Meets, Moved, Stick
from balken.framing.walls.layout import lay_out
from balken.model.wall_frames import StudRule
from balken.units import FOOT, INCH

T = 1.5 * INCH
RULE = StudRule()
TALL = 97.125 * INCH
"""92 5/8 in studs between three plates."""


def face(
    length: float = 12 * FOOT, holes: tuple[Hole, ...] = (), rule: StudRule = RULE, **more: object
) -> Face:
    return Face(0.0, length, TALL, T, rule, holes, **more)  # type: ignore[arg-type]


def counts(done: LaidOut) -> Counter[str]:
    return Counter(s.kind.role for s in done.sticks)


def of(done: LaidOut, kind: object) -> list[Stick]:
    return [s for s in done.sticks if s.kind is kind]


def door(at: float = 4 * FOOT, wide: float = 3 * FOOT + 2 * INCH) -> Hole:
    return Hole("D", at, at + wide, 0.0, 82.5 * INCH, 5.5 * INCH)


def window(key: str, at: float, wide: float = 3 * FOOT) -> Hole:
    return Hole(key, at, at + wide, 36 * INCH, 80 * INCH, 7.25 * INCH)


def test_a_plain_wall_of_twelve_feet() -> None:
    """144 in at 16 in: studs at both ends and at 16, 32 ... 128: 10 studs of 92 5/8 in, three plates."""
    done = lay_out(face())
    assert counts(done) == {"wall stud": 10, "bottom plate": 1, "top plate": 2}
    assert {round((s.top - s.bottom) / INCH, 4) for s in of(done, kinds.WALL_STUD)} == {92.625}
    plates = [*of(done, kinds.BOTTOM_PLATE), *of(done, kinds.TOP_PLATE)]
    assert sum(s.high - s.low for s in plates) == pytest.approx(3 * 12 * FOOT)
    places = sorted((s.low + s.high) / 2 / INCH for s in of(done, kinds.WALL_STUD))
    assert places[1:-1] == pytest.approx([16.0 * k for k in range(1, 9)])


def test_a_wall_with_a_door() -> None:
    """A door of 38 in at 48 in: jacks 46.5 and 86, kings 45 and 87.5 in; the layout at 48, 64 and 80
    becomes cripples over the header; plates are 3 x 144 less 38 in."""
    done = lay_out(face(holes=(door(),)))
    found = counts(done)
    assert (found["king stud"], found["jack stud"], found["wall header"]) == (2, 2, 1)
    assert found["wall stud"] == 10 - 3  # 48, 64 and 80 in stand in the opening
    plates = [*of(done, kinds.BOTTOM_PLATE), *of(done, kinds.TOP_PLATE)]
    assert sum(s.high - s.low for s in plates) == pytest.approx(3 * 144 * INCH - 38 * INCH)
    (header,) = of(done, kinds.WALL_HEADER)
    assert (header.high - header.low) / INCH == pytest.approx(41.0)
    assert {round(s.top / INCH, 3) for s in of(done, kinds.JACK)} == {82.5}
    assert not of(done, kinds.ROUGH_SILL)
    over = of(done, kinds.CRIPPLE)
    assert {round((s.top - s.bottom) / INCH, 3) for s in over} == {94.125 - 88.0}


def test_a_wall_with_two_windows() -> None:
    """Windows of 36 in at 24 and 84 in in a wall of 12 ft: each has a sill of 36 in, cripples under its
    ends and on the layout between."""
    done = lay_out(face(holes=(window("A", 24 * INCH), window("B", 84 * INCH))))
    found = counts(done)
    assert (found["king stud"], found["jack stud"], found["wall header"]) == (4, 4, 2)
    assert found["rough sill"] == 2
    under = [s for s in of(done, kinds.CRIPPLE) if s.row == "A" and s.piece.startswith("u")]
    # Ends at 24 and 60 in, and the layout at 32 and 48.
    assert sorted((s.low + s.high) / 2 / INCH for s in under) == pytest.approx(
        [24.75, 32.0, 48.0, 59.25]
    )
    assert {round((s.top - s.bottom) / INCH, 3) for s in under} == {36 - 3.0}


def test_the_layout_begins_at_the_end_that_is_chosen() -> None:
    done = lay_out(face(130 * INCH, rule=StudRule(begins="end")))
    places = sorted((s.low + s.high) / 2 / INCH for s in of(done, kinds.WALL_STUD))
    assert 130 - places[-2] == pytest.approx(16.0)


def test_corners_tees_and_points_get_their_studs() -> None:
    """A stud behind the lining at the corner, one to each side of a wall that ends at a tee, two under
    a girder; cap plates lap and leave room for those that lap over them."""
    done = lay_out(
        face(
            start=Meets(cap=-3.5 * INCH, backed=3.5 * INCH),
            end=Meets(cap=3.5 * INCH),
            tees=((72 * INCH, 3.5 * INCH, True),),
            points=(("G", 100 * INCH, 2),),
        )
    )
    places = {round((s.low + s.high) / 2 / INCH, 3) for s in of(done, kinds.WALL_STUD)}
    assert {3.5, 70.25, 73.75, 99.25, 100.75} <= places
    caps = [s for s in of(done, kinds.TOP_PLATE) if s.row == "2"]
    assert [(round(s.low / INCH, 2), round(s.high / INCH, 2)) for s in caps] == [
        (3.5, 70.25),
        (73.75, 147.5),
    ]
    two = lay_out(face(rule=StudRule(corner="two studs"), start=Meets(backed=3.5 * INCH)))
    assert 3.5 not in {round((s.low + s.high) / 2 / INCH, 3) for s in of(two, kinds.WALL_STUD)}


def test_openings_near_one_another_share_a_king_or_a_header() -> None:
    """Two jacks and two kings a side want 6 in between; with 4.5 in there is one stud between the jacks,
    with 3 in one header goes over both, with 1 in nothing does."""

    def apart(gap: float) -> LaidOut:
        return lay_out(face(holes=(window("A", 24 * INCH), window("B", 60 * INCH + gap * INCH))))

    assert len(of(apart(6.0), kinds.WALL_HEADER)) == 2
    shared = apart(4.5)
    assert len(of(shared, kinds.WALL_HEADER)) == 2
    assert len(of(shared, kinds.KING)) == 3
    assert len(of(apart(3.0), kinds.WALL_HEADER)) == 1
    one = apart(2.0)
    assert len(of(one, kinds.WALL_HEADER)) == 1
    assert not one.lacks
    told = apart(1.0)
    assert [(x.hole, round(x.short / INCH, 3)) for x in told.lacks] == [("B", 0.5)]


@pytest.mark.parametrize(
    ("hole", "words", "short"),
    [
        (Hole("A", 1 * INCH, 37 * INCH, 0.0, 80 * INCH, 5.5 * INCH), "end of the wall", 0.5),
        (Hole("A", 24 * INCH, 60 * INCH, 0.0, 96 * INCH, 5.5 * INCH), "higher than", 1.875),
        (
            Hole("A", 24 * INCH, 60 * INCH, 0.0, 90 * INCH, 5.5 * INCH),
            "no room for its header",
            1.375,
        ),
    ],
)
def test_what_is_not_possible_is_told_by_how_much(hole: Hole, words: str, short: float) -> None:
    (lack,) = lay_out(face(holes=(hole,))).lacks
    assert words in lack.words
    assert lack.short / INCH == pytest.approx(short)


def test_an_opening_over_another_has_its_sill_over_a_plate() -> None:
    low = Hole("A", 48 * INCH, 84 * INCH, 0.0, 60 * INCH, 5.5 * INCH)
    high = Hole("B", 48 * INCH, 84 * INCH, 66 * INCH, 84 * INCH, 5.5 * INCH)
    done = lay_out(face(holes=(low, high)))
    assert len(of(done, kinds.WALL_HEADER)) == 1
    assert of(done, kinds.WALL_HEADER)[0].bottom == pytest.approx(84 * INCH)
    assert sorted(s.row for s in of(done, kinds.ROUGH_SILL)) == ["A", "B"]
    assert not done.lacks
    tight = lay_out(face(holes=(low._replace(head=65 * INCH), high)))
    assert [x.hole for x in tight.lacks] == ["B"]


def test_walls_over_ten_feet_are_blocked_against_fire() -> None:
    """IRC 2021 R302.11: one row in a wall of 12 ft, none in one of 10."""
    assert not of(lay_out(face()._replace(tall=10 * FOOT)), kinds.WALL_BLOCKING)
    high = lay_out(face()._replace(tall=12 * FOOT))
    assert len(of(high, kinds.WALL_BLOCKING)) == 9
    typed = lay_out(face(rule=StudRule(blocking=4 * FOOT)))
    assert len({s.bottom for s in of(typed, kinds.WALL_BLOCKING)}) == 1


def overlap(a: Stick, b: Stick) -> float:
    wide = min(a.high, b.high) - max(a.low, b.low)
    deep = min(a.top, b.top) - max(a.bottom, b.bottom)
    return min(wide, deep)


@pytest.mark.parametrize("seed", range(200))
def test_no_two_pieces_share_room_and_no_plate_or_header_is_cut(seed: int) -> None:
    chance = random.Random(seed)
    length = chance.uniform(2, 12) * 1000
    holes = tuple(
        Hole(
            f"O{i}",
            at := chance.uniform(0, length),
            at + chance.uniform(300, 2400),
            sill := chance.choice([0.0, chance.uniform(100, 1500)]),
            sill + chance.uniform(400, 2200),
            chance.choice([89.0, 140.0, 184.0, 235.0]),
            chance.choice([1, 2]),
            chance.choice([1, 2]),
            chance.choice([1, 2]),
            chance.choice(["", "", "start", "end", "both"]),  # type: ignore[arg-type]
        )
        for i in range(chance.randint(0, 5))
    )
    rule = StudRule(
        spacing=chance.choice([300.0, 406.4, 600.0]),
        begins=chance.choice(["start", "end"]),  # type: ignore[arg-type]
        top_plates=chance.choice([1, 2]),  # type: ignore[arg-type]
        blocking=chance.choice([0.0, 800.0]),
    )
    tees = tuple(
        (chance.uniform(200, length - 200), 89.0, chance.random() < 0.5)
        for _ in range(chance.randint(0, 2))
    )
    whole = Face(
        0.0,
        length,
        chance.uniform(2200, 3400),
        38.1,
        rule,
        holes,
        Meets(-89.0, 89.0),
        Meets(89.0),
        tees,
        (("P", chance.uniform(300, length - 300), 3),),
    )
    done = lay_out(whole)
    for a, b in combinations(done.sticks, 2):
        assert overlap(a, b) < 0.1, (a, b)
    for s in done.sticks:
        assert s.high > s.low
        assert s.top > s.bottom
    kept = {s.row for s in done.sticks if s.kind is kinds.WALL_HEADER}
    told = {x.hole for x in done.lacks}
    for h in holes:
        assert h.key in kept | told or any(s.row == h.key for s in done.sticks), h
    lower = [s for s in done.sticks if s.kind is kinds.TOP_PLATE and s.row == "1"]
    assert (lower[0].low, lower[-1].high) == (0.0, length)
    assert all(a.high == b.low for a, b in pairwise(lower)), "nothing cuts a plate but its length"
    assert all(s.high - s.low <= STOCK + 0.1 for s in lower)
    for header in (s for s in done.sticks if s.kind is kinds.WALL_HEADER):
        for h in holes:
            if h.key in told:
                continue
            wide = min(header.high, h.high) - max(header.low, h.low)
            deep = min(header.top, h.head) - max(header.bottom, h.sill)
            assert min(wide, deep) < 0.1, (header, h)


def test_long_plates_are_joined_over_studs_four_feet_apart_and_off_openings() -> None:
    """36 ft with an opening from 14 to 18 ft: pieces of 16 ft at most (sold so; 2 ft between joints by IRC
    2021 R602.3.2, 4 ft by common practice)."""
    hole = Hole("O", 14 * FOOT, 18 * FOOT, 0.0, 2100.0, 184.0)
    face = Face(0.0, 36 * FOOT, 2750.0, 38.1, StudRule(spacing=16 * INCH), (hole,))
    done = lay_out(face)
    joints = {}
    for row in ("1", "2"):
        plates = [s for s in done.sticks if s.kind is kinds.TOP_PLATE and s.row == row]
        assert sum(s.high - s.low for s in plates) == pytest.approx(36 * FOOT)
        assert all(s.high - s.low <= 16 * FOOT + 0.1 for s in plates)
        joints[row] = [s.high for s in plates[:-1]]
    assert min(abs(a - b) for a in joints["1"] for b in joints["2"]) >= 4 * FOOT - 0.1
    studs = [(s.low + s.high) / 2 for s in done.sticks if s.kind is kinds.WALL_STUD]
    for x in (*joints["1"], *joints["2"]):
        assert min(abs(x - s) for s in studs) < 0.1, "over a stud"
        assert not hole.low < x < hole.high
    bottoms = [s for s in done.sticks if s.kind is kinds.BOTTOM_PLATE]
    assert sum(s.high - s.low for s in bottoms) == pytest.approx(32 * FOOT)


def test_a_pony_wall_on_a_stepped_stem() -> None:
    """12 ft, the stem 24 in lower from 6 ft on: bottom plates of 6 ft each, a stud at each side of the
    step; 80, 96, 112, 128 in, the step's and the end's are 24 in longer; the plates run through above."""
    done = lay_out(face(steps=((6 * FOOT, -24 * INCH),)))
    assert counts(done) == {"wall stud": 12, "bottom plate": 2, "top plate": 2}
    studs = of(done, kinds.WALL_STUD)
    lengths = Counter(round((s.top - s.bottom) / INCH, 3) for s in studs)
    assert lengths == {92.625: 6, 116.625: 6}
    bottoms = [
        (round(s.low / INCH, 3), round(s.high / INCH, 3)) for s in of(done, kinds.BOTTOM_PLATE)
    ]
    assert bottoms == [(0.0, 72.0), (72.0, 144.0)]
    assert {round(s.bottom / INCH, 6) for s in of(done, kinds.BOTTOM_PLATE)} == {0.0, -24.0}
    at_step = sorted((s.low + s.high) / 2 / INCH for s in studs if s.row == "step1")
    assert at_step == pytest.approx([71.25, 72.75])
    assert len(of(done, kinds.TOP_PLATE)) == 2
    for a, b in combinations(done.sticks, 2):
        assert overlap(a, b) <= 0.01


def test_an_opening_over_the_higher_part_of_a_step_is_told() -> None:
    """The stem rises 24 in under half of a window whose sill lies 12 in over the foot: 12 in are
    lacking."""
    hole = Hole("A", 5 * FOOT, 8 * FOOT, 12 * INCH, 60 * INCH, 5.5 * INCH)
    done = lay_out(face(holes=(hole,), steps=((6 * FOOT, 24 * INCH),)))
    (lack,) = done.lacks
    assert lack.short == pytest.approx(12 * INCH)
    free = lay_out(face(holes=(hole._replace(sill=24 * INCH),), steps=((6 * FOOT, 24 * INCH),)))
    assert not free.lacks, "right on the step there is room"


def test_studs_under_what_bears_on_the_wall() -> None:
    """Joists at 19.2 in over a wall with studs 24 in apart: a stud under each. Where they lie 48 in
    apart, one between."""
    rule = StudRule(spacing=24 * INCH, begins="under joists")
    above = tuple(19.2 * INCH * k for k in range(1, 8))
    done = lay_out(face(rule=rule, above=above))
    middles = sorted((s.low + s.high) / 2 for s in of(done, kinds.WALL_STUD))
    assert all(any(abs(m - x) < 0.1 for m in middles) for x in above)
    assert max(b - a for a, b in pairwise(middles)) <= 24 * INCH + 0.1
    far = lay_out(face(rule=rule, above=(48 * INCH, 96 * INCH)))
    middles = sorted((s.low + s.high) / 2 for s in of(far, kinds.WALL_STUD))
    assert pytest.approx(min(middles, key=lambda m: abs(m - 72 * INCH))) == 72 * INCH


def test_studs_set_and_moved_by_hand_come_first() -> None:
    """A stud set at 50 in stays; one moved onto a king is told with how much it lacks."""
    done = lay_out(face(set_by_hand=(("+N1", 50 * INCH),)))
    (mine,) = [s for s in of(done, kinds.WALL_STUD) if s.row == "+N1"]
    assert (mine.low + mine.high) / 2 == pytest.approx(50 * INCH)
    moved = Moved("wall stud", "02", "", 5 * INCH, 0.0)
    done = lay_out(face(moved=(moved,)))
    (mine,) = [s for s in of(done, kinds.WALL_STUD) if s.row == "02"]
    assert (mine.low + mine.high) / 2 == pytest.approx(37 * INCH)
    onto = Moved("wall stud", "02", "", 13 * INCH, 0.0)  # the king stands from 44.25 to 45.75 in
    done = lay_out(face(holes=(door(),), moved=(onto,)))
    (lack,) = done.lacks
    assert lack.short > 0
    assert not [s for s in of(done, kinds.WALL_STUD) if s.row == "02"]
