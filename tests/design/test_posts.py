"""Posts of a building: what they carry from their beams, checked by the code of what they are made
of."""

import pytest

from balken.framing import kinds
from balken.framing.member import Member
from balken.model.cases import Cases
from balken.model.catalogue import sections_of
from balken.model.edits import change_member
from balken.model.edits.beams import set_beams
from balken.model.edits.floors import add_opening
from balken.model.edits.supports import put_support, set_supports
from balken.model.product_rows import WOOD_WEIGHT
from balken.model.project import Project
from balken.session.ferry_hall import ferry_hall
from balken.works.building import checks_of, work_out
from balken.works.carrying import next_section
from named import the

HALL = ferry_hall()


def post_at(project: Project, lines: tuple[str, str]) -> tuple[str, Member]:
    item = next(s for s in project.point_supports if s.kind == "post" and s.lines == lines)
    checked = work_out(project)
    return item.id, next(
        m for m in checked.structure.members if m.host == the(f"support:{item.id}")
    )


def test_a_post_carries_the_ends_of_its_beams() -> None:
    checked = work_out(HALL)
    _, post = post_at(HALL, ("A2", "N2"))
    on = sum(
        sum(forces.down)
        for m in checked.structure.members
        if m.id in checked.path.reactions
        for s, forces in zip(m.carrier.supports, checked.path.reactions[m.id])
        if s.on == post.id
    )
    own = post.solid.volume * WOOD_WEIGHT
    assert sum(checked.path.onto[post.id].down) == pytest.approx(on + own, rel=1e-3)
    (check,) = checks_of(checked, post)
    assert check.clause == "EN 1995-1-1 6.3.2"
    load = next(s.value for s in check.lines if s.symbol == "P")
    allowed = next(s.value for s in check.lines if s.symbol == "P allowed")
    assert check.ratio == pytest.approx(load / allowed)


@pytest.mark.parametrize(
    ("section", "clause"),
    [
        ("SHS 140x6", "EN 1993-1-1 6.3.1"),
        ("140x140", "EN 1995-1-1 6.3.2"),
        ("3-38x140", "EN 1995-1-1 6.3.2"),
    ],
)
def test_a_post_is_checked_by_the_code_of_what_it_is_made_of(section: str, clause: str) -> None:
    key, _ = post_at(HALL, ("A1", "N1"))
    species = {} if section.startswith("SHS") else {"species": "softwood", "grade": "C30"}
    size = sections_of("metric")[section]
    project = set_supports(HALL, [key], section=section, size=(size.breadth, size.depth), **species)
    checked = work_out(project)
    post = next(m for m in checked.structure.members if m.host == the(f"support:{key}"))
    (check,) = checks_of(checked, post)
    assert check.clause == clause


def test_a_slender_post_is_told() -> None:
    key, _ = post_at(HALL, ("A2", "N2"))
    project = set_supports(HALL, [key], section="SHS 80x5", size=(80.0, 80.0))
    checked = work_out(project)
    post = next(m for m in checked.structure.members if m.host == the(f"support:{key}"))
    assert checked.used[post.id][0] > 1.0


def test_a_post_over_a_beam_hands_its_load_to_it() -> None:
    gallery = next(x.id for x in HALL.levels if x.name == "Gallery")
    project = put_support(
        HALL,
        "post",
        (9000.0, 0.0),
        base="P1",
        top=gallery,
        top_offset=2000.0,
        loads=Cases(20e3, 0.0, 0.0, 0.0),
        size=(120.0, 120.0),
    )
    checked = work_out(project)
    new = project.point_supports[-1].id
    assert any(
        p.source == the(f"support:{new}/post:1")
        for p in checked.path.carried[the("beam:B2/beam:1")]
    )
    assert not checked.path.open_ends


def test_the_next_stronger_piece_carries_what_the_weak_one_does_not() -> None:
    checked = work_out(set_beams(HALL, [the("beam:B6")], section="GL 140x400"))
    beam = next(m for m in checked.structure.members if m.id == the("beam:B6/beam:1"))
    stronger = next_section(checked, beam)
    assert stronger is not None
    after = work_out(set_beams(HALL, [the("beam:B6")], section=stronger))
    assert after.used[the("beam:B6/beam:1")][0] <= 1.0


def test_headers_get_as_many_plies_as_they_need_and_no_more() -> None:
    project, _ = add_opening(HALL, "F1", "shaft", at=(9900.0, 8600.0), size=(1000.0, 600.0))
    checked = work_out(project)
    new = [m for m in checked.structure.members if m.kind is kinds.HEADER and ":O2" in str(m.id)]
    assert {m.section for m in new} == {"38x235"}
    heavy = work_out(change_member(project, new[0].id, section="3-38x235"))
    kept = next(m for m in heavy.structure.members if m.id == new[0].id)
    assert (kept.section, kept.touched) == ("3-38x235", True)
