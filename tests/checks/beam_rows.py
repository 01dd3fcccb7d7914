"""Rows on beams and columns: from their words to the program's own analysis, strengths and
checks."""

from typing import Any

import numpy as np

from balken.analysis.beams import Diagrams, Floats, greatest_moment, greatest_sag
from balken.analysis.one_beam import Beam, LineLoad, PointLoad, Rest, at_places, work
from balken.design.beam_checks import Answer, Asked, judge
from balken.design.codes import timber_by
from balken.design.codes.us.nds import columns
from balken.design.codes.us.nds.factors import adjusted
from balken.design.codes.us.nds.values import reference
from balken.design.codes.us.strengths import strength_of
from balken.design.effects import Loaded, effects_of
from balken.exchange.span_text import read_grade, read_species
from balken.framing import kinds
from balken.framing.member import Support
from balken.framing.pieces import Cut, level_piece
from balken.model.cases import NOTHING, Cases
from balken.model.catalogue import sections_of
from balken.model.sections import Product, Section, section_of
from balken.units import FOOT, INCH, LB, PLF, PSI
from named import the

M, KN, KNM, KNM2 = 1e3, 1e3, 1e6, 1e9


def _beam(x: dict[str, Any]) -> Beam:
    system = x["system"]
    ei = x.get("EI_kNm2", 2000.0) * KNM2
    w = x.get("load_kN_m", x.get("w_kN_m", 0.0)) * 1.0
    spans = [s * M for s in x.get("spans_m", [x.get("span_m", x.get("length_m", 0.0))])]
    if system == "three equal spans, uniform load on all" and len(spans) == 1:
        spans *= 3
    places = [sum(spans[:k]) for k in range(len(spans) + 1)]
    length = places[-1] + x.get("overhang_m", 0.0) * M
    low, high = x.get("load_from_m", 0.0) * M, x.get("load_to_m", length / M) * M
    if "on one only" in system:
        high = spans[0]
    grows = "growing from 0" in system
    lines = (LineLoad(0, low, high, 0.0 if grows else w, w),) if w else ()
    points = tuple(PointLoad(0, at, x[key] * KN) for key, at in _points(x, length))
    rests = (
        (Rest(0.0, "fix"),) if system.startswith("cantilever") else tuple(Rest(p) for p in places)
    )
    return Beam(length, ei, rests, lines, points)


def _points(x: dict[str, Any], length: float) -> list[tuple[str, float]]:
    if "each_load_kN" in x:
        return [("each_load_kN", length / 3), ("each_load_kN", 2 * length / 3)]
    if "load_kN" not in x:
        return []
    return [("load_kN", x["load_at_m"] * M if "load_at_m" in x else length)]


def statics(x: dict[str, Any]) -> float | None:
    beam = _beam(x)
    (worked,) = work([beam], 1)
    drawn, reactions = worked.drawn, worked.solved.reaction[0, 0] / KN
    quantity = x["quantity"]
    rests = [i for i, hold in enumerate(worked.batch.holds) if hold != "free"]
    over = next((r.at for r in beam.rests[1:2]), 0.0)
    if "deflection" in quantity:
        if quantity.startswith("tip"):
            return float(drawn.sag[0, 0, -1])
        return float(greatest_sag(drawn)[0, 0])
    if "moment over" in quantity:
        return _over(drawn, over) / KNM
    if (
        "greatest sagging moment" in quantity
        and len(x.get("spans_m", [])) > 1
        and "on both" in x["system"]
    ):
        long = max(range(len(x["spans_m"])), key=lambda k: x["spans_m"][k])
        inside = [beam.rests[long].at, beam.rests[long + 1].at]
        return _within(worked, inside) / KNM
    if "moment" in quantity:
        sign = -1.0 if "hogging" in quantity and "sagging" not in quantity else 1.0
        return float(sign * greatest_moment(drawn, sign)[0, 0] / KNM)
    if "reaction" in quantity:
        if "longer span" in quantity:
            first = x["spans_m"][0] >= x["spans_m"][-1]
            return float(reactions[rests[0 if first else -1]])
        at = {"left": 0, "inner": 1, "middle": 1, "next to the overhang": -1, "far end": -1}
        place = next((k for word, k in at.items() if word in quantity), None)
        return None if place is None else float(reactions[rests[place]])
    return None


def _over(drawn: Diagrams, place: float) -> float:
    s = int(abs(drawn.x[0] - place).argmin())
    return float(drawn.moment[0][0, 0, s])


