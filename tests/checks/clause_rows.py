"""Rows on single clauses: from their words to the program's own functions for stability, notches,
plies, ground and steel."""

import math
from typing import Any

import numpy as np

from balken.design.codes.eu import ec3
from balken.design.codes.us import aci_pads, aisc
from balken.design.codes.us.nds import columns
from balken.design.codes.us.nds.bending import check
from balken.design.codes.us.nds.factors import (
    adjusted,
    beam_stability,
    effective_length,
    volume_factor,
)
from balken.design.codes.us.nds.notches import net_shear, shear_over_pressed_notch
from balken.design.codes.us.nds.values import reference
from balken.design.codes.us.strengths import strength_of
from balken.design.soil import pressure, retaining, sizes
from balken.design.spanning import Batch, Tails
from balken.design.strength import Cut, Loading
from balken.design.strip_loads import OnStrip, Stretch, highest_line
from balken.exchange.span_text import read_grade, read_species
from balken.loads.cases import Combination
from balken.model.cases import Cases
from balken.model.catalogue import sections_of
from balken.model.walls import Layer, WallBuildUp
from balken.site.wall_weights import weight_of_build_up, weight_of_layer
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


def lumber(x: dict[str, Any]) -> tuple[Any, Any]:
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
        section, value = lumber(x)
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
    kf = columns.K_NAILED if "nailed" in x["fastened"] else columns.K_BOLTED
    section, value = lumber({**x, "nominal_size": x["ply_nominal"]})
    lengths = (
        x["effective_length_bending_the_depth_ft"] * FOOT,
        x["effective_length_bending_the_plies_ft"] * FOOT,
    )
    star = value.fc * x["load_duration_CD"]
    plies = x["plies"]
    load, _ = columns.allowable(
        plies * section.breadth, section.depth, star, value.e_min, lengths, plies=plies, kf=kf
    )
    return load / LB


def notch(x: dict[str, Any]) -> float | None:
    section, value = lumber(x)
    if "compression face" in x["quantity"]:
        left = x["depth_left_in"] * INCH
        past = x["notch_runs_past_inner_edge_of_support_in"] * INCH
        area = shear_over_pressed_notch(section.breadth, section.depth, left, past)
        return value.fv * x["load_duration_CD"] * area / 1.5 / LB
    cut = section.depth - x["depth_left_in"] * INCH
    species = read_species(x["species"])
    piece = strength_of(section, species, read_grade(x["grade"], species), 1e3)
    assert piece is not None
    share = net_shear(piece, Cut(notch=True, size=cut, to_support=0.0, depth=section.depth))
    return value.fv * x["load_duration_CD"] * section.area / 1.5 * share / LB


def _by_case(dead: float, snow: float) -> Any:
    """A row a case, as batches have their loads."""
    return np.array(list(Cases(dead, snow=snow)))[:, None]


def leaning(x: dict[str, Any]) -> float | None:
    wood, gap = lumber(x), x["spacing_in"] * INCH
    if x["quantity"].startswith("bending utilisation of the tail"):
        line = _by_case(x["dead_load_psf"], x["snow_load_psf"]) * PSF * gap
        reach, neck = x["level_overhang_in"] * INCH, x["depth_left_above_the_seat_in"] * INCH
        return _one(wood, x, line, 1e3, Tails(*(np.array([v]) for v in (reach, neck, 0.0, 1e3))), 5)
    if not x["quantity"].startswith("utilisation (3.9-3)"):
        return None
    half, slope = x["span_L_ft"] * FOOT / 2, x["rise_per_12"] / 12
    line = _by_case(x["dead_load_psf"], x["roof_or_snow_load_psf"]) * PSF * gap
    steep = math.hypot(1.0, slope)
    tails = Tails(*(np.array([v]) for v in (0.0, wood[0].depth, steep / slope, half * steep)))
    return _one(wood, x, line, half, tails, 7)


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
    if x["quantity"].startswith("footing width needed under the post"):
        if metric:
            bearing, weight = x["soil_bearing_kN_m2"] * KPA, x["concrete_kN_m3"] * 1e-6
        else:
            bearing, weight = x["soil_bearing_psf"] * PSF, x["concrete_pcf"] * PCF
        heights = (x[f"stem_height_{end}"] * unit, x[f"footing_thickness_{end}"] * unit)
        at = (post, x[f"post_length_{end}"] * unit)
        return sizes.width_under_post(line, at, heights, bearing, weight) / unit
    return None


