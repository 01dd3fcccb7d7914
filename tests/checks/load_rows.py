"""Rows on loads by ASCE 7-16, EN 1990 and EN 1991: from their words to the program's own
clauses."""

import math
from typing import Any

from balken.design.codes.eu.ec5 import factors
from balken.loads.codes.eu import combinations as en
from balken.loads.codes.eu import snow as snow_en
from balken.loads.codes.eu import wind as wind_en
from balken.loads.codes.us import combinations, earthquake, live, snow, wind
from balken.units import FOOT, INCH, KPA, LB, MPH, PSF

KIP = 1000 * LB


def _loads(x: dict[str, Any]) -> dict[combinations.Action, float]:
    return {a: x[k] for a in combinations.ACTIONS for k in (f"{a}_psf", f"{a}_lb") if k in x}


def combined_us(x: dict[str, Any]) -> float | None:
    q, loads = x["quantity"], _loads(x)
    if q.startswith(
        ("greatest of (total / CD)", "greatest (total / CD)", "greatest (total load / CD)")
    ):
        return combinations.worst_by_duration(loads).over_duration
    if q.startswith("number (1 to 7)"):
        return combinations.worst_by_duration(loads).number
    if q.startswith("greatest net uplift"):
        return -combinations.least(loads)
    if q == "greatest total load":
        return combinations.greatest(loads)
    if q == "greatest factored load":
        return combinations.greatest(loads, combinations.STRENGTH)
    return None


def reduced(x: dict[str, Any]) -> float | None:
    if not x["quantity"].startswith("design live load L"):
        return None
    area = x["tributary_area_ft2"] * FOOT**2
    return live.reduced(x["Lo_psf"] * PSF, area, x["KLL"], x["floors_carried"]) / PSF


def _angle(x: dict[str, Any]) -> float:
    return math.degrees(math.atan(x["rise_per_12"] / 12))


def snow_us(x: dict[str, Any]) -> float | None:
    q = x["quantity"]
    if q.startswith("slope factor Cs"):
        slippery = x["unobstructed_slippery_surface"]
        thermal = 1.0 if "warm" in q else 1.1 if "1.1" in q else 1.2
        return snow.slope_factor(x["roof_angle_deg"], thermal, slippery=slippery)
    ground, importance = x["ground_snow_psf"] * PSF, x["Is"]
    if q == "flat roof snow load pf":
        return snow.flat(ground, x["Ce"], x["Ct"], importance) / PSF
    if q == "sloped roof snow load ps":
        slippery = x["unobstructed_slippery_surface_with_the_insulation_7.4.1_asks"]
        cs = snow.slope_factor(_angle(x), x["Ct"], slippery=slippery)
        return cs * snow.flat(ground, x["Ce"], x["Ct"], importance) / PSF
    if q.startswith("unbalanced load on the leeward side"):
        cs = snow.slope_factor(_angle(x), x["Ct"])
        balanced = cs * snow.flat(ground, x["Ce"], x["Ct"], importance)
        simple = x["framing"].startswith("simply supported prismatic rafters")
        width = x["eave_to_ridge_ft"] * FOOT
        slope = x["rise_per_12"] / 12
        found = snow.unbalanced(ground, balanced, slope, width, importance, simple_rafters=simple)
        return found.leeward / PSF if found is not None and not found.drift else None
    if q.startswith("balanced load plus drift"):
        balanced = x["balanced_snow_lower_roof_psf"] * PSF
        drift = snow.drift_at_step(
            ground,
            balanced,
            x["upper_roof_length_ft"] * FOOT,
            x["lower_roof_length_ft"] * FOOT,
            x["upper_eave_above_lower_roof_ft"] * FOOT,
            importance,
        )
        return (balanced + (drift.load if drift else 0.0)) / PSF
    return None


def wind_us(x: dict[str, Any]) -> float | None:
    q = x["quantity"]
    if q == "velocity pressure qz":
        kz = wind.exposure_factor(x["height_ft"] * FOOT, x["exposure"])
        ke = wind.elevation_factor(x["ground_elevation_ft"] * FOOT)
        speed = x["basic_wind_speed_mph"] * MPH
        return wind.velocity_pressure(speed, kz, x["Kzt"], x["Kd"], ke) / PSF
    qh = x.get("velocity_pressure_qh_psf", 0.0) * PSF
    if q.startswith("component and cladding design pressure"):
        return wind.cladding_pressure(qh, x["GCp"]) / PSF
    if q.startswith("uplift at one truss end"):
        return (
            wind.uplift_at_end(
                qh,
                x["GCp"],
                x["dead_load_psf"] * PSF,
                x["span_ft"] * FOOT,
                x["eave_overhang_ft"] * FOOT,
                x["spacing_in"] * INCH,
            )
            / LB
        )
    return None