def _within(worked: Any, inside: list[float]) -> float:
    places: Floats = np.linspace(*inside, 400)[None, :]
    return float(greatest_moment(at_places(worked, places))[0, 0])


def _section(x: dict[str, Any]) -> Section:
    if "width_in" in x:
        e_min = x.get("Emin_y_assumed_psi", 950_000) * PSI
        values = {
            "fb": x["Fb_psi"] * PSI,
            "fv": x.get("Fv_psi", 265) * PSI,
            "fc_perp": x.get("Fc_perp_psi", 650) * PSI,
            "e": x.get("E_psi", 1.8e6) * PSI,
            "e_min": e_min,
            "e_min_weak": e_min,
        }
        return section_of(
            Product("typed", "glulam", x["width_in"] * INCH, x["depth_in"] * INCH, **values)
        )
    if "plies" in x:
        return sections_of("us")[f"{x['plies']}-{x['ply_nominal']}"]
    return sections_of("us")[x["nominal_size"]]


def _answer(x: dict[str, Any]) -> Answer:
    """A simple span under dead load and one other, whose case has the row's load duration."""
    section, span = _section(x), x["span_ft"] * FOOT
    case = {1.0: "live", 1.25: "roof_live", 1.15: "snow"}[x["load_duration_CD"]]
    line = Cases(x["dead_load_plf"] * PLF, **{case: x["live_load_plf"] * PLF})
    rests = (Support(0.0, 89.0, "a", (0.0, 0.0)), Support(span, 89.0, "b", (span, 0.0)))
    piece = Cut(section.name, "", section.breadth)
    member = level_piece(
        "b",
        "B",
        kinds.BEAM,
        the("beam:B"),
        "L",
        piece,
        (0.0, 0.0),
        (span, 0.0),
        0.0,
        section.depth,
        rests,
        line=line,
    )
    species = read_species(x["species"]) if "species" in x else ""
    grade = read_grade(x["grade"], species) if "grade" in x else ""
    strength = strength_of(section, species, grade, span)
    assert strength is not None
    unbraced = span if "ends only" in x["member"] else 0.0
    loaded = Loaded(member, NOTHING, (), timber_by("us").sums(1, "A"))
    (effects,) = effects_of([loaded])
    assert effects is not None
    return judge(Asked(loaded, strength, 360.0, 240.0, unbraced), effects)


def beam_utilisation(x: dict[str, Any]) -> float | None:
    answer, quantity = _answer(x), x["quantity"]
    if quantity.startswith("bending utilisation"):
        return answer.ratios[0]
    if quantity.startswith("shear utilisation"):
        return answer.ratios[1]
    if quantity.startswith("mid-span deflection"):
        return (
            answer.sag("live" if "live load" in quantity and "dead" not in quantity else "total")
            / INCH
        )
    if quantity.startswith("bearing length needed"):
        return float(answer.effects.reaction.max() / answer.asked.strength.bearing) / INCH
    return None


def column_capacity(x: dict[str, Any]) -> float | None:
    species = read_species(x["species"])
    grade, cd = read_grade(x["grade"], species), x["load_duration_CD"]
    plies = x.get("plies", 1)
    section = sections_of("us")[x["ply_nominal"] if plies > 1 else x["nominal_size"]]
    value = adjusted(
        reference(species, grade, section.nominal),
        species,
        grade,
        section.nominal,
        wet=x.get("wet_service", False),
    )
    star = value.fc * cd
    quantity = x["quantity"]
    if "interaction" in quantity:
        height = x["height_ft"] * FOOT
        axial = x["axial_load_lb"] * LB / section.area
        bent = x["lateral_uniform_load_plf"] * PLF * height**2 / 8 / section.modulus
        allowed, _ = columns.allowable(
            section.breadth, section.depth, star, value.e_min, (height, 0.0)
        )
        fb = value.fb * cd * x["repetitive_Cr"]
        return columns.with_bending(
            axial, allowed / section.area, bent, fb, value.e_min, height / section.depth
        )
    if plies > 1:
        length = x["effective_length_both_axes_ft"] * FOOT
        load, _ = columns.allowable(
            plies * section.breadth, section.depth, star, value.e_min, (length, length), plies=plies
        )
        return load / LB
    lengths = (
        x["effective_length_strong_axis_ft"] * FOOT,
        x["effective_length_weak_axis_ft"] * FOOT,
    )
    load, _ = columns.allowable(section.breadth, section.depth, star, value.e_min, lengths, x["c"])
    if "stability factor" in quantity:
        return load / section.area / star
    return load / LB
