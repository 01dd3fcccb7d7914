"""Loads from joists through headers, beams and posts to the soil; slabs shared between what carries
them."""

import pytest

from balken.analysis.one_beam import work
from balken.framing import kinds
from balken.framing.floors.slabs import frame_slab
from balken.framing.member import Bearings, Hole, Support
from balken.framing.pieces import Cut, level_piece
from balken.geometry.plane import Point
from balken.loads.parcels import Parcel
from balken.loads.slabs import share_slab
from balken.loads.statics import beam_of, shares
from balken.model.cases import NOTHING, Cases, total
from balken.model.floors import BuildUp, FloorArea
from balken.session.ferry_hall import ferry_hall
from balken.works.building import work_out
from named import the

ZERO = NOTHING
PIECE = Cut("x", "", 100.0)


def piece(
    length: float,
    at: tuple[float, ...],
    area: float = 0.0,
    line: tuple[float, float, float, float] = ZERO,
):  # type: ignore[no-untyped-def]
    rests = tuple(Support(x, 50.0, f"s{i}", (x, 0.0)) for i, x in enumerate(at))
    return level_piece(
        "m",
        "M",
        kinds.BEAM,
        the("beam:B"),
        "L",
        PIECE,
        (0.0, 0.0),
        (length, 0.0),
        0.0,
        300.0,
        rests,
        area,
        (0.0, length),
        line=line,
    )


def test_a_load_is_shared_by_the_lever() -> None:
    found = shares(
        piece(4000.0, (0.0, 4000.0)),
        ZERO,
        (Parcel(1000.0, 0.0, Cases(800.0, 400.0, 0.0, 0.0), "j"),),
    )
    assert list(found[0])[:2] == pytest.approx((600.0, 300.0))
    assert list(found[1])[:2] == pytest.approx((200.0, 100.0))


def test_what_stands_on_an_overhang_lifts_the_far_end() -> None:
    found = shares(
        piece(5000.0, (0.0, 4000.0)),
        ZERO,
        (Parcel(5000.0, 0.0, Cases(1000.0, 0.0, 0.0, 0.0), "j"),),
    )
    assert [r.dead for r in found] == pytest.approx([-250.0, 1250.0])


def test_many_loads_side_by_side_share_as_they_do_one_by_one() -> None:
    # The lever again: load times its distance from the other support over the span, added up.
    parcels = tuple(
        Parcel(100.0 + 190.0 * k, 0.0, Cases(500.0 + 7 * k, 300.0, 0.0, 11.0 * k), f"j{k}")
        for k in range(20)
    )
    near, far = shares(piece(4000.0, (0.0, 4000.0), line=Cases(0.3, 0.0, 0.0, 0.0)), ZERO, parcels)
    for case in range(4):
        own = 0.3 * 4000.0 * 2000.0 / 4000.0 if case == 0 else 0.0
        assert list(far)[case] == pytest.approx(
            sum(list(p.forces)[case] * p.x for p in parcels) / 4000.0 + own
        )
        assert list(near)[case] == pytest.approx(
            sum(list(p.forces)[case] * (4000.0 - p.x) for p in parcels) / 4000.0 + own
        )


def test_two_that_meet_at_one_place_are_one_load_of_a_beam() -> None:
    member = piece(4000.0, (0.0, 4000.0))
    pair = (
        Parcel(1500.0, -40.0, Cases(100.0, 60.0, 0.0, 0.0), "a"),
        Parcel(1500.0, 40.0, Cases(110.0, 50.0, 0.0, 0.0), "b"),
    )
    made, _ = beam_of(member, ZERO, pair)
    assert [(p.case, p.at, p.force) for p in made.forces()] == [
        (0, 1500.0, 210.0),
        (1, 1500.0, 110.0),
    ]


def test_three_supports_share_as_a_continuous_beam_does() -> None:
    # 3/8, 10/8, 3/8 of a span's load (AWC Design Aid 6, two equal spans).
    found = shares(piece(8000.0, (0.0, 4000.0, 8000.0), line=Cases(2.0, 0.0, 0.0, 0.0)), ZERO, ())
    assert [r.dead for r in found] == pytest.approx([3000.0, 10000.0, 3000.0])


