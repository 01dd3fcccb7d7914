"""Fasteners as demands: hung ends, ends that lift, feet that push; and what is chosen against them."""

import pytest

from balken.fit.findings import findings
from balken.framing.hosts.walls import rule_of
from balken.model.edits.common import EditError
from balken.model.edits.fasteners import choose_fastener
from balken.model.names import HostName, MemberName
from balken.model.project import wall
from balken.model.walls import wall_length
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.units import LB
from balken.works.building import Checked, work_out
from balken.works.fasteners import demands_of


@pytest.fixture(scope="module", params=[shown_demo, ferry_hall], ids=["bakehouse", "ferry hall"])
def checked(request: pytest.FixtureRequest) -> Checked:
    return work_out(request.param())


def test_every_hung_end_that_carries_is_a_hanger(checked: Checked) -> None:
    asked = {(d.what, d.on) for d in demands_of(checked) if d.use == "hanger"}
    hung = {
        (m.id, s.on)
        for m in checked.structure.members
        for i, s in enumerate(m.carrier.supports)
        if s.hung and m.id in checked.path.reactions and checked.path.reactions[m.id][i].dead > 0
    }
    assert asked == hung
    assert asked


def test_a_hanger_holds_the_reaction_by_the_worst_sum() -> None:
    """D + L of a joist that hangs: what its end hands on (ASCE 7-16 2.4.1); 1.35 G + 1.5 L."""
    for project, dead, live in ((shown_demo(), 1.0, 1.0), (ferry_hall(), 1.35, 1.5)):
        found = work_out(project)
        d = next(x for x in demands_of(found) if x.use == "hanger" and x.what.host.kind == "floor")
        ends = found.path.reactions[d.what]
        sums = [dead * e.dead + live * e.live for e in ends]
        assert any(d.force == pytest.approx(s, rel=1e-6) for s in sums)


def test_straps_are_what_lifts(checked: Checked) -> None:
    straps = [d for d in demands_of(checked) if d.use == "strap"]
    studs = [d for d in straps if isinstance(d.what, MemberName) and d.what.family == "wall stud"]
    asked = {d.force for d in straps if d not in studs}
    lifted = {s.force for s in checked.straps if hasattr(s.what, "family")}
    assert asked <= lifted
    walls = {s.what: s.force for s in checked.straps if isinstance(s.what, HostName)}
    for d in studs:  # of a wall that lifts, by the spacing of its studs
        item = wall(checked.built, d.what.host.key)
        rule = rule_of(checked.built, item)
        assert rule is not None
        assert d.force == pytest.approx(walls[d.what.host] * rule.spacing / wall_length(item))


def test_what_is_too_weak_is_told_with_how_much_it_lacks() -> None:
    project = shown_demo()
    most = max(d.force for d in demands_of(work_out(project)) if d.use == "hanger")
    strong = work_out(choose_fastener(project, "hanger", "H1", most))
    assert not any("Hangers" in f.text for f in findings(strong))
    weak = work_out(choose_fastener(project, "hanger", "H1", most / 2))
    (told,) = [f for f in findings(weak) if f.text.startswith("Hangers")]
    assert told.amount == pytest.approx(2.0)
    assert told.kind == "over"
    assert "H1 holds" in told.text
    gone = choose_fastener(weak.project, "hanger", "", None)
    assert gone.fasteners == ()


def test_a_fastener_that_holds_nothing_is_refused() -> None:
    with pytest.raises(EditError):
        choose_fastener(shown_demo(), "strap", "S", -5 * LB)
