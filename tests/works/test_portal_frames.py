"""Portal frames beside a garage door: framed, checked, and counted as table R602.10.5 of the IRC lets them
(cells from memory); just outside each condition they count nothing, and why is said."""

import pytest
from msgspec.structs import replace

from balken.design.codes.us.irc_walls import PortalPanel, portal_counts
from balken.errors import BalkenError
from balken.fit.advice import ADVICE
from balken.fit.findings import findings
from balken.framing import kinds
from balken.framing.member import Member
from balken.framing.walls.face import Face, Hole, LaidOut, Stick
from balken.framing.walls.layout import lay_out
from balken.model.edits import set_site
from balken.model.edits.openings import add_opening, set_opening
from balken.model.edits.wall_frames import OFFERED, frame_walls, rule_studs_of
from balken.model.names import HostName, ThingName
from balken.model.project import Project, wall, wall_base, wall_top
from balken.model.wall_frames import StudRule
from balken.model.walls import Opening, wall_length
from balken.model.wind import Wind
from balken.session.building import Building
from balken.session.desk import Desk
from balken.session.rows import Options
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.site.wall_weights import is_masonry
from balken.units import FOOT, INCH, MPH
from balken.works.bracing import braced_lines
from balken.works.bracing_opinions import bracing_opinions
from balken.works.building import Checked, checks_of, work_out
from balken.works.wall_studs import OnWalls
from buildings import house

T = 1.5 * INCH
TALL = 97.125 * INCH
PANEL = PortalPanel(24 * INCH, 9 * FOOT, 16 * FOOT, (3 * INCH, 11.25 * INCH), 7 / 16 * INCH, 1)


def laid(portal: str, at: float = 2 * FOOT, length: float = 20 * FOOT) -> LaidOut:
    hole = Hole("G", at, at + 16 * FOOT, 0.0, 80 * INCH, 11.25 * INCH, portal=portal)  # type: ignore[arg-type]
    return lay_out(Face(0.0, length, TALL, T, StudRule(), (hole,)))


def of(done: LaidOut, kind: object) -> list[Stick]:
    return [s for s in done.sticks if s.kind is kind]


def test_a_header_from_end_to_end_of_a_garage_front() -> None:
    """A door of 16 ft in a wall of 20 ft: the header runs the whole 20 ft; under it at each side two
    studs at the opening - a jack, and a king that ends at the header - and two at the wall's end."""
    done = laid("both")
    (header,) = of(done, kinds.WALL_HEADER)
    assert (header.low, header.high) == pytest.approx((0.0, 20 * FOOT))
    jacks = of(done, kinds.JACK)
    assert len(jacks) == 6
    assert {s.top for s in [*jacks, *of(done, kinds.KING)]} == {header.bottom}
    assert len(of(done, kinds.KING)) == 2
    studs = of(done, kinds.WALL_STUD)
    assert studs, "the stud of the layout at 16 in stands under the header"
    assert all(s.top == pytest.approx(header.bottom) for s in studs)
    assert not done.lacks


def test_at_one_side_alone_the_other_keeps_its_king() -> None:
    done = laid("start")
    (header,) = of(done, kinds.WALL_HEADER)
    assert header.high == pytest.approx(18 * FOOT + T)
    under = min(s.top for s in of(done, kinds.TOP_PLATE)) - T
    assert sorted(s.top for s in of(done, kinds.KING)) == pytest.approx([header.bottom, under])


def test_no_panel_is_told() -> None:
    """A panel of 4 in has no room for two studs at each of its edges."""
    done = laid("start", at=4 * INCH)
    assert [lack.short for lack in done.lacks] == pytest.approx([4.5 * INCH - 2.5 * INCH])
    assert of(done, kinds.WALL_HEADER)[0].low == pytest.approx(2.5 * INCH)


def test_a_long_panel_needs_no_portal() -> None:
    """A panel of 6 ft braces by itself: the header stays over its opening, and that is told."""
    done = laid("start", at=6 * FOOT, length=24 * FOOT)
    assert [(lack.short, lack.too_much) for lack in done.lacks] == [(pytest.approx(2 * FOOT), True)]
    assert of(done, kinds.WALL_HEADER)[0].low == pytest.approx(6 * FOOT - T)


def test_two_doors_share_no_panel() -> None:
    """Where both headers would run on over the panel between, the first does and the second is told."""
    holes = (
        Hole("A", 2 * FOOT, 11 * FOOT, 0.0, 80 * INCH, 11.25 * INCH, portal="end"),
        Hole("B", 14 * FOOT, 23 * FOOT, 0.0, 80 * INCH, 11.25 * INCH, portal="start"),
    )
    done = lay_out(Face(0.0, 25 * FOOT, TALL, T, StudRule(), holes))
    first, second = sorted(of(done, kinds.WALL_HEADER), key=lambda s: s.low)
    assert first.high == pytest.approx(14 * FOOT - 2 * T)
    assert second.low == pytest.approx(14 * FOOT - T)
    assert [lack.hole for lack in done.lacks] == ["B"]


@pytest.mark.parametrize(
    ("method", "length", "height", "over", "counts"),
    [
        ("WSP", 16, 8, 0, 48.0),
        ("WSP", 24, 10, 1, 48.0),
        ("CS-WSP", 16, 8, 1, 24.0),
        ("CS-WSP", 20, 10, 0, 30.0),
    ],
)
def test_what_a_portal_counts(
    method: str, length: float, height: float, over: int, counts: float
) -> None:
    panel = PANEL._replace(length=length * INCH, height=height * FOOT, storeys_over=over)
    assert portal_counts(method, panel) == pytest.approx(counts * INCH)  # type: ignore[arg-type]
    with pytest.raises(BalkenError, match="are there"):
        portal_counts(method, panel._replace(length=(length - 0.5) * INCH))  # type: ignore[arg-type]


