"""Rows on timber by EN 1995-1-1: from their words to the program's own clauses."""

import math
from typing import Any

from balken.design.codes.eu.ec5 import bearing, bending, columns, deflection, factors, shear
from balken.design.codes.eu.ec5 import vibration as floors
from balken.design.codes.eu.ec5.values import Timber, timber
from balken.loads.codes.eu.combinations import PSI

GAMMA_G, GAMMA_Q = 1.35, 1.5


def _worth(x: dict[str, Any], strength: float, of: Timber) -> float:
    kmod = factors.kmod(x["service_class"], x["load_duration"])
    return factors.design_value(strength, of, kmod)


def _line(x: dict[str, Any]) -> float:
    """Design load, N/mm = kN/m."""
    if "permanent_kN_m2" in x:
        variable = x.get("imposed_kN_m2", x.get("variable_kN_m2"))
        gap = x["spacing_mm"] / 1000
        return (GAMMA_G * x["permanent_kN_m2"] + GAMMA_Q * variable) * gap
    return GAMMA_G * x["permanent_kN_m"] + GAMMA_Q * x["variable_kN_m"]


def bent(x: dict[str, Any]) -> float | None:
    q = x["quantity"]
    of = timber(x["strength_class"])
    b, h = x["width_mm"], x["depth_mm"]
    if q == "lateral buckling factor kcrit":
        loading: bending.Loading = "middle" if x["load"].startswith("point") else "uniform"
        length = bending.effective_length(x["span_mm"], h, loading, "compression")
        return bending.kcrit(b, h, length, of.fm, of.e_05)
    if not q.startswith("bending utilisation"):
        return None
    moment = (
        x["design_moment_kNm"] * 1e6
        if "design_moment_kNm" in x
        else _line(x) * x["span_mm"] ** 2 / 8
    )
    strength = _worth(x, of.fm, of) * factors.kh(of, h) * x.get("ksys", 1.0)
    if x.get("lateral_support_at_supports_only"):
        length = bending.effective_length(x["span_mm"], h, "uniform", "compression")
        strength *= bending.kcrit(b, h, length, of.fm, of.e_05)
    return moment / (b * h**2 / 6) / strength


def sheared(x: dict[str, Any]) -> float | None:
    q = x["quantity"]
    of = timber(x["strength_class"])
    if q.startswith("notch factor kv"):
        return shear.notch_factor(
            of.material,
            x["depth_mm"],
            x["depth_over_notch_mm"],
            x["distance_support_line_to_corner_mm"],
        )
    if q.startswith("allowed shear stress kv"):
        kv = shear.notch_factor(
            of.material, x["depth_mm"], x["depth_over_notch_hef_mm"], x["x_mm"], x["inclination_i"]
        )
        return kv * _worth(x, of.fv, of)
    if not q.startswith("shear utilisation"):
        return None
    force = x["design_shear_kN"] * 1000 if "design_shear_kN" in x else _line(x) * x["span_mm"] / 2
    stress = shear.shear_stress(force, x["width_mm"], x["depth_mm"], x["kcr"])
    return stress / _worth(x, of.fv, of)


def pressed_across(x: dict[str, Any]) -> float | None:
    if not x["quantity"].startswith("utilisation of compression perpendicular"):
        return None
    of = timber(x["strength_class"])
    contact = x["contact_length_mm"]
    beyond = (x["wood_beyond_left_mm"], x["wood_beyond_right_mm"])
    to_next = x.get("clear_distance_to_next_load_l1_mm", math.inf)
    length = bearing.contact_length(contact, beyond, to_next)
    factor = (
        x["kc90"]
        if "kc90" in x
        else bearing.kc90(of.material, x["support"], x["depth_mm"], contact, to_next)
    )
    stress = x["design_force_kN"] * 1000 / (x["width_mm"] * length)
    return stress / (factor * _worth(x, of.fc_perp, of))


