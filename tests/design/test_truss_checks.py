"""Checks of trusses, held against NDS-2018 worked by hand, and their joints against statics."""

import math

import numpy as np
import pytest

from balken.design.codes import timber_by
from balken.design.codes.us.nds.columns import stability, with_bending
from balken.design.truss_checks import (
    TrussCheck,
    TrussLoads,
    TrussTask,
    cases_of,
    check_names,
    check_trusses,
    explain_truss,
)
from balken.design.truss_joints import joints_of, names_of
from balken.framing import kinds
from balken.framing.trusses.placing import PlacedTruss
from balken.geometry.plane import distance
from balken.model.catalogue import sections_of
from balken.model.edits.roofs import hip_or_gable, set_roof
from balken.units import FOOT, INCH, PSF, PSI
from balken.works.building import work_out
from buildings import house
from named import the
from trusses import LUMBER, TASK, stands


def check(t: PlacedTruss, task: TrussTask = TASK) -> TrussCheck:
    return check_trusses([t], LUMBER, task)[0]


def test_combinations_have_snow_on_either_side_and_wind_from_below() -> None:
    names = [
        c.name for c in cases_of(timber_by("us"), 2, live=True, roof=True, snow=True, uplift=True)
    ]
    assert names.count("D + S unbalanced") == 2
    assert names[-1] == "0.6D + 0.6W up"
    assert not any(
        "S" in c.name
        for c in cases_of(timber_by("us"), 2, live=True, roof=True, snow=False, uplift=False)
    )


def test_a_bottom_chord_in_tension_by_hand() -> None:
    """NDS 3.9-1: ft / Ft′ + fb / Fb*; Ft = 575 psi × CF 1.5, Fb = 900 psi × CF 1.5 (Supp. table 4A,
    from memory)."""
    found = check(stands())
    ratio, c, m = found.worst_of(kinds.BOTTOM_CHORD)
    cd = found.cases[c].duration
    pull = float(found.forces.axial[c, 0, m].max())
    moment = float(np.abs(found.forces.moment[c, 0, m]).max())
    area, modulus = 1.5 * 3.5 * INCH**2, 1.5 * 3.5**2 / 6 * INCH**3
    # A truss that stands alone has no others to share with: Cr is 1 (NDS 4.3.9).
    by_hand = pull / area / (575 * PSI * 1.5 * cd) + moment / modulus / (900 * PSI * 1.5 * cd)
    assert ratio == pytest.approx(by_hand, rel=1e-6)


def test_a_web_in_compression_by_hand() -> None:
    """NDS 3.7.1: le / d = 0.8 ℓ / 1.5 in; Fc = 1,350 psi × CF 1.15, Emin = 580,000 psi."""
    found = check(stands())
    pushed = [
        (i, c)
        for i, p in enumerate(found.truss.pieces)
        if p.kind is kinds.WEB
        for c in range(len(found.cases))
        if found.forces.axial[c, 0, i].max() < -10.0 and not found.braces[i]
    ]
    i, c = max(pushed, key=lambda k: -found.forces.axial[k[1], 0, k[0]].min())
    length = distance(
        *(found.truss.joints[n] for n in (found.truss.pieces[i].start, found.truss.pieces[i].end))
    )
    star = 1350 * PSI * 1.15 * found.cases[c].duration
    fc = -float(found.forces.axial[c, 0, i].min()) / (1.5 * 3.5 * INCH**2)
    cp = stability(star, 580_000 * PSI, 0.8 * length / (1.5 * INCH))
    assert found.ratios[c, i] == pytest.approx(fc / (star * cp), rel=1e-6)


def test_a_top_chord_in_both_by_hand() -> None:
    """NDS 3.9-3 between joints, held sideways by the sheathing; at the joints the moment is not
    made larger by buckling."""
    found = check(stands())
    ratio, c, m = found.worst_of(kinds.TOP_CHORD)
    cd = found.cases[c].duration
    length = distance(
        *(found.truss.joints[n] for n in (found.truss.pieces[m].start, found.truss.pieces[m].end))
    )
    star, e_min = 1350 * PSI * 1.15 * cd, 580_000 * PSI
    slender = 0.8 * length / (3.5 * INCH)
    fc = -float(found.forces.axial[c, 0, m].min()) / (1.5 * 3.5 * INCH**2)
    fb = np.abs(found.forces.moment[c, 0, m]) / (1.5 * 3.5**2 / 6 * INCH**3)
    bent = 900 * PSI * 1.5 * cd
    between = with_bending(
        fc, star * stability(star, e_min, slender), float(fb[1]), bent, e_min, slender
    )
    ends = (fc / star) ** 2 + max(fb[0], fb[2]) / bent
    assert ratio == pytest.approx(max(between, ends), rel=1e-6)