def suction_on_stud(x: dict[str, Any]) -> float:
    """Of the topic of studs: the pressure alone."""
    length, gap = x["stud_length_in"] * INCH, x["spacing_in"] * INCH
    way = "out" if "suction" in x["quantity"] else "in"
    zone, angle = x["wall_zone"], x["roof_angle_deg"]
    coefficient = wind.wall_coefficient(zone, way, wind.effective_area(length, gap), angle)
    speed = x["basic_wind_speed_mph"] * MPH
    qh = wind.velocity_pressure(speed, x["Kz"], x["Kzt"], x["Kd"], x["Ke"])
    return wind.cladding_pressure(qh, coefficient) / PSF


def earthquake_us(x: dict[str, Any]) -> float | None:
    q = x["quantity"]
    if "force at the roof level" in q:
        weights = [w * KIP for w in x["weights_from_below_kip"]]
        heights = [h * FOOT for h in x["level_heights_ft"]]
        forces = earthquake.level_forces(
            x["base_shear_kip"] * KIP, weights, heights, x["period_T_s"]
        )
        return forces[-1] / KIP
    if "base shear" not in q:
        return None
    shaking = earthquake.Shaking(x["SDS"], x["SD1"])
    height, weight = x["structural_height_hn_ft"] * FOOT, x["seismic_weight_kip"] * KIP
    shear = earthquake.base_shear(shaking, weight, height, x["R"], x["Ie"])
    return shear * (earthquake.ALLOWABLE if "0.7E" in q else 1.0) / KIP


def _actions(x: dict[str, Any]) -> list[en.Action]:
    return [en.Action(a, c) for a, c in zip(x["variable_kN"], x["variable_categories"])]


def combined_en(x: dict[str, Any]) -> float | None:
    q, permanent, actions = x["quantity"], x["permanent_kN"], _actions(x)
    partial = en.Partial(x.get("gammaG", 1.35), 1.0, x.get("gammaQ", 1.5), x.get("xi", 0.85))
    if "effect / kmod" in q:
        service = x["service_class"]
        lasting = [
            en.Lasting(a, factors.kmod(service, d))
            for a, d in zip(actions, x["variable_durations"])
        ]
        alone = factors.kmod(service, "permanent")
        return en.worst_over_kmod(permanent, alone, lasting, partial)
    if "(6.10a)" in q:
        return en.design_effect_ab(permanent, actions, partial)
    if "6.10" in q:
        return en.design_effect(permanent, actions, partial)
    if q.startswith("quasi-permanent"):
        return en.quasi_permanent(permanent, actions)
    if q.startswith("frequent"):
        return en.frequent(permanent, actions)
    if q.startswith("characteristic"):
        return en.characteristic(permanent, actions)
    return None


def snow_eu(x: dict[str, Any]) -> float | None:
    q = x["quantity"]
    if "mu2" in q:
        return snow_en.mu2(x["roof_angle_deg"])
    if "mu1 (no snow guards)" in q:
        return snow_en.mu1(x["roof_angle_deg"])
    ground = x.get("sk_kN_m2", x.get("ground_snow_kN_m2")) * KPA
    ce, ct = x["Ce"], x["Ct"]
    if q.startswith("snow on the roof per plan area"):
        shape = snow_en.mu1(x["roof_angle_deg"], guarded=x["snow_guards_or_parapet"])
        return snow_en.on_roof(ground, shape, ce, ct) / KPA
    if q.startswith("total vertical snow per metre of ridge"):
        shapes = (snow_en.mu1(x["left_angle_deg"]), snow_en.mu1(x["right_angle_deg"]))
        half_left = snow_en.drifted_shapes(*shapes)[1]
        widths = (x["left_plan_width_m"], x["right_plan_width_m"])
        return sum(snow_en.on_roof(ground, m, ce, ct) / KPA * w for m, w in zip(half_left, widths))
    if q.startswith("snow on the lower flat roof"):
        step = x["height_step_h_m"] * 1000
        wall = snow_en.step_shape(
            ground, step, x["upper_roof_width_b1_m"] * 1000, x["lower_roof_width_b2_m"] * 1000
        )
        at = x["distance_from_wall_m"] * 1000
        shape = snow_en.step_shape_at(at, wall, snow_en.drift_length(step))
        return snow_en.on_roof(ground, shape, ce, ct) / KPA
    return None


def wind_eu(x: dict[str, Any]) -> float | None:
    if not x["quantity"].startswith("peak velocity pressure"):
        return None
    return (
        wind_en.peak_pressure(
            x["basic_wind_velocity_m_s"],
            x["height_z_m"] * 1000,
            x["terrain_category"],
            x["orography_c0"],
            x["air_density_kg_m3"],
            x["kI"],
        )
        / KPA
    )


def snow_and_combinations(x: dict[str, Any]) -> float | None:
    """A topic that mixes both."""
    if x["code"].startswith("EN 1991"):
        return snow_eu(x)
    if x["code"].startswith("EN 1990"):
        return combined_en(x)
    return combined_us(x) if "D_psf" in x else snow_us(x)
