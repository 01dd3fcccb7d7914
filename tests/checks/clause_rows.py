"""Rows on single clauses: from their words to the program's own functions for stability, notches,
plies, ground and steel."""

import math
from typing import Any

import numpy as np

from balken.design.codes.eu import ec2_pads
from balken.design.codes.us import aci_pads, aisc
from balken.design.codes.us.nds import columns
from balken.design.codes.us.nds.bending import Batch, Tails, check
from balken.design.codes.us.nds.factors import (
    Loading,
    adjusted,
    beam_stability,
    effective_length,
    volume_factor,
)
from balken.design.codes.us.nds.values import reference
from balken.design.concrete.bars import BARS
from balken.design.notches import net_shear
from balken.design.soil import pressure
from balken.design.strip_loads import OnStrip, Stretch, highest_line
from balken.exchange.span_text import read_grade, read_species
from balken.loads.cases import Combination
from balken.model.cases import Cases
from balken.model.catalogue import sections_of
from balken.model.project import Bore
from balken.model.walls import Layer
from balken.site.wall_weights import weight_of_layer
from balken.units import FOOT, INCH, KPA, LB, PCF, PLF, PSF, PSI

KIP = 1000 * LB
KSI = 1000 * PSI


def _row_of_the_table(x: dict[str, Any]) -> Loading | None:
    words = x["load"]
    if "mid-span, no lateral support" in words:
        return "middle"
    if "three equal loads" in words:
        return "held 3"
    if "not among the rows" in words:
        return "other"
    if words.startswith("uniform"):
        return "uniform"
    return None


def _lumber(x: dict[str, Any]) -> tuple[Any, Any]:
    species = read_species(x["species"])
    grade = read_grade(x["grade"], species)
    section = sections_of("us")[x["nominal_size"]]
    return section, adjusted(
        reference(species, grade, section.nominal), species, grade, section.nominal
    )


def stability_of(x: dict[str, Any]) -> float | None:
    row = _row_of_the_table(x)
    if row is None:
        return None
    if "beam stability factor" in x["quantity"]:
        section, value = _lumber(x)
        star = value.fb * x["load_duration_CD"] * x["repetitive_Cr"]
        lu = x["unbraced_lu_in_bottom_edge"] * INCH
        return beam_stability(section.breadth, section.depth, lu, star, value.e_min, row)
    lu = x["unbraced_lu_in"] if "unbraced_lu_in" in x else x["span_in"] / 4
    return effective_length(lu * INCH, x["depth_in"] * INCH, row) / INCH


def glulam(x: dict[str, Any]) -> float | None:
    b, d, cd = x["width_in"] * INCH, x["depth_in"] * INCH, x["load_duration_CD"]
    weak = x["Ey_min_psi"] * PSI
    if "at the support of an overhanging beam" in x["quantity"]:
        star = x["Fbx_minus_psi"] * PSI * cd
        cl = beam_stability(b, d, x["bottom_edge_unbraced_lu_ft"] * FOOT, star, weak, "other")
        cv = volume_factor(b, d, x["length_between_zero_moment_ft"] * FOOT)
        return x["hogging_moment_kip_ft"] * KIP * FOOT / (b * d**2 / 6) / (star * min(cl, cv))
    if x["quantity"] == "beam stability factor CL":
        return beam_stability(b, d, x["unbraced_lu_ft"] * FOOT, x["Fbx_plus_psi"] * PSI * cd, weak)
    if x["quantity"] == "allowable axial compression":
        length = x["effective_length_both_axes_ft"] * FOOT
        e_min = (x["Ex_min_psi"] * PSI, weak)
        load, _ = columns.allowable(b, d, x["Fc_psi"] * PSI * cd, e_min, (length, length), x["c"])
        return load / LB
    return None


def built_up(x: dict[str, Any]) -> float | None:
    if "nailed" not in x["fastened"]:
        return None  # bolted plies are not built here
    section, value = _lumber({**x, "nominal_size": x["ply_nominal"]})
    lengths = (
        x["effective_length_bending_the_depth_ft"] * FOOT,
        x["effective_length_bending_the_plies_ft"] * FOOT,
    )
    star = value.fc * x["load_duration_CD"]
    plies = x["plies"]
    load, _ = columns.allowable(
        plies * section.breadth, section.depth, star, value.e_min, lengths, plies=plies
    )
    return load / LB


def notch(x: dict[str, Any]) -> float | None:
    if "tension face" not in x["quantity"]:
        return None  # birdsmouths and notches in the compression face are not reckoned with here
    section, value = _lumber(x)
    cut = section.depth - x["depth_left_in"] * INCH
    share = net_shear(section.depth, Bore("V1", "m", "notch", 0.0, cut), 0.0)
    return value.fv * x["load_duration_CD"] * section.area / 1.5 * share / LB


def leaning(x: dict[str, Any]) -> float | None:
    lumber, gap = _lumber(x), x["spacing_in"] * INCH
    if x["quantity"].startswith("bending utilisation of the tail"):
        line = np.array([[x["dead_load_psf"]], [0.0], [0.0], [x["snow_load_psf"]]]) * PSF * gap
        reach, neck = x["level_overhang_in"] * INCH, x["depth_left_above_the_seat_in"] * INCH
        return _one(
            lumber, x, line, 1e3, Tails(*(np.array([v]) for v in (reach, neck, 0.0, 1e3))), 5
        )
    if not x["quantity"].startswith("utilisation (3.9-3)"):
        return None
    half, slope = x["span_L_ft"] * FOOT / 2, x["rise_per_12"] / 12
    line = np.array([[x["dead_load_psf"]], [0.0], [0.0], [x["roof_or_snow_load_psf"]]]) * PSF * gap
    steep = math.hypot(1.0, slope)
    tails = Tails(*(np.array([v]) for v in (0.0, lumber[0].depth, steep / slope, half * steep)))
    return _one(lumber, x, line, half, tails, 7)