def test_long_webs_are_held_at_places_between() -> None:
    found = check(stands("king post", 40 * FOOT, 8 / 12))
    post = next(i for i, p in enumerate(found.truss.pieces) if p.kind is kinds.WEB)
    assert found.braces[post] == 0, "a post that is pulled needs no hold"
    deep = check(stands("Howe", 40 * FOOT, 10 / 12))
    for i, (p, n) in enumerate(zip(deep.truss.pieces, deep.braces)):
        if n:
            length = distance(*(deep.truss.joints[k] for k in (p.start, p.end)))
            assert (
                0.8 * length / (n + 1) / (1.5 * INCH)
                <= 50.0 + 1e-9
                < 0.8 * length / n / (1.5 * INCH)
            ), i
    assert any(deep.braces)


def test_uplift_turns_the_reactions_and_is_told() -> None:
    calm, blown = (
        check(stands()),
        check(
            stands(),
            TrussTask(
                timber_by("us"),
                2,
                TrussLoads(10 * PSF, 20 * PSF, 25 * PSF, 5 * PSF, 0.0, 30 * PSF),
                (240.0, 180.0),
                3.5 * INCH,
            ),
        ),
    )
    assert calm.uplift == 0.0
    wide, run = 24 * INCH, 28 * FOOT
    down = 0.6 * (10 * PSF * math.hypot(1, 4 / 12) * run + 5 * PSF * 24 * FOOT) * wide
    lifted = 0.6 * 30 * PSF * run * wide
    assert blown.uplift == pytest.approx((lifted - down) / 2, rel=5e-3)


def test_heel_bearing_by_hand() -> None:
    found, t = check(stands()), stands()
    ratio, c = found.others[2]
    reaction = float(found.forces.reactions[c, 0].max())
    assert ratio == pytest.approx(reaction / (625 * PSI * 1.5 * 3.5 * INCH**2), rel=1e-6)
    words = [x.name for x in explain_truss(t, found, LUMBER, TASK)]
    assert words == list(check_names(timber_by("us")))


def test_alike_trusses_are_one_and_many_are_as_each_alone() -> None:
    many = [
        stands(kind, span)
        for kind in ("Fink", "Howe", "fan")
        for span in (18 * FOOT, 24 * FOOT, 30 * FOOT)
    ]
    together = check_trusses(many, LUMBER, TASK)
    for t, found in zip(many, together):
        assert found.worst[0] == pytest.approx(check(t).worst[0], rel=1e-9)
    first, _, third = check_trusses([many[0]] * 3, LUMBER, TASK)
    assert first is third, "alike ones are worked out once"


def test_joints_are_in_balance_but_for_what_chords_bend_off() -> None:
    """At a joint of webs on a bottom chord the webs' upright parts and the chord's shear add up to
    what hangs there; the table's forces are those of the analysis."""
    found = check(stands())
    table = joints_of(found, 1.4)
    names = names_of(found)
    assert [j.number for j in table] == list(range(1, len(found.truss.joints) + 1))
    for joint in table:
        for name, pull, push in joint.pieces:
            i = names.index(name)
            assert pull >= push
            assert pull == pytest.approx(
                max(float(found.forces.axial[:, 0, i, e].max()) for e in (0, 1)), rel=0.2, abs=200.0
            )
    apex = table[found.truss.apex]
    most = max(max(abs(a), abs(b)) for _, a, b in apex.pieces)
    assert apex.plate == pytest.approx(most / 1.4, rel=1e-9), (
        "at the apex both chords end and give the plates all they have"
    )


def test_sizes_of_a_roof_grow_until_every_truss_passes() -> None:
    light = work_out(set_roof(house(40 * FOOT, 24 * FOOT), "R1", framing="trusses", snow=10 * PSF))
    heavy = work_out(
        hip_or_gable(
            set_roof(house(40 * FOOT, 24 * FOOT), "R1", framing="trusses", snow=60 * PSF),
            "R1",
            "W12",
        )
    )
    depth = {n: s.depth for n, s in sections_of("us", ()).items()}
    assert (
        depth[heavy.sizes[the("roof:R1")].size.section]
        > depth[light.sizes[the("roof:R1")].size.section]
    )
    for made in (light, heavy):
        assert max(c.worst[0] for c in made.trusses[the("roof:R1")].checks) <= 1.0
        pieces = [
            m
            for m in made.structure.of(kinds.TOP_CHORD, kinds.BOTTOM_CHORD, kinds.WEB)
            if m.id in made.used
        ]
        assert len(pieces) > 60
        assert max(made.used[m.id][0] for m in pieces) <= 1.0