def test_loads_by_span_add_up_to_the_whole() -> None:
    member = piece(8000.0, (0.0, 3000.0, 8000.0), area=4e6, line=(1.0, 0.0, 0.0, 0.5))
    parcels = (
        Parcel(2000.0, 0.0, Cases(500.0, 900.0, 0.0, 0.0), "j"),
        Parcel(6000.0, 0.0, Cases(0.0, 700.0, 0.0, 0.0), "k"),
    )
    whole, cases = beam_of(member, Cases(0.001, 0.002, 0.0, 0.0), parcels)
    split, more = beam_of(member, Cases(0.001, 0.002, 0.0, 0.0), parcels, by_span=True)
    (a,), (b,) = work([whole], cases), work([split], more)
    for case in range(4):
        parts = (
            b.solved.reaction[case * 2 : case * 2 + 2].sum(axis=0) if case else b.solved.reaction[0]
        )
        assert parts[0].tolist() == pytest.approx(a.solved.reaction[case, 0].tolist())


def slab(holes: tuple[Hole, ...] = ()):  # type: ignore[no-untyped-def]
    floor = FloorArea(
        "F1",
        "Slab",
        "L",
        "L",
        (),
        "U",
        0.0,
        0.0,
        corners=((0, 0), (6000, 0), (6000, 4000), (0, 4000)),
    )
    body = BuildUp("U", "floor", "SPF", "No.2", (), (), kind="slab", slab=250.0)
    bearings = Bearings(
        tuple((float(x), float(y)) for x, y in floor.corners), (), 2750.0, 0.0, holes
    )
    return frame_slab(floor, body, bearings).members[0]


def strip(x0: float, y0: float, x1: float, y1: float) -> tuple[Point, ...]:
    return ((x0, y0), (x1, y0), (x1, y1), (x0, y1))


def test_a_slab_between_two_walls_gives_each_half() -> None:
    walls = (("west", strip(0, 0, 100, 4000)), ("east", strip(5900, 0, 6000, 4000)))
    found = share_slab(slab(), Cases(0.006, 0.004, 0.0, 0.0), (), walls)
    by_wall = {k: total(p.forces for on, p in found if on == k) for k in ("west", "east")}
    assert list(by_wall["west"].down)[:4] == pytest.approx([0.006 * 12e6, 0.004 * 12e6, 0.0, 0.0])
    assert list(by_wall["east"]) == pytest.approx(list(by_wall["west"]))


def test_a_hole_in_a_slab_weighs_nothing() -> None:
    hole = Hole("O1", "stair", strip(2000, 1000, 4000, 3000))
    walls = (("west", strip(0, 0, 100, 4000)),)
    found = share_slab(slab((hole,)), Cases(0.001, 0.0, 0.0, 0.0), (), walls)
    assert sum(p.forces.dead for _, p in found) == pytest.approx(0.001 * (24e6 - 4e6))


def test_what_stands_on_a_slab_goes_to_what_is_nearest() -> None:
    walls = (("west", strip(0, 0, 100, 4000)), ("east", strip(5900, 0, 6000, 4000)))
    found = share_slab(
        slab(), ZERO, (Parcel(4500.0, 2000.0, Cases(9000.0, 0.0, 0.0, 0.0), "post"),), walls
    )
    assert {on: round(p.forces.dead) for on, p in found if any(p.forces)} == {"east": 9000}


def test_a_beam_of_a_building_hands_on_all_that_lies_on_it() -> None:
    checked = work_out(ferry_hall())
    by_id = {m.id: m for m in checked.structure.members}
    for name, parcels in checked.path.carried.items():
        m = by_id[name]
        if m.kind is not kinds.BEAM:
            continue
        own = tuple(q * m.length for q in m.carrier.line)
        down = total([own, *(p.forces for p in parcels)])
        up = total(checked.path.reactions[name])
        assert list(up) == pytest.approx(list(down), rel=1e-9, abs=1e-6), name


def test_a_beam_that_was_taken_away_leaves_an_open_end() -> None:
    from balken.model.edits import change_member

    project = ferry_hall()
    name = the("bay:Y1/beam:1")
    checked = work_out(change_member(project, name, removed=True))
    assert all(m.id != name for m in checked.structure.members)
    assert sum(e.forces.live for e in checked.path.open_ends) > 0