def earth(x: dict[str, Any]) -> float | None:
    if x["quantity"].startswith("bolt spacing needed"):
        top = pressure.propped(
            x["wall_height_ft"] * FOOT, x["fill_height_ft"] * FOOT, x["equivalent_fluid_pcf"] * PCF
        ).top
        return x["bolt_Z_lb"] * LB * x["CD"] / top / INCH
    if "footing_width_ft" not in x:
        return None
    wall = retaining.Retaining(
        x["fill_height_ft"] * FOOT,
        x["stem_in"] * INCH,
        (x["footing_width_ft"] * FOOT, x["footing_thickness_in"] * INCH),
        x["toe_ft"] * FOOT,
        x["equivalent_fluid_pcf"] * PCF,
        x["soil_pcf"] * PCF,
        x["concrete_pcf"] * PCF,
    )
    found = retaining.stability(wall)
    if x["quantity"].startswith("safety against overturning"):
        return found.against_turning
    if x["quantity"].startswith("safety against sliding"):
        return found.against_sliding(x["friction"])
    if x["quantity"].startswith("greatest soil pressure"):
        return retaining.pressure(wall).highest / PSF
    return None


def _compressed(x: dict[str, Any]) -> float:
    fy, area = x["Fy_ksi"] * KSI, x["A_in2"] * INCH**2
    stress = aisc.critical_stress(fy, x["effective_length_ft"] * FOOT / (x["r_in"] * INCH))
    if "web_h_over_tw" in x:
        thick = x["web_thickness_in"] * INCH
        area = aisc.slender_web_area(area, x["web_h_over_tw"] * thick, thick, fy, stress)
    return stress * area / aisc.COMPRESSION / KIP


def _on_web(x: dict[str, Any]) -> float | None:
    fy, bearing = x["Fy_ksi"] * KSI, x["bearing_length_lb_in"] * INCH
    inside, web = not x["at_member_end"], x["web_tw_in"] * INCH
    if "yielding" in x["quantity"]:
        held = aisc.web_yielding(fy, web, x["k_design_in"] * INCH, bearing, inside=inside)
        return held / KIP
    plates = (x["depth_d_in"] * INCH, web, x["flange_tf_in"] * INCH)
    return aisc.web_crippling(fy, plates, bearing, inside=inside) / KIP


def steel(x: dict[str, Any]) -> float | None:
    if x["quantity"].startswith("allowable compression"):
        return _compressed(x)
    if x["quantity"].startswith("allowable force on the web"):
        return _on_web(x)
    if x["quantity"].startswith("utilisation of the wood plate"):
        area = x["flange_width_in"] * x["bearing_length_in"] * INCH**2
        return x["reaction_kip"] * KIP / area / (x["Fc_perp_psi"] * PSI * x["Cb"])
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


def steel_eu(x: dict[str, Any]) -> float | None:
    h, b, fy = x["h_mm"], x["b_mm"], x["fy_N_mm2"]
    if x["quantity"].startswith("flexural buckling resistance"):
        curve = ec3.buckling_curve(h, b, 40.0, x["axis"])
        length = x["buckling_length_m"] * 1000
        return ec3.compression(x["A_cm2"] * 100, x["i_cm"] * 10, length, fy, curve) / 1000
    if x["quantity"].startswith("lateral-torsional buckling resistance"):
        critical = ec3.critical_moment(
            x["length_m"] * 1000,
            x["Iz_cm4"] * 1e4,
            x["It_cm4"] * 1e4,
            x["Iw_cm6"] * 1e6,
            x["C1"],
        )
        found = ec3.moment(x["Wpl_y_cm3"] * 1e3, fy, critical, ec3.lateral_curve(h, b))
        return found / 1e6
    return None


def wall_weights(x: dict[str, Any]) -> float | None:
    if "layers" in x:
        metric = "thickness_mm" in x["layers"][0]
        layers = tuple(
            Layer(
                v["what"],
                v["thickness_mm"] if metric else v["thickness_in"] * INCH,
                "core",
                v["density_kN_m3"] * 1e-6 if metric else v["density_pcf"] * PCF,
                v.get("solid_fraction", 1.0),
            )
            for v in x["layers"]
        )
        return weight_of_build_up(WallBuildUp("x", layers)) / (KPA if metric else PSF)
    if x["quantity"].endswith("table value") and x["wall"] == "one clay brick wythe":
        layer = Layer("clay brick", (x["nominal_thickness_in"] - 0.375) * INCH, "cladding")
        return weight_of_layer(layer) * layer.thickness / PSF
    return None