def pressed_along(x: dict[str, Any]) -> float | None:
    q = x["quantity"]
    of = timber(x["strength_class"])
    if q == "buckling factor kc":
        return columns.kc(x["slenderness_lambda"], of)
    if q.startswith("tension utilisation"):
        side = x["larger_side_mm"]
        strength = _worth(x, of.ft, of) * factors.kh(of, side)
        return x["design_tension_kN"] * 1000 / (x["width_mm"] * side) / strength
    if not q.startswith("utilisation of compression"):
        return None
    b, h = x["width_mm"], x["depth_mm"]
    pressed = x["design_axial_kN"] * 1000 / (b * h) / _worth(x, of.fc, of)
    fm = _worth(x, of.fm, of) * factors.kh(of, h)
    about = x["design_moment_strong_axis_kNm"] * 1e6 / (b * h**2 / 6) / fm
    slender = (
        columns.slenderness(x["buckling_length_strong_axis_mm"], h),
        columns.slenderness(x["buckling_length_weak_axis_mm"], b),
    )
    return columns.with_bending(pressed, (about, 0.0), slender, of)


def sagging(x: dict[str, Any]) -> float | None:
    q = x["quantity"]
    of = timber(x["strength_class"])
    stiff = of.e * x["width_mm"] * x["depth_mm"] ** 3 / 12

    def sag(line: float) -> float:
        return 5 * line * x["span_mm"] ** 4 / (384 * stiff)

    kdef = factors.kdef(x["service_class"])
    if q.startswith("w_net,fin with precamber"):
        lead, beside = PSI["A"], PSI["snow<=1000m"]
        whole = deflection.final(
            sag(x["permanent_kN_m"]),
            deflection.Sag(sag(x["leading_category_A_kN_m"]), lead.combination, lead[2]),
            [deflection.Sag(sag(x["accompanying_snow_below_1000m_kN_m"]), beside[0], beside[2])],
            kdef,
        )
        return whole - x["precamber_mm"]
    if "spacing_mm" not in x:
        return None
    gap = x["spacing_mm"] / 1000
    permanent = x.get("permanent_load_kN_m2", x.get("permanent_kN_m2")) * gap
    variable = x.get("variable_load_kN_m2", x.get("variable_kN_m2")) * gap
    if q.startswith("w_inst"):
        return deflection.instant(sag(permanent), sag(variable))
    psi = PSI[x["variable_category"]]
    if q.startswith(("w_fin", "final deflection w_fin")):
        leading = deflection.Sag(sag(variable), psi.combination, psi.quasi_permanent)
        return deflection.final(sag(permanent), leading, (), kdef)
    return None


def vibrating(x: dict[str, Any]) -> float | None:
    q = x["quantity"]
    if "strength_class" in x:
        of = timber(x["strength_class"])
        one = of.e * x["width_mm"] * x["depth_mm"] ** 3 / 12
    span = x["span_m"] if "span_m" in x else x["span_mm"] / 1000
    if q.startswith("mid-span deflection of one joist under 1 kN"):
        return floors.sag_under_a_person(span * 1000, one)
    if q.startswith("unit impulse velocity response v, (7.6)"):
        return floors.impulse_velocity(
            span,
            x["floor_width_m"],
            x["EI_along_joists_Nm2_per_m"],
            x["EI_across_Nm2_per_m"],
            x["floor_mass_kg_m2"],
        )
    along = one * 1e-6 / (x["spacing_mm"] / 1000)  # N m² a metre
    mass = x["floor_mass_kg_m2"]
    first = floors.frequency(span, along, mass)
    if q.startswith("fundamental frequency f1"):
        return first
    if q.startswith("unit impulse velocity response over its limit"):
        across = x["deck_E_N_mm2"] * x["deck_thickness_mm"] ** 3 / 12 / 1000
        found = floors.impulse_velocity(span, x["floor_width_m"], along, across, mass)
        return found / floors.velocity_limit(
            x["velocity_constant_b"], first, x["damping_ratio_zeta"]
        )
    return None


def members(x: dict[str, Any]) -> float | None:
    """Topics that mix the clauses: by the first that knows the quantity."""
    q = x["quantity"]
    if q.startswith("bending utilisation"):
        return bent(x)
    if "shear" in q:
        return sheared(x)
    if "perpendicular" in q:
        return pressed_across(x)
    if "deflection" in q:
        return sagging(x)
    return pressed_along(x)
