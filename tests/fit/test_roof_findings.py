"""What the fit list says of roofs, and that its mends mend."""

import pytest
from msgspec.structs import replace

from balken.design.thrust import push_of, raised_factor
from balken.design.truss_forces import tie_force
from balken.fit.finding import Finding
from balken.fit.findings import findings
from balken.framing import kinds
from balken.geometry.plane import Ring
from balken.model.edits.hosts import remove_host
from balken.model.edits.roofs import add_roof_opening, set_roof
from balken.model.names import family_of
from balken.model.project import Project
from balken.model.roofs import Rafters, RoofSide
from balken.units import FOOT, INCH, PSF, PSI
from balken.works.building import checks_of, work_out
from balken.works.terms import terms_of
from balken.works.thrust import thrust_of
from buildings import house, walled
from named import the
from roof_forms import CROSS, ELL, TEE, YOU


def told(project: Project) -> list[Finding]:
    return [f for f in findings(work_out(project)) if str(f.host).startswith("roof:")]


def only(project: Project, word: str) -> Finding:
    found = [f for f in told(project) if word in f.text]
    assert len(found) == 1, [f.text for f in told(project)]
    return found[0]


def test_a_plain_roof_says_nothing(plain: Project) -> None:
    assert told(plain) == []


def test_rafters_that_nothing_ties_push_their_walls_apart(plain: Project) -> None:
    loose = remove_host(plain, the("floor:C1"))
    found = only(loose, "push its walls apart")
    assert found.mend is not None
    assert not [f for f in told(found.mend.apply(loose)) if "push" in f.text]
    checked = work_out(loose)
    rafter = checked.structure.of(kinds.RAFTER)[4]
    force, name, _ = push_of(terms_of(checked.project), checked.project.roofs[0], rafter)
    # IRC R802.5.2, its statics: w L² / 8 h. Rafters at the spacing, dead load on the slope, snow;
    # half the clear run to the middle of the seat.
    spacing = checked.sizes[the("roof:R1")].size.spacing
    w = (10 * PSF * 1.118034 + 25 * PSF) * spacing
    half = 13 * FOOT - 0.75 * INCH - 1.75 * INCH
    assert name == "D + S"
    assert force == pytest.approx(tie_force(w, 2 * half, half / 2), rel=0.01)
    tied = thrust_of(work_out(plain).built, work_out(plain).structure, plain.roofs[0])
    assert tied is not None
    assert tied.tied_by == "Ceiling"


def test_a_flat_roof_needs_a_ridge_that_carries(plain: Project) -> None:
    flat = set_roof(plain, "R1", rise=2.0)
    found = only(flat, "under 3 in 12")
    assert found.mend is not None
    assert not [f for f in told(found.mend.apply(flat)) if "under 3 in 12" in f.text]


def test_a_birdsmouth_deeper_than_a_quarter_is_told_with_how_much(plain: Project) -> None:
    deep = set_roof(plain, "R1", section="2x6", seat=4.5 * INCH, rise=8.0)
    found = only(deep, "birdsmouth")
    # 4½ in level at 8 in 12 is 2.496 in deep; a quarter of 5½ in is 1.375.
    assert found.amount == pytest.approx((4.5 * 0.5547 - 1.375) * INCH, abs=0.3)
    assert found.mend is not None
    assert not [f for f in told(found.mend.apply(deep)) if "birdsmouth" in f.text]


def test_a_heel_above_the_rafters_is_a_gap_with_its_height(plain: Project) -> None:
    found = only(set_roof(plain, "R1", section="2x8", heel=300.0), "end")
    assert found.kind == "gap"
    assert found.amount == pytest.approx(300.0 - 7.25 * INCH * 1.118034, abs=0.5)


@pytest.mark.parametrize(
    ("at", "words"),
    [
        ((18 * FOOT, 12.9 * FOOT), "reach past"),
        ((60 * FOOT, 5 * FOOT), "no plane"),
        ((18 * FOOT, 0.5 * FOOT), "reach past"),
    ],
)
def test_a_skylight_across_a_line_is_left_out_and_said(
    plain: Project, at: tuple[float, float], words: str
) -> None:
    made, _ = add_roof_opening(plain, "R1", at, (900.0, 1200.0))
    found = only(made, "is left out")
    assert words in found.text
    assert found.at == at
    assert not [
        m
        for m in work_out(made).structure.members
        if m.kind in (kinds.TRIMMER, kinds.HEADER) and m.host == the("roof:R1")
    ]
    assert found.mend is not None
    assert found.mend.apply(made) == plain


