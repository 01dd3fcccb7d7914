"""Quick spans against the printed tables, and sizing against trying everything."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from balken.design.sizing import Sized
from balken.design.spans import SpanAsked, find_span, span_limits, which_table
from balken.exchange.span_text import SpanError, answer, read_question
from balken.fit.findings import findings
from balken.model.catalogue import catalogue_of
from balken.model.edits import set_floor
from balken.model.project import Project, level
from balken.units import FOOT, INCH, PSF
from balken.works.building import is_over, work_out, worst_of
from balken.works.settling import settle
from buildings import house
from named import the

US = catalogue_of("us").sections

# IRC 2021 table R502.3.1(2): 40 psf live, 10 psf dead, L/360, in feet and inches (from memory).
JOISTS_40 = [
    ("DF-L", "No.2", "2x8", 16, (12, 9)),
    ("DF-L", "No.2", "2x10", 16, (15, 7)),
    ("DF-L", "No.2", "2x12", 16, (18, 1)),
    ("DF-L", "No.2", "2x10", 12, (18, 0)),
    ("DF-L", "No.2", "2x6", 16, (9, 9)),
    ("HF", "No.2", "2x10", 16, (15, 2)),
    ("SPF", "No.2", "2x10", 16, (15, 5)),
    ("SP", "No.2", "2x10", 16, (14, 0)),
]
# IRC 2021 table R502.3.1(1): 30 psf live, 10 psf dead (from memory).
JOISTS_30 = [
    ("DF-L", "No.2", "2x10", 16, (17, 5)),
    ("SPF", "No.2", "2x8", 16, (13, 6)),
    ("HF", "No.2", "2x8", 16, (13, 2)),
]


def asked(
    species: str, grade: str, size: str, spacing: float, live: float, **more: object
) -> SpanAsked:
    return SpanAsked(
        "joist", species, grade, US[size], spacing * INCH, live * PSF, 10 * PSF, **more
    )  # type: ignore[arg-type]


@pytest.mark.parametrize("cell", JOISTS_40)
def test_floor_joists_for_40_psf(cell: tuple[str, str, str, int, tuple[int, int]]) -> None:
    species, grade, size, spacing, (feet, inches) = cell
    found = find_span(asked(species, grade, size, spacing, 40))
    assert found.table == pytest.approx((feet * 12 + inches) * INCH), found.table_name
    assert found.table_name == "IRC 2021 R502.3.1(2)"


@pytest.mark.parametrize("cell", JOISTS_30)
def test_floor_joists_for_30_psf(cell: tuple[str, str, str, int, tuple[int, int]]) -> None:
    species, grade, size, spacing, (feet, inches) = cell
    assert find_span(asked(species, grade, size, spacing, 30)).table == pytest.approx(
        (feet * 12 + inches) * INCH
    )


def test_tables_answer_only_what_they_hold() -> None:
    assert which_table(asked("DF-L", "No.2", "2x10", 16, 50))[0] is None
    assert which_table(asked("DF-L", "Stud", "2x10", 16, 40))[0] is None
    assert which_table(asked("DF-L", "No.2", "4x10", 16, 40))[0] is None
    assert which_table(asked("DF-L", "No.2", "2x10", 15, 40))[0] is None
    assert which_table(asked("DF-L", "No.2", "2x10", 16, 40, wet=True))[0] is None
    long = find_span(asked("DF-L", "SS", "2x12", 12, 30, live_limit=360.0))
    assert long.table is None or long.table <= 26 * FOOT


@settings(max_examples=60)
@given(
    st.sampled_from(["DF-L", "HF", "SPF", "SP"]),
    st.sampled_from(["2x6", "2x8", "2x10", "2x12"]),
    st.floats(8, 24),
    st.floats(5, 120),
    st.floats(100, 700),
    st.booleans(),
)
def test_at_the_engineered_span_one_check_is_used_up(
    species: str, size: str, spacing: float, live: float, limit: float, wet: bool
) -> None:
    """The closed-form limits and the array function that checks buildings must agree at the span
    they give."""
    found = find_span(asked(species, "No.2", size, spacing, live, live_limit=limit, wet=wet))
    ratios = {c.name: c.ratio for c in found.checks}
    assert max(ratios.values()) == pytest.approx(1.0, abs=1e-6)
    assert ratios[found.governing] == pytest.approx(1.0, abs=1e-6)


def test_longer_than_each_limit_fails_that_check() -> None:
    limits = span_limits(asked("HF", "No.2", "2x10", 16, 40))
    assert limits.governing()[0] == "Bending"
    assert limits.bending < limits.live_deflection < limits.total_deflection < limits.shear


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"species": "oak"}, "no design values for species"),
        ({"grade": "9"}, "no grade"),
        ({"size": "2x11"}, "no size"),
        ({"spacing": "abc"}, "not a length"),
        ({"spacing": "50ft"}, "makes no floor"),
        ({"live": "many"}, "not an area load"),
        ({"live": "0psf", "dead": "0psf"}, "Without any load"),
        ({"snow": "30psf"}, "Only rafters"),
        ({"limit": -1.0}, "--limit"),
        ({"total_limit": float("nan")}, "--total-limit"),
    ],
)
def test_questions_that_cannot_be_read(change: dict[str, object], words: str) -> None:
    question: dict[str, object] = {
        "member": "joist",
        "species": "DF-L",
        "grade": "2",
        "size": "2x10",
        "spacing": "16in",
        "live": "40psf",
        "snow": None,
        "dead": "10psf",
        "limit": None,
        "total_limit": None,
        "wet": False,
        "incised": False,
        "units": None,
    }
    with pytest.raises(SpanError, match=words):
        read_question(**{**question, **change})  # type: ignore[arg-type]


def test_answers_in_words_in_both_systems() -> None:
    question: dict[str, object] = {
        "member": "joist",
        "species": "Hem-Fir",
        "grade": "No. 2",
        "size": "38x235",
        "spacing": "400mm",
        "live": "1.9kPa",
        "snow": None,
        "dead": "0.5kPa",
        "limit": None,
        "total_limit": None,
        "wet": False,
        "incised": False,
        "units": None,
    }
    text = answer(as_json=False, **question)
    assert "engineered span" in text
    assert "kN/m" in text
    assert "table span       none" in text
    table = answer(as_json=False, **{**question, "size": None, "spacing": None, "units": "metric"})
    assert "38x286" in table
    assert "600" in table


def best_by_trying(project: Project, sized: Sized) -> tuple[float, str, float]:
    """Hold every size at every spacing by hand and see, member by member, which passes at least
    cost."""
    build_up = project.build_ups[0]
    sections = catalogue_of("us").sections
    found = []
    for size in build_up.sizes:
        for spacing in build_up.spacings:
            if sections[size].depth > sized.allowed + 1:
                continue
            checked = work_out(set_floor(project, "F1", section=size, spacing=spacing))
            if not is_over(worst_of(checked, the("floor:F1"))[0]):
                cost = next(
                    c.cost for c in sized.choices if (c.section, c.spacing) == (size, spacing)
                )
                found.append((cost, size, spacing))
    return min(found)


@pytest.mark.parametrize("width", [16, 26, 30])
def test_sizing_finds_what_trying_everything_finds(width: int) -> None:
    project = house(36 * FOOT, width * FOOT)
    sized = work_out(project).sizes[the("floor:F1")]
    _, size, spacing = best_by_trying(project, sized)
    assert (sized.size.section, sized.size.spacing) == (size, spacing)


def test_the_proposed_foundation_leaves_no_gap(plain: Project) -> None:
    assert [f for f in findings(work_out(plain)) if f.kind in ("gap", "overlap")] == []
    assert settle(plain) == plain


def test_where_nothing_is_strong_enough_the_strongest_is_shown_and_said() -> None:
    project = set_floor(house(40 * FOOT, 30 * FOOT), "F1", live=400 * PSF)
    checked = work_out(project)
    assert worst_of(checked, the("floor:F1"))[0] > 1
    over = [f for f in findings(checked) if f.kind == "over" and f.host == the("floor:F1")]
    assert len(over) == 1
    assert over[0].amount == pytest.approx(worst_of(checked, the("floor:F1"))[0])


def test_held_by_hand_wins_over_the_calculation(plain: Project) -> None:
    held = work_out(set_floor(plain, "F1", section="2x12", spacing=12 * INCH))
    assert (held.sizes[the("floor:F1")].size.section, held.sizes[the("floor:F1")].size.spacing) == (
        "2x12",
        12 * INCH,
    )
    assert level(plain, "L1").elevation == 0.0
