"""Slabs on the ground under what stands on them, and grade beams between piers."""

import math

import pytest
from msgspec.structs import replace

from balken.design.codes import ground_by
from balken.design.grade_beams import moment_factor
from balken.design.slab_on_ground import Bed, pressure_under, stress_under, under_a_line
from balken.fit.findings import findings
from balken.framing import kinds
from balken.model.edits import set_run
from balken.model.edits.foundations import place_foundation
from balken.model.edits.supports import put_support, set_supports
from balken.model.foundations import Chosen
from balken.model.project import Project
from balken.session.building import Building
from balken.session.desk import Desk
from balken.session.rows import Options
from balken.session.slips import rows_of
from balken.session.things.register import THINGS
from balken.units import INCH, LB, PSI
from balken.works.building import Checked, checks_of, work_out
from buildings import house
from named import the

KIP = 1000 * LB
SLAB = Bed(6 * INCH, 3.6e6 * PSI, 100 * PSI / INCH)
"""6 in of E 3,600 ksi on k of 100 pci."""


def test_the_radius_of_relative_stiffness() -> None:
    """(E h³ / 12 (1 - μ²) k)^¼ with μ 0.15: 28.5 in... 4 000 000 psi, 10 in, 50 pci give 51 in
    (PCA thickness tables, from memory: 6 in of 4e6 psi on 100 pci, 29.3 in)."""
    pca = Bed(6 * INCH, 4e6 * PSI, 100 * PSI / INCH)
    assert pca.radius / INCH == pytest.approx(29.3, abs=0.15)


def test_stress_under_a_wheel_by_hand() -> None:
    """Westergaard: 10 kip on a round place of 6 in radius, h 6 in, ℓ 28.5 in: b 5.64 in, inside
    0.316 P / h² (4 log 28.5/5.64 + 1.069) = 341 psi; at an edge 0.572 P / h² (4 log + 0.359) = 504."""
    stiff = SLAB.radius / INCH
    b = math.sqrt(1.6 * 36 + 36) - 0.675 * 6
    inside = 0.316 * 10_000 / 36 * (4 * math.log10(stiff / b) + 1.069)
    edge = 0.572 * 10_000 / 36 * (4 * math.log10(stiff / b) + 0.359)
    force, radius = 10 * KIP, 6 * INCH
    assert stress_under(force, radius, SLAB, "inside") / PSI == pytest.approx(inside)
    assert inside == pytest.approx(341, abs=3)
    assert stress_under(force, radius, SLAB, "at an edge") / PSI == pytest.approx(edge)
    corner = 3 * 10_000 / 36 * (1 - (6 * math.sqrt(2) / stiff) ** 0.6)
    assert stress_under(force, radius, SLAB, "at a corner") / PSI == pytest.approx(corner)


def test_pressure_is_what_the_bed_gives_back() -> None:
    """Inside P / 8 ℓ²: all of it together, ∫ k w dA = P, spreads over some eight ℓ²."""
    assert pressure_under(8.0 * SLAB.radius**2, SLAB, "inside") == pytest.approx(1.0)


