"""Rows on fasteners, walls against wind, headers, studs, creep and stock: from their words to the
program's own clauses."""

from typing import Any

import load_rows
from beam_rows import beam_utilisation
from clause_rows import lumber

from balken.design.codes.us import sdpws
from balken.design.codes.us.nds import columns, creep, dowels
from balken.design.codes.us.nds.factors import bearing_area_factor
from balken.design.codes.us.nds.values import reference
from balken.exchange.span_text import read_grade, read_species
from balken.model.catalogue import sections_of
from balken.takeoff.stock import Wanted, least_stock
from balken.units import FOOT, INCH, LB, PLF, PSF, PSI


def _gravity(words: str) -> float:
    return float(words.rpartition("G ")[2])


def _nail(x: dict[str, Any], side: float, main: float) -> float:
    wood = dowels.bearing_of_nails(_gravity(x["both_members"]))
    yields = x["nail_bending_yield_Fyb_psi"] * PSI
    found = dowels.single_shear(
        x["nail_diameter_in"] * INCH,
        yields,
        dowels.Side(wood, main * INCH),
        dowels.Side(wood, side * INCH),
    )
    return found * x["load_duration_CD"]


def fasteners(x: dict[str, Any]) -> float | None:
    q = x["quantity"]
    if q.startswith("allowable lateral load Z' of one nail"):
        return _nail(x, x["side_member_in"], x["bearing_length_in_main_member_in"]) / LB
    if q.startswith("allowable load Z' of one sill bolt"):
        bolt = dowels.sill_bolt(
            x["bolt_diameter_in"] * INCH,
            x["sill_thickness_in"] * INCH,
            _gravity(x["sill"]),
            x["bearing_length_in_concrete_in"] * INCH,
        )
        return bolt * x["load_duration_CD"] / LB
    if q.startswith("least number of face nails"):
        span, gap = x["span_L_ft"] * FOOT, x["spacing_in"] * INCH
        rise = span / 2 * x["rise_per_12"] / 12
        thrust = x["load_per_horizontal_area_psf"] * PSF * gap * span**2 / (8 * rise)
        one = _nail(x, x["rafter_and_joist_thickness_in"], x["bearing_length_in_each_in"])
        return dowels.nails_at_heel(thrust, one)
    return None


def shear_walls(x: dict[str, Any]) -> float | None:
    q, height, length = x["quantity"], x["height_ft"] * FOOT, x["length_ft"] * FOOT
    if q == "utilisation in unit shear":
        nominal = x["nominal_unit_shear_wind_plf"] * PLF
        held = sdpws.allowable_unit_shear(nominal, _gravity(x["framing"]), height, length)
        return x["load_at_the_top_lb"] * LB / length / held
    if q.startswith("hold-down force"):
        force = x["load_at_the_top_0.6W_lb"] * LB
        return sdpws.hold_down(force, height, length, x["dead_load_D_on_the_wall_plf"] * PLF) / LB
    if q.startswith("deflection of the wall top"):
        words = x["end_posts"].replace(",", "").split()
        area, e = float(words[words.index("A") + 1]), float(words[words.index("E") + 1])
        return (
            sdpws.deflection(
                x["unit_shear_plf"] * PLF,
                height,
                length,
                (e * PSI, area * INCH**2),
                x["Ga_kip_per_in"] * sdpws.KIP_PER_INCH,
                x["hold_down_elongation_in"] * INCH,
            )
            / INCH
        )
    return None


