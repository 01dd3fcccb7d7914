"""Strings through rooms, of beams and of layouts, the plan of a roof's planes, and the details of joints:
measured against what is built, worked out by hand for plain buildings."""

import pytest
from msgspec.structs import replace

from balken.drawing.cut import bodies_of, gathered
from balken.drawing.detail_places import places_of
from balken.drawing.details import detail_lines, detail_notes
from balken.drawing.layout_strings import LayoutString, layouts_of
from balken.drawing.marks import Label, Patch
from balken.drawing.plan import plan_frame
from balken.drawing.roof_planes_plan import (
    drained,
    faces_of,
    lines_of_roofs,
    roof_planes_notes,
)
from balken.drawing.room_strings import room_strings, rooms_of
from balken.drawing.tiers import Tier, tiers
from balken.framing import kinds
from balken.geometry.plane import Point, rotate
from balken.model.names import HostName, MemberName
from balken.model.walls import Wall
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.units import FOOT, INCH, parse_length
from balken.works.building import Checked, work_out
from buildings import house

THICK = 100.0


def a_wall(key: str, a: Point, b: Point, turn: float = 0.0) -> Wall:
    return Wall(key, key, rotate(a, turn), rotate(b, turn), THICK, "centre", "L1", "P1")


def three_rooms(turn: float = 0.0) -> tuple[Wall, ...]:
    """10 m by 6 m between the middles of its walls; a wall across at 4 m, and one from there to the right
    at 2.5 m."""
    corners = [(0.0, 0.0), (10000.0, 0.0), (10000.0, 6000.0), (0.0, 6000.0)]
    around = [
        a_wall(f"W{n}", a, b, turn)
        for n, (a, b) in enumerate(zip(corners, [*corners[1:], corners[0]]))
    ]
    return (
        *around,
        a_wall("A", (4000.0, 0.0), (4000.0, 6000.0), turn),
        a_wall("B", (4000.0, 2500.0), (10000.0, 2500.0), turn),
    )


@pytest.mark.parametrize("turn", [0.0, 0.3])
def test_strings_cross_every_wall_inside_once(turn: float) -> None:
    """By hand: along the building 3.9, 0.1 and 5.9 m; across it 2.4, 0.1 and 3.4 m: clear rooms and the walls
    between them."""
    along, across = rooms_of(three_rooms(turn), turn)
    gaps = [b - a for a, b in zip(along.places, along.places[1:])]
    assert gaps == pytest.approx([3900.0, 100.0, 5900.0])
    gaps = [b - a for a, b in zip(across.places, across.places[1:])]
    assert gaps == pytest.approx([2400.0, 100.0, 3400.0])
    assert (along.axis, across.axis) == (0, 1)
    assert not 2500.0 - THICK < along.at < 2500.0 + THICK, "it does not run in the wall beside it"


def test_a_storey_without_walls_inside_has_none() -> None:
    assert rooms_of(three_rooms()[:4], 0.0) == ()


def test_room_strings_are_on_the_plan_of_the_bakehouse() -> None:
    """26 ft deep, with a wall along its middle: the pieces add up to 26 ft less both walls outside."""
    done = work_out(shown_demo())
    tier = tier_of(done, "walls")
    frame = plan_frame(done, tier)
    assert frame is not None
    texts = [m.text for m in room_strings(done.project, tier, frame, 48.0) if isinstance(m, Label)]
    inside = next(w for w in done.project.walls if w.id == "W105")
    outside = next(w for w in done.project.walls if w.id == "W101")
    total = sum(parse_length(t, "us") for t in texts)
    assert total == pytest.approx(26 * FOOT - 2 * outside.thickness, abs=0.1 * INCH)
    assert any(
        parse_length(t, "us") == pytest.approx(inside.thickness, abs=0.05 * INCH) for t in texts
    )


def tier_of(done: Checked, kind: str) -> Tier:
    return next(t for t in tiers(done) if t.kind == kind)


def layout(done: Checked, kind: str) -> list[LayoutString]:
    tier = tier_of(done, kind)
    frame = plan_frame(done, tier)
    assert frame is not None
    return list(layouts_of(done, tier, frame).strings)


def test_joists_are_set_out_from_the_first_piece() -> None:
    """A floor 36 ft long at 16 in: 16 in spacings counted, and all pieces add up to the floor's length."""
    done = work_out(house())
    (string,) = layout(done, "floor")
    joists = [m for m in done.structure.of(kinds.JOIST) if m.host.kind == "floor"]
    spacing = done.sizes[joists[0].host].size.spacing
    counted = next(w for w in string.words if "×" in w)
    assert parse_length(counted.split("×")[1].split("=")[0], "us") == pytest.approx(
        spacing, abs=0.5
    )
    assert string.places[-1] - string.places[0] == pytest.approx(36 * FOOT, abs=2 * INCH)
    for (a, b), words in zip(zip(string.places, string.places[1:]), string.words):
        assert parse_length(words.rpartition("=")[2], "us") == pytest.approx(b - a, abs=1.0)