def _one(
    lumber: tuple[Any, Any], x: dict[str, Any], line: Any, span: float, tails: Tails, k: int
) -> float:
    one = np.ones(1)
    (section, value), combos = (
        lumber,
        (Combination("D + S", Cases(1.0, 0.0, 0.0, 1.0), x["load_duration_CD"]),),
    )
    batch = Batch(
        (section,),
        (value,),
        x["repetitive_Cr"] * one,
        span * one,
        line,
        line * span / 2,
        38.1 * one,
        180 * one,
        120 * one,
        0 * one,
        combos,
        tails,
    )
    return float(check(batch).ratios[k, 0])


def point_load(x: dict[str, Any]) -> float | None:
    metric = "post_length_mm" in x
    unit, end = (1.0, "mm") if metric else (INCH, "in")
    line = x["wall_line_load_kN_m"] if metric else x["wall_line_load_plf"] * PLF
    post = x["post_load_kN"] * 1000 if metric else x["post_load_lb"] * LB
    deep = (x[f"stem_height_{end}"] + x[f"footing_thickness_{end}"]) * unit
    length, rows = 12_000.0, 20
    each = line * length / rows
    loads = [
        OnStrip((i + 0.5) * length / rows, (each, 0.0, 0.0, 0.0), deep, False, length / rows)
        for i in range(rows)
    ]
    loads.append(
        OnStrip(length / 2, (post, 0.0, 0.0, 0.0), deep, True, x[f"post_length_{end}"] * unit)
    )
    most = highest_line(loads, Stretch(0.0, length, length), (1.0, 0.0, 0.0, 0.0))
    if x["quantity"].startswith("soil pressure under the post"):
        width = x[f"footing_width_{end}"] * unit
        return most / width / (KPA if metric else PSF)
    return None


def earth(x: dict[str, Any]) -> float | None:
    if x["quantity"].startswith("bolt spacing needed"):
        top = pressure.propped(
            x["wall_height_ft"] * FOOT, x["fill_height_ft"] * FOOT, x["equivalent_fluid_pcf"] * PCF
        ).top
        return x["bolt_Z_lb"] * LB * x["CD"] / top / INCH
    return None


def steel(x: dict[str, Any]) -> float | None:
    if "Zx_in3" not in x:
        return None
    i = INCH
    fy, s, h0 = x["Fy_ksi"] * KSI, x["Sx_in3"] * i**3, x["ho_in"] * i
    lateral = aisc.lateral_from(
        fy * x["Zx_in3"] * i**3,
        fy,
        s,
        x["ry_in"] * i,
        x["rts_in"] * i,
        x["J_in4"] * i**4 / (s * h0),
    )
    if x["quantity"].startswith("allowable moment"):
        return lateral.allowable(x["unbraced_length_ft"] * FOOT) / (KIP * FOOT)
    if x["quantity"].startswith("bending utilisation of the overhang"):
        out = x["overhang_ft"] * FOOT
        moment = x["load_kip_ft"] * KIP / FOOT * out**2 / 2
        return moment / lateral.allowable(out)
    return None


def rectangular_pads(x: dict[str, Any]) -> float | None:
    q = x["quantity"]
    if q.startswith("punching"):
        sides = (x["pad_width_in"] * INCH, x["pad_length_in"] * INCH)
        column = (x["column_width_in"] * INCH, x["column_length_in"] * INCH)
        force, held = aci_pads.punching(
            x["factored_load_lb"] * LB,
            sides,
            column,
            x["effective_depth_in"] * INCH,
            x["fc_psi"] * PSI,
        )
        return force / held
    short, long = x["pad_short_side_in"] * INCH, x["pad_long_side_in"] * INCH
    if q.startswith("total steel parallel to the short side"):
        moment = aci_pads.face_moment(
            x["factored_load_lb"] * LB, (short, long), x["column_along_short_side_in"] * INCH
        )
        depth = x["effective_depth_in"] * INCH
        return (
            aci_pads.steel_for(moment, long, depth, x["fc_psi"] * PSI, x["fy_psi"] * PSI) / INCH**2
        )
    if q.startswith("steel of the short direction placed in the middle band"):
        # What is raised to one spacing, over the band's share of the long side.
        return (
            x["total_short_direction_steel_in2"] * aci_pads.band_factor(short, long) * short / long
        )
    return None


def bars(x: dict[str, Any]) -> float | None:
    if x["quantity"].startswith("tension development length") and x["cover_and_spacing"] == "good":
        bar = next(b for b in BARS["us"] if b.name == f"#{x['bar_no']}")
        return aci_pads.development(bar, x["fc_psi"] * PSI, x["fy_psi"] * PSI) / INCH
    if x["quantity"].startswith("design anchorage length"):
        bar = next(b for b in BARS["metric"] if b.diameter == x["bar_mm"])
        return ec2_pads.anchorage(bar, x["fck_N_mm2"], 500.0)
    return None


def wall_weights(x: dict[str, Any]) -> float | None:
    if x["quantity"].endswith("table value") and x["wall"] == "one clay brick wythe":
        layer = Layer("clay brick", (x["nominal_thickness_in"] - 0.375) * INCH, "cladding")
        return weight_of_layer(layer) * layer.thickness / PSF
    return None