def headers(x: dict[str, Any]) -> float | None:
    """Headers are beams of plies: asked of the same checks."""
    words = {"dead_load_plf": x["dead_load_plf"], "live_load_plf": x["live_or_snow_load_plf"]}
    as_beam = {**x, **words, "span_ft": x["simple_span_ft"], "member": "built-up header"}
    if x["quantity"].startswith("bending utilisation"):
        return beam_utilisation(as_beam)
    if x["quantity"].startswith("mid-span deflection from the live"):
        quantity = "mid-span deflection from live load"
        return beam_utilisation({**as_beam, "quantity": quantity})
    if "perpendicular to grain on the jack studs" in x["quantity"]:
        section = sections_of("us")[f"{x['plies']}-{x['ply_nominal']}"]
        species = read_species(x["species"])
        value = reference(species, read_grade(x["grade"], species), section.nominal)
        reaction = (as_beam["dead_load_plf"] + as_beam["live_load_plf"]) * PLF
        reaction *= x["simple_span_ft"] * FOOT / 2
        rest = x["jack_studs_each_end"] * x["jack_stud_thickness_in"] * INCH
        return reaction / (section.breadth * rest) / value.fc_perp
    return None


STUD_FACTOR_WORDS = "SDPWS 3.1.1.1: 1.35, in place of Cr"


def studs(x: dict[str, Any]) -> float | None:
    q = x["quantity"]
    if q.startswith(("greatest suction", "greatest pressure")):
        return load_rows.suction_on_stud(x)
    if q.startswith("utilisation (3.9-3)"):
        return _stud(x)
    if q.startswith("utilisation of the bottom plate"):
        species = read_species(x["plate_species"])
        value = reference(species, read_grade(x["plate_grade"], species), (2, 4))
        line = (x["wall_dead_load_plf"] + x["wall_live_load_plf"]) * PLF
        thick = x["stud_thickness_in"] * INCH
        stress = line * x["spacing_in"] * INCH / (thick * x["stud_depth_in"] * INCH)
        return stress / (value.fc_perp * bearing_area_factor(thick, 12 * INCH))
    return None


def _stud(x: dict[str, Any]) -> float | None:
    """D + 0.75 (0.6 W) + 0.75 S."""
    if x["stud_factor_on_Fb"] != STUD_FACTOR_WORDS and "1.15" not in x["stud_factor_on_Fb"]:
        return None
    section, value = lumber(x)
    gap, length, cd = x["spacing_in"] * INCH, x["stud_length_in"] * INCH, x["load_duration_CD"]
    axial = (x["wall_dead_load_plf"] + 0.75 * x["wall_snow_load_plf"]) * PLF * gap
    wind = 0.75 * 0.6 * x["wind_pressure_W_psf"] * PSF * gap
    allowed, _ = columns.allowable(
        section.breadth, section.depth, value.fc * cd, value.e_min, (length, 0.0)
    )
    factor = sdpws.stud_factor(section.depth)
    return columns.with_bending(
        axial / section.area,
        allowed / section.area,
        wind * length**2 / 8 / section.modulus,
        value.fb * cd * factor,
        value.e_min,
        length / section.depth,
    )


def crept(x: dict[str, Any]) -> float | None:
    if not x["quantity"].startswith("total mid-span deflection with creep"):
        return None
    section, value = lumber(x)
    gap, span = x["spacing_in"] * INCH, x["simple_span_ft"] * FOOT

    def sag(load: float) -> float:
        return 5 * load * PSF * gap * span**4 / (384 * value.e * section.inertia)

    kcr = creep.UNSEASONED if "unseasoned" in x["lumber"] else creep.SEASONED
    assert kcr == x["Kcr"], x["lumber"]
    return creep.total(sag(x["dead_load_psf"]), sag(x["live_load_psf"]), kcr) / INCH


def stock(x: dict[str, Any]) -> float | None:
    pieces = [Wanted(length * INCH, n) for length, n in x["pieces_length_in_and_count"]]
    kerf = x["kerf_in"] * INCH
    if "number of stock pieces" in x["quantity"]:
        return least_stock(pieces, [x["stock_length_ft"] * FOOT], kerf, [1.0])
    if "total length of stock" in x["quantity"]:
        lengths = [f * FOOT for f in x["stock_lengths_ft"]]
        return least_stock(pieces, lengths, kerf, lengths) / FOOT
    return None
