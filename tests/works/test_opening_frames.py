"""The frame round an opening changed by hand, through its slip: header, jacks, kings and sills of one
opening, which stay so; openings under one header change together; what is then too little is told."""

import pytest
from msgspec.structs import replace

from balken.fit.advice import ADVICE
from balken.fit.findings import findings
from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.member import Member
from balken.model.edits.openings import set_opening
from balken.model.edits.wall_frames import frame_walls, leave_unframed
from balken.model.names import HostName, ThingName
from balken.model.project import Project, wall
from balken.model.walls import Opening
from balken.session.building import Building
from balken.session.desk import Desk
from balken.session.rows import Link, Options
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.site.wall_weights import is_masonry
from balken.units import FOOT, INCH
from balken.works.building import Checked, work_out
from buildings import house

SOUTH = "W11"


def windows(*at: float, wide: float = 4 * FOOT, metric: bool = False) -> Project:
    """A house with windows of one height in its south wall."""
    project = house(system="metric" if metric else "us")
    holes = tuple(
        Opening(f"O{n}", "window", place, wide, 4 * FOOT, 32 * INCH) for n, place in enumerate(at)
    )
    project = replace(
        project,
        walls=tuple(replace(w, openings=holes if w.id == SOUTH else ()) for w in project.walls),
    )
    return frame_walls(leave_unframed(project), is_masonry)


def mine(done: Checked, kind: MemberKind) -> list[Member]:
    return done.structure.in_host(HostName("wall", SOUTH), kind)


def at_desk(project: Project, opening: int = 0) -> Desk:
    desk = Desk(Building(project), THINGS)
    desk.select(ThingName("opening", SOUTH, wall(project, SOUTH).openings[opening].id))
    return desk


def choose(desk: Desk, row: str, value: object) -> None:
    """Choose on the slip as a person does; what is not offered cannot be chosen."""
    options = next(r for r in rows_of(desk) if isinstance(r, Options) and r.name == row)
    assert value in [v for _, v in options.values]
    options.choose(value)


@pytest.mark.parametrize(("metric", "section"), [(False, "2-2x10"), (True, "2-38x235")])
def test_one_header_is_held_and_the_others_are_as_calculated(metric: bool, section: str) -> None:
    desk = at_desk(windows(6 * FOOT, 20 * FOOT, metric=metric))
    before = {m.id.row: m.section for m in mine(desk.checked, kinds.WALL_HEADER)}
    choose(desk, "header cut from", section)
    after = {m.id.row: m.section for m in mine(desk.checked, kinds.WALL_HEADER)}
    changed, other = (o.id for o in wall(desk.project, SOUTH).openings)
    assert before[changed] != section
    assert (after[changed], after[other]) == (section, before[other])
    choose(desk, "header cut from", "")
    assert {m.id.row: m.section for m in mine(desk.checked, kinds.WALL_HEADER)} == before


def test_jacks_stay_as_typed_and_the_header_bears_on_them() -> None:
    """Three jacks of 1 1/2 in at each side: 4 1/2 in of bearing."""
    desk = at_desk(windows(6 * FOOT))
    choose(desk, "jacks at each side", 3)
    assert len(mine(desk.checked, kinds.JACK)) == 6
    (header,) = mine(desk.checked, kinds.WALL_HEADER)
    assert header.carrier.supports[0].length == pytest.approx(4.5 * INCH)
    item = wall(desk.project, SOUTH)
    edited = set_opening(desk.project, ThingName("opening", SOUTH, item.openings[0].id), width=1500)
    assert len([m for m in work_out(edited).structure.of(kinds.JACK) if m.host.key == SOUTH]) == 6


def test_sills_of_one_opening() -> None:
    desk = at_desk(windows(6 * FOOT, 20 * FOOT))
    choose(desk, "sills", 2)
    first, second = wall(desk.project, SOUTH).openings
    counts = [m.id.row for m in mine(desk.checked, kinds.ROUGH_SILL)]
    assert (counts.count(first.id), counts.count(second.id)) == (2, 1)


def test_openings_under_one_header_change_together() -> None:
    """Two windows 3 in apart share a header: what is chosen on the slip of the second holds for it, with
    as many jacks at both far ends; one undo takes it back."""
    project = windows(6 * FOOT, 10.25 * FOOT)
    desk = at_desk(project, opening=1)
    assert len(mine(desk.checked, kinds.WALL_HEADER)) == 1
    choose(desk, "header cut from", "3-2x12")
    choose(desk, "jacks at each side", 2)
    (header,) = mine(desk.checked, kinds.WALL_HEADER)
    assert header.section == "3-2x12"
    depth = header.solid.bounds()[1][2] - header.solid.bounds()[0][2]
    assert depth == pytest.approx(11.25 * INCH)
    ends = {m.id.piece for m in mine(desk.checked, kinds.JACK) if m.id.piece[0] in "lr"}
    assert ends == {"l1", "l2", "r1", "r2"}
    desk.undo()
    desk.undo()
    assert desk.project == project


def test_both_ends_of_a_shared_header_get_the_jacks_it_needs() -> None:
    """Before, the far end of a header over two openings stood on one jack whatever came down."""
    project = windows(6 * FOOT, 12.25 * FOOT, wide=6 * FOOT)
    done = work_out(project)
    (header,) = mine(done, kinds.WALL_HEADER)
    pieces = [m.id.piece for m in mine(done, kinds.JACK) if m.id.row == header.id.row]
    left = sum(p.startswith("l") for p in pieces)
    assert left == sum(p.startswith("r") for p in pieces)


def test_a_header_held_too_small_is_a_finding_whose_mend_frees_it() -> None:
    desk = at_desk(windows(6 * FOOT, wide=9 * FOOT))
    choose(desk, "header cut from", "2-2x6")
    choose(desk, "jacks at each side", 1)
    (header,) = mine(desk.checked, kinds.WALL_HEADER)
    assert desk.checked.used[header.id][0] > 1.0
    told = next(f for f in findings(desk.checked) if header.id in f.members and f.mend)
    assert told.mend is not None
    done = work_out(told.mend.apply(desk.project))
    (header,) = mine(done, kinds.WALL_HEADER)
    assert done.used[header.id][0] <= 1.0 + 1e-9


def test_a_jack_that_carries_too_much_is_offered_another() -> None:
    desk = at_desk(windows(6 * FOOT))
    jack = mine(desk.checked, kinds.JACK)[0]
    mend = ADVICE[kinds.JACK].mend(desk.checked, jack)
    assert mend is not None
    assert "2 jacks" in mend.text
    assert len(mine(work_out(mend.apply(desk.project)), kinds.JACK)) == 4


@pytest.mark.parametrize(
    ("kind", "row"),
    [
        (kinds.WALL_HEADER, "header cut from"),
        (kinds.JACK, "jacks at each side"),
        (kinds.KING, "kings at each side"),
        (kinds.ROUGH_SILL, "sills"),
    ],
)
def test_what_is_about_a_piece_stands_on_its_slip(kind: MemberKind, row: str) -> None:
    desk = at_desk(windows(6 * FOOT))
    desk.select(mine(desk.checked, kind)[0].id)
    rows = list(rows_of(desk))
    assert [r.name for r in rows if isinstance(r, Options)] == [row]
    next(r for r in rows if isinstance(r, Link) and r.text == "all round it").press()
    assert desk.selection == ThingName("opening", SOUTH, "O0")