def test_a_line_on_a_bed_by_a_beam_on_springs() -> None:
    """Hetényi, against a row of a thousand springs solved one by one."""
    import numpy as np

    from balken.analysis.frames import Form, Frames, solve_frames

    line, step, count = 50.0, 20.0, 400
    nodes = np.array([[(i * step, 0.0) for i in range(count)]])
    # Springs as bars that stand on fixed joints.
    feet = np.array([[(i * step, -1000.0) for i in range(count)]])
    joints = np.concatenate([nodes, feet], axis=1)
    pieces = tuple((i, i + 1) for i in range(count - 1)) + tuple(
        (i, count + i) for i in range(count)
    )
    pinned = ((False, False),) * (count - 1) + ((True, True),) * count
    held = ((False, False, False),) * count + ((True, True, True),) * count
    held = ((True, False, False), *held[1:])
    form = Form(pieces, pinned, held)
    ei = np.array([[SLAB.stiffness] * (count - 1) + [1.0] * count])
    ea = np.array([[1e9] * (count - 1) + [SLAB.k * step * 1000.0] * count])
    loads = np.zeros((1, 1, 2 * count, 3))
    loads[0, 0, count // 2, 1] = -line
    solved = solve_frames(Frames(form, joints, ea, ei, loads, np.zeros((1, 1, len(pieces), 2, 2))))
    moment, pressure = under_a_line(line, SLAB)
    sag = -solved.moved[0, 0, count // 2, 1]
    assert SLAB.k * sag == pytest.approx(pressure, rel=0.02)
    assert np.abs(solved.ends[0, 0, : count - 1, 2]).max() == pytest.approx(moment, rel=0.05)


def test_both_codes_say_what_plain_concrete_takes() -> None:
    """0.6 · 5 √f'c (ACI 318-19 14.5.2.1): 164 psi of 3,000; 0.8 · 0.7 · 0.3 fck^⅔ / 1.5 (EN 1992-1-1
    12.3.1): 0.96 N/mm² of C25."""
    us, eu = ground_by("us", "A").on_ground, ground_by("eu", "A").on_ground
    assert us.flexure(3000 * PSI) / PSI == pytest.approx(0.6 * 5 * math.sqrt(3000))
    assert eu.flexure(25.0) == pytest.approx(0.96, abs=0.01)


def on_slab(load: float) -> Checked:
    """A post with a typed load in the middle of a slab on the ground."""
    project = replace(house(), runs=(), roofs=(), floors=())
    project = place_foundation(
        project, "slab", Chosen(slab=6 * INCH), walls=[w.id for w in project.walls]
    )
    project = put_support(project, "post", (4_000.0, 3_000.0))
    (post,) = project.point_supports
    from balken.model.cases import Cases

    return work_out(set_supports(project, [post.id], loads=Cases(live=load)))


def test_a_post_on_a_slab_is_checked_and_not_only_told() -> None:
    done = on_slab(8 * KIP)
    slab = done.structure.of(kinds.SLAB)[0]
    names = {c.name for c in checks_of(done, slab)}
    assert {"Bending under a post", "Punching", "Soil pressure"} <= names
    assert slab.id in done.used
    light, heavy = on_slab(2 * KIP).used[slab.id][0], on_slab(30 * KIP).used[slab.id][0]
    assert light < done.used[slab.id][0] < heavy
    assert heavy > 1
    assert any(f.kind == "over" and slab.id in f.members for f in findings(on_slab(30 * KIP)))


@pytest.mark.parametrize(
    ("clear", "factor"),
    [((3.0,), 1 / 8), ((3.0, 3.0), 1 / 9), ((3.0, 3.5, 3.0), 1 / 10), ((3.0, 3.7), 1 / 8)],
)
def test_moments_of_beams_on_piers(clear: tuple[float, ...], factor: float) -> None:
    """ACI 318-19 table 6.5.2; spans that differ by more than a fifth have none (6.5.1)."""
    assert moment_factor(clear) == pytest.approx(factor)


def between_piers(piers: tuple[float, ...] = (0.0, 0.5, 1.0)) -> Project:
    """A grade beam along the south wall of a house, on piers up to its underside, each on a pad."""
    project = replace(house(), runs=())
    south = min(project.walls, key=lambda w: w.start[1] + w.end[1])
    project = place_foundation(
        project, "grade beam", Chosen(beam=(300.0, 600.0), sill=""), walls=[south.id]
    )
    beam = work_out(project).structure.of(kinds.GRADE_BEAM)[0]
    low = beam.solid.bounds()[0][2]
    (ax, ay, _), (bx, by, _) = beam.start, beam.end
    for at in piers:
        share = (150.0 + at * (beam.length - 300.0)) / beam.length
        spot = (ax + (bx - ax) * share, ay + (by - ay) * share)
        project = put_support(project, "pier", spot, size=(300.0, 300.0))
        pier = project.point_supports[-1]
        top = next(x.elevation for x in project.levels if x.id == pier.top)
        project = set_supports(project, [pier.id], top_offset=low - top)
    return set_run(project, project.runs[-1].id, on_piers=True)


def test_a_grade_beam_on_piers_hands_them_all_it_carries() -> None:
    done = work_out(between_piers())
    (beam,) = [m for m in done.structure.of(kinds.GRADE_BEAM) if m.id in done.path.spanning]
    assert len(done.path.spanning[beam.id]) == 3
    assert beam.id not in done.path.soil
    given = sum(f.dead for source, on, f in done.path.handed if source == beam.id)
    assert given == pytest.approx(done.path.onto[beam.id].dead)
    names = {c.name for c in checks_of(done, beam)}
    assert names == {"Bending", "Shear"}
    lines = {x.symbol: x.value for c in checks_of(done, beam) for x in c.lines}
    assert lines["M"] == pytest.approx(lines["w"] * lines["ℓn"] ** 2 / 9, rel=1e-6)
    middle = done.path.spanning[beam.id][1].pier
    assert done.path.onto_more[middle].dead == pytest.approx(
        0.25 * sum(f.dead for s, on, f in done.path.handed if (s, on) == (beam.id, middle)),
        rel=1e-6,
    )


def test_it_bears_on_the_soil_where_it_is_not_set_to_span_and_is_told_without_piers() -> None:
    project = between_piers()
    soil = work_out(set_run(project, project.runs[-1].id, on_piers=False))
    assert soil.path.spanning == {}
    assert all(m.id in soil.path.soil for m in soil.structure.of(kinds.GRADE_BEAM))
    bare = between_piers(piers=(0.0,))
    told = [f for f in findings(work_out(bare)) if "fewer than two piers" in f.text]
    assert len(told) == 1


def test_what_a_beam_bears_on_is_chosen_on_its_slip() -> None:
    project = between_piers()
    run = project.runs[-1]
    desk = Desk(Building(set_run(project, run.id, on_piers=False)), THINGS)
    desk.select(the(f"run:{run.id}"))
    row = next(r for r in rows_of(desk) if isinstance(r, Options) and r.name == "bears on")
    row.choose(True)
    assert desk.project.runs[-1].on_piers
    assert desk.checked.path.spanning