def test_beams_and_posts_off_the_grid_are_measured_from_its_lines() -> None:
    """The bakehouse: the beam of the wing stands 4 ft off line 3 and 8 ft off line 4, its posts 6'-6" and
    13'-6" past line C."""
    done = work_out(shown_demo())
    tier = next(t for t in tiers(done) if str(t.id).startswith("beams"))
    frame = plan_frame(done, tier)
    assert frame is not None
    words = [w for s in layouts_of(done, tier, frame).strings for w in s.words]
    for asked in ("4'-0\"", "8'-0\"", "6'-6\"", "7'-0\""):
        assert asked in words


def test_only_framing_plans_have_layouts() -> None:
    done = work_out(house())
    assert layout(done, "ground") == []
    assert layout(done, "walls") == []
    assert layout(done, "roof")


@pytest.mark.parametrize(
    "make", [shown_demo, ferry_hall, house], ids=["bakehouse", "hall", "house"]
)
def test_all_roof_drains_over_its_eaves(make: object) -> None:
    """In plan the areas of all planes, by the cross products of their corners, are what drains."""
    done = work_out(make())  # type: ignore[operator]
    tier = tier_of(done, "roof")
    faces, lines = faces_of(done, tier.hosts), lines_of_roofs(done, tier.hosts)

    def area(ring: tuple[Point, ...]) -> float:
        pairs = zip(ring, [*ring[1:], ring[0]])
        return abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in pairs)) / 2

    whole = sum(area(f.outline) - sum(area(h) for h in f.holes) for f in faces)
    over = drained(faces, lines)
    assert sum(x for _, x in over) == pytest.approx(whole, rel=1e-6)
    words = [m.text for m in roof_planes_notes(done, tier, 50.0) if isinstance(m, Label)]
    assert len([w for w in words if w.startswith("drains")]) >= min(2, len(over))


def test_half_of_a_gable_roof_drains_over_each_eave() -> None:
    done = work_out(house())
    tier = tier_of(done, "roof")
    over = drained(faces_of(done, tier.hosts), lines_of_roofs(done, tier.hosts))
    assert len(over) == 2
    assert over[0][1] == pytest.approx(over[1][1])


@pytest.mark.parametrize("make", [shown_demo, ferry_hall], ids=["bakehouse", "hall"])
def test_details_show_and_name_their_joint(make: object) -> None:
    """What each is about is cut in it and named; nothing reaches past its window."""
    done = work_out(make())  # type: ignore[operator]
    places = list(places_of(done, gathered(bodies_of(done))))
    about = {p.key.partition(":")[0] for p in places}
    assert {"detail", "seat", "trimmer"} <= about
    if any(m.kind is kinds.RAFTER for m in done.structure.members):
        names = {"seat": "post", "trimmer": "header", "step": "footing", "heel": "plate"}
    else:
        names = {"seat": "post", "trimmer": "header"}
    for place in places:
        lines = detail_lines(done, place)
        x0, z0, x1, z1 = place.window
        for m in lines:
            for x, z in m.ring if isinstance(m, Patch) else ():
                assert x0 - 1 <= x <= x1 + 1
                assert z0 - 1 <= z <= z1 + 1
        words = " ".join(m.text for m in detail_notes(done, lines, 8.0) if isinstance(m, Label))
        assert names.get(place.key.partition(":")[0], "concrete") in words, place.title


def test_the_bakehouse_steps_its_footing_in_a_detail() -> None:
    done = work_out(shown_demo())
    (step,) = [p for p in places_of(done, gathered(bodies_of(done))) if p.key.startswith("step:")]
    low = sorted({round(m.solid.bounds()[0][2], 3) for m in done.structure.of(kinds.FOOTING)})
    rise = parse_length(step.title.rpartition(", ")[2].removesuffix(" up"), "us")
    assert any(rise == pytest.approx(b - a, abs=1.0) for a in low for b in low)
    level = replace(done.project, runs=tuple(r for r in done.project.runs if r.id != "G1"))
    flat = work_out(level)
    assert not [p for p in places_of(flat, gathered(bodies_of(flat))) if p.key == "step:G1"]


def test_plates_and_studs_are_drawn_over_the_layers_of_their_wall() -> None:
    """Where a wall is cut its core is filled, and the wood in it is seen: what is drawn later lies above."""
    done = work_out(shown_demo())
    place = next(p for p in places_of(done, gathered(bodies_of(done))) if not p.small)
    cut = [m for m in detail_lines(done, place) if isinstance(m, Patch) and m.pen == "cut"]
    walls = [k for k, m in enumerate(cut) if isinstance(m.key, HostName)]
    plates = [
        k
        for k, m in enumerate(cut)
        if isinstance(m.key, MemberName) and m.key.family in ("top plate", "bottom plate")
    ]
    assert walls
    assert plates
    assert max(walls) < min(plates)
