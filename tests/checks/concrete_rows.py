"""Rows on slabs, grade beams and bars in concrete by ACI 318-19 and EN 1992-1-1."""

from typing import Any

from balken.design.codes.eu import ec2_bars, ec2_pads, ec2_slabs
from balken.design.codes.us import aci_bars, aci_pads, aci_slabs
from balken.design.concrete.bars import BARS
from balken.units import FOOT, INCH, KPA, LB, PSF, PSI

KIP = 1000 * LB


def _moment_us(x: dict[str, Any]) -> float:
    """Of a simple span a foot wide, N mm."""
    load = (1.2 * x["dead_load_psf"] + 1.6 * x["live_load_psf"]) * PSF * FOOT
    return load * (x["span_ft"] * FOOT) ** 2 / 8


def _one_way_us(x: dict[str, Any]) -> float:
    d, fc, fy = x["effective_depth_in"] * INCH, x["fc_psi"] * PSI, x["fy_psi"] * PSI
    return aci_pads.steel_for(_moment_us(x), FOOT, d, fc, fy)


def slabs(x: dict[str, Any]) -> float | None:
    q, metric = x["quantity"], "fck_N_mm2" in x
    if q.startswith("one-way steel per foot") and "before the minimum" in q:
        return _one_way_us(x) / INCH**2
    if q.startswith("one-way steel per foot"):
        least = aci_slabs.least_of_slab(FOOT, x["thickness_in"] * INCH)
        return max(_one_way_us(x), least) / INCH**2
    if q.startswith("one-way steel per metre"):
        d, fck, fyk = x["effective_depth_mm"], x["fck_N_mm2"], x["fyk_N_mm2"]
        load = (1.35 * x["permanent_kN_m2"] + 1.5 * x["variable_kN_m2"]) * KPA * 1000
        moment = load * (x["span_m"] * 1000) ** 2 / 8
        needed = ec2_pads.steel_for(moment, 1000.0, d, fck, fyk)
        if "before the minimum" in q:
            return needed
        return max(needed, ec2_pads.least_steel(1000.0, d, fck, fyk))
    if not q.startswith("punching"):
        return None
    unit, end = (1.0, "mm") if metric else (INCH, "in")
    sides = (x[f"side_square_to_edge_c1_{end}"] * unit, x[f"side_along_edge_c2_{end}"] * unit)
    depth = x[f"effective_depth_{end}"] * unit
    if metric:
        return ec2_slabs.punching(
            x["VEd_kN"] * 1000,
            x["beta"],
            x["column"],
            sides,
            depth,
            x["rho_l"],
            x["fck_N_mm2"],
        )
    held = aci_slabs.punching(x["column"], sides, depth, x["fc_psi"] * PSI)
    return x["Vu_kip"] * KIP / held


def grade_beams(x: dict[str, Any]) -> float | None:
    q = x["quantity"]
    width, depth = x["width_in"] * INCH, x["effective_depth_in"] * INCH
    fc = x["fc_psi"] * PSI
    if q.startswith("steel area from flexure"):
        span = x["clear_span_ft"] * FOOT
        moment = x["factored_load_kip_ft"] * KIP / FOOT * span**2 / x["moment_is_wl2_over"]
        return aci_pads.steel_for(moment, width, depth, fc, x["fy_psi"] * PSI) / INCH**2
    if q.startswith("minimum flexural steel"):
        return aci_slabs.least_of_beam(width, depth, fc, x["fy_psi"] * PSI) / INCH**2
    if q.startswith("shear utilisation"):
        load = x["factored_load_kip_ft"] * KIP / FOOT
        force = load * (x["clear_span_ft"] * FOOT / 2 - depth)
        steel = x["tension_steel_in2"] * INCH**2
        return force / aci_slabs.shear_without_stirrups(width, depth, steel, fc)
    return None


def bars(x: dict[str, Any]) -> float | None:
    q = x["quantity"]
    if "bar_mm" in x:
        given = (x["bar_mm"], x["bar_stress_N_mm2"], x["fck_N_mm2"])
        if q.startswith("design anchorage length"):
            return ec2_bars.anchorage(*given, x["eta1"])
        if q.startswith("lap length"):
            return ec2_bars.lap(*given, x["alpha6"], x["eta1"])
        return None
    bar = next(b for b in BARS["us"] if b.name == f"#{x['bar_no']}")
    fc, fy = x["fc_psi"] * PSI, x["fy_psi"] * PSI
    if q.startswith("development length ldh of a standard hook"):
        return aci_bars.hook(bar, fc, fy, x["psi_e"] * x["psi_r"] * x["psi_o"]) / INCH
    factors = x["psi_t"] * x["psi_e"] * x["psi_g"]
    room: aci_bars.Room = x["cover_and_spacing"]
    if q.startswith("tension development length"):
        return max(aci_bars.LEAST, aci_bars.straight(bar, fc, fy, room, factors)) / INCH
    if q.startswith("tension lap length, class B"):
        return aci_bars.lap(bar, fc, fy, room, factors) / INCH
    return None