def test_a_roof_that_runs_on_to_nothing_is_told(plain: Project) -> None:
    assert (
        only(
            set_roof(plain, "R1", sides=(RoofSide("W12", "runs on"), RoofSide("W14", "gable"))),
            "no other roof",
        ).kind
        == "gap"
    )


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        (
            {"sides": tuple(RoofSide(f"W1{i}", "gable") for i in range(1, 5))},
            "every one is a gable",
        ),
        ({"ridge": 90000.0}, "hold the pitch"),
        (
            {
                "sides": (RoofSide("W11", overhang=3000.0), RoofSide("W13", "gable", overhang=0.0)),
                "corners": ((0.0, 0.0), (9000.0, 9000.0), (9000.0, 0.0), (0.0, 9000.0)),
            },
            "cross",
        ),
    ],
)
def test_what_has_no_roof_is_told_and_nothing_is_lost(
    plain: Project, fields: dict[str, object], words: str
) -> None:
    made = set_roof(plain, "R1", **fields)
    found = only(made, "is not framed")
    assert words in found.text
    checked = work_out(made)
    assert list(checked.path.soil_total) == pytest.approx(list(checked.path.applied), rel=1e-6)


def test_a_hip_roof_over_a_square_house_says_nothing() -> None:
    assert told(set_roof(house(24 * FOOT, 24 * FOOT), "R1", sides=())) == []


def test_ties_hold_the_feet_of_rafters_in_the_lower_third_only() -> None:
    """IRC 2021 R802.5.2; the factor on the span of rafters whose ties lie a quarter of the rise up
    is 0.76 (from memory)."""
    untied = remove_host(house(), the("floor:C1"))
    assert only(untied, "push its walls apart")
    assert not told(set_roof(untied, "R1", rafters=Rafters(ties="each")))
    high = set_roof(untied, "R1", rafters=Rafters(ties="each", tie_up=1500.0))
    found = only(high, "the lower third")
    assert found.mend is not None
    assert found.mend.apply(high).roofs[0].rafters.tie_up == 0.0
    assert raised_factor(1.0, 4.0) == 0.76
    assert raised_factor(1.0, 7.5) == 1.0
    assert raised_factor(1.01, 3.0) == 0.0


def test_a_tie_pulls_what_its_pairs_push() -> None:
    """Ft of 2x8 DF-L No.2: 575 psi times 1.2 for the size (NDS Supp. table 4A, from memory)."""
    checked = work_out(
        set_roof(
            house(), "R1", section="2x8", spacing=24 * INCH, rafters=Rafters(ties="every second")
        )
    )
    ties = checked.structure.of(kinds.TIE)
    (check,) = checks_of(checked, ties[3])
    rafter = next(
        m
        for m in checked.structure.of(kinds.RAFTER)
        if m.id == replace(ties[3].id, family="rafter")
    )
    force, name, _ = push_of(terms_of(checked.built), checked.built.roofs[0], rafter)
    duration = 1.15 if "S" in name else 1.25
    area = 1.5 * 7.25 * INCH**2
    pairs = (
        sum(
            m.id.family == "rafter" and family_of(m.carrier.supports[-1].on) == "ridge"
            for m in checked.structure.of(kinds.RAFTER)
        )
        / 2
    )
    assert check.ratio == pytest.approx(
        force * pairs / len(ties) / area / (575 * PSI * 1.2 * duration), rel=1e-6
    )


@pytest.mark.parametrize(("ring", "gable"), [(ELL, "W1"), (TEE, "W1"), (YOU, "W2"), (CROSS, "W0")])
def test_a_truss_roof_over_wings_is_divided_with_beams_where_they_open(
    ring: Ring, gable: str
) -> None:
    """One act: roofs over rectangles whose wings run on to the main one; every load still reaches
    the soil."""
    project = walled(ring, sides=(RoofSide(gable, "gable"),), framing="trusses")
    before = {f.text for f in told(project)}
    found = only(project, "trusses are set out over rectangles")
    assert found.mend is not None
    made = found.mend.apply(project)
    checked = work_out(made)
    assert len(made.roofs) == {6: 2, 8: 2 if ring == TEE else 3, 12: 3}[len(ring)]
    assert all(
        any(
            m.host == the(f"roof:{r.id}") and m.kind is kinds.BOTTOM_CHORD
            for m in checked.structure.members
        )
        for r in made.roofs
    )
    assert [s.kind for r in made.roofs for s in r.sides].count("runs on") == len(made.roofs) - 1
    assert any(s == RoofSide(gable, "gable") for r in made.roofs for s in r.sides), (
        "what was said of a side is still said"
    )
    assert len(checked.structure.of(kinds.BEAM)) == len(made.roofs) - 1
    news = [f.text for f in told(made) if f.text not in before and "joist" not in f.text]
    assert not [t for t in news if "nothing" in t or "not framed" in t], news
    assert list(checked.path.soil_total) == pytest.approx(
        list(checked.path.applied), rel=1e-6, abs=1.0
    )