@pytest.mark.parametrize(
    "outside",
    [
        {"storeys_over": 2},
        {"height": 10.1 * FOOT},
        {"clear": 18.1 * FOOT},
        {"header": (3 * INCH, 9.25 * INCH)},
        {"header": (2.5 * INCH, 11.25 * INCH)},
        {"thick": 3 / 8 * INCH},
    ],
)
def test_just_outside_a_portal_counts_nothing(outside: dict[str, object]) -> None:
    with pytest.raises(BalkenError):
        portal_counts("WSP", PANEL._replace(**outside))  # type: ignore[arg-type]


def garage(portal: str = "both") -> Project:
    """A house 26 ft wide with a door of 16 ft in its front, 4 ft panels too short at one side."""
    project = set_site(house(), wind=Wind(115 * MPH, "B"))
    front = project.walls[0]
    project = replace(project, walls=(replace(front, openings=()), *project.walls[1:]))
    at = wall_length(front) - 18 * FOOT
    project = add_opening(project, front.id, Opening("", "door", at, 16 * FOOT, 7 * FOOT, 0.0))
    project = frame_walls(project, is_masonry)
    rule = {"panels": OFFERED["us"][2], "header_section": "2-LVL 1-3/4x14"}
    project = rule_studs_of(project, [front.id], **rule)
    return set_opening(project, ThingName("opening", front.id, door(project)), portal=portal)


def door(project: Project) -> str:
    return project.walls[0].openings[0].id


def header_of(done: Checked) -> Member:
    host = HostName("wall", done.project.walls[0].id)
    return next(m for m in done.structure.in_host(host, kinds.WALL_HEADER))


def test_the_header_of_a_portal_is_checked_and_its_posts_bear() -> None:
    """It spans from post to post over the door as without the panel, since it folds over the posts: the
    panel takes nothing off its bending."""
    without, done = work_out(garage("")), work_out(garage("end"))
    plain, portal = header_of(without), header_of(done)
    assert portal.length > plain.length + FOOT
    assert len(portal.carrier.supports) == 3
    bending = [
        next(c.ratio for c in checks_of(x, m) if c.name == "Bending")
        for x, m in ((without, plain), (done, portal))
    ]
    assert bending[1] == pytest.approx(bending[0], rel=0.05)


def test_a_portal_counts_in_the_braced_line() -> None:
    done = work_out(garage("end"))
    said = [o for b in braced_lines(done) for o in bracing_opinions(done, b)]
    assert any("PFH" in o.words and "3,500 lb" in o.words for o in said if o.listed)
    without = work_out(garage(""))
    plain = [o for b in braced_lines(without) for o in bracing_opinions(without, b)]
    assert not any("PFH" in o.words for o in plain)


def test_a_shallow_header_is_told() -> None:
    project = garage("end")
    front = project.walls[0].id
    done = work_out(rule_studs_of(project, [front], header_section="2-2x10"))
    said = [o.words for b in braced_lines(done) for o in bracing_opinions(done, b)]
    assert any("3 x 11 1/4 in" in words for words in said)


def test_it_is_chosen_on_the_slip_of_the_door() -> None:
    project = garage("")
    desk = Desk(Building(project), THINGS)
    name = ThingName("opening", project.walls[0].id, door(project))
    desk.select(name)
    row = next(r for r in rows_of(desk) if isinstance(r, Options) and "runs on" in r.name)
    row.choose("end")
    assert wall(desk.project, name.key).openings[0].portal == "end"
    assert header_of(desk.checked).length > 17 * FOOT


def test_the_king_beside_the_door_takes_the_wind_on_half_of_it() -> None:
    """No stud from plate to plate stands beside the opening: the one under the header takes its wind."""
    done = work_out(garage("end"))
    host = HostName("wall", done.project.walls[0].id)
    faces = OnWalls(done.built, done.structure, done.path).of(host).faces
    right = next(n for n in faces if n.family == "king stud" and n.piece == "r1")
    assert faces[right] > 8 * FOOT


def test_a_header_that_runs_on_below_the_plates_is_told() -> None:
    """The wall can fold over it; not where its top meets the plates."""
    project = garage("end")
    front = project.walls[0]
    said = [f for f in findings(work_out(project)) if "R602.10.6.4" in f.text]
    under = wall_top(project, front) - wall_base(project, front) - 2 * 38.1
    gap = under - front.openings[0].height - 14 * INCH
    assert [f.amount for f in said] == pytest.approx([gap] if gap > 38 else [])
    up = set_opening(
        project, ThingName("opening", front.id, door(project)), height=under - 14 * INCH
    )
    assert not [f for f in findings(work_out(up)) if "R602.10.6.4" in f.text]


def test_two_kings_share_the_wind_and_a_mend_sets_them() -> None:
    one = work_out(garage(""))
    two = work_out(
        set_opening(
            one.project, ThingName("opening", one.project.walls[0].id, door(one.project)), kings=2
        )
    )

    def kings(done: Checked) -> list[Member]:
        return done.structure.in_host(HostName("wall", done.project.walls[0].id), kinds.KING)

    assert (len(kings(one)), len(kings(two))) == (2, 4)
    before = max(one.used[m.id][0] for m in kings(one))
    after = max(two.used[m.id][0] for m in kings(two))
    assert after < 0.7 * before
    mend = ADVICE[kinds.KING].mend(one, kings(one)[0])
    assert mend is not None
    assert mend.apply(one.project) == two.project
