"""From a row's inputs to a call of the program, one adapter per topic. Returns None for a quantity
it does not know."""

import math
import re
from collections.abc import Callable
from typing import Any, NamedTuple

import clause_rows
import concrete_rows
import joint_rows
import load_rows
import roof_rows
import timber_eu_rows
from beam_rows import beam_utilisation, column_capacity, statics
from msgspec.structs import replace
from truss_rows import truss_forces

from balken.design.codes.us import aci_pads, aci_plain, aci_walls, irc_soil
from balken.design.codes.us.nds import factors
from balken.design.codes.us.nds.values import reference
from balken.design.soil import pressure, sizes
from balken.design.spans import Limits, SpanAsked, bearing_needed, span_limits, table_span
from balken.exchange.span_text import read_grade, read_species
from balken.framing import kinds
from balken.framing.ground.anchors import least_bolts
from balken.geometry import framing_square
from balken.model.catalogue import dressed
from balken.model.edits.roofs import set_roof
from balken.model.masonry import LengthKind, courses, full_units, modular, nearest
from balken.model.new import new_building
from balken.model.project import FORMAT, Level, Project
from balken.model.sections import Section
from balken.model.validity import validate
from balken.model.walls import Layer, Module, Opening, Wall, WallBuildUp
from balken.site.block_module import module_lengths
from balken.site.proposals import propose_structure
from balken.units import FOOT, INCH, KPA, LB, LBFT, PCF, PLF, PSF, PSI
from balken.works.building import work_out
from buildings import house
from named import the

Inputs = dict[str, Any]
Adapter = Callable[[Inputs], float | None]

MEMBERS = {"floor": "joist", "deck": "joist", "ceiling": "ceiling joist", "rafter": "rafter"}


def nominal(text: str) -> tuple[int, int]:
    a, b = text.lower().split("x")
    return int(a), int(b)


def section(text: str) -> Section:
    size = nominal(text)
    return Section(text, size, *dressed(size))


def question(x: Inputs) -> SpanAsked:
    species = read_species(x["species"])
    live, kind = next(
        (x[key], kind)
        for key, kind in (
            ("live_load_psf", "L"),
            ("roof_live_load_psf", "Lr"),
            ("snow_load_psf", "S"),
        )
        if key in x
    )
    if kind == "L" and x.get("load_duration_CD", 1.0) != 1.0:
        kind = {1.25: "Lr", 1.15: "S"}[x["load_duration_CD"]]
    total = x.get("total_deflection_limit_L_over")
    return SpanAsked(
        MEMBERS[x["member"].split(",")[0].split()[0]],
        species,
        read_grade(x["grade"], species),  # type: ignore[arg-type]
        section(x["nominal_size"]),
        x["spacing_in"] * INCH,
        live * PSF,
        x["dead_load_psf"] * PSF,
        kind,  # type: ignore[arg-type]
        x["live_deflection_limit_L_over"],
        total,
        x.get("wet_service", False),
        x.get("incised", False),
    )


def _free(limits: Limits) -> float:
    """The span by bending and deflection, as the rows without further limits mean it."""
    return min(limits.bending, limits.live_deflection, limits.total_deflection)


def span(x: Inputs) -> float | None:
    asked = question(x)
    limits = span_limits(asked)
    quantity = x["quantity"]
    if quantity.startswith("allowable simple span, nearest inch"):
        return table_span(asked) / INCH
    if quantity == "allowable simple span, not rounded":
        return _free(limits) / INCH
    alone = {
        "span limited by bending alone": limits.bending,
        "span limited by live-load deflection alone": limits.live_deflection,
        "span limited by total-load deflection alone": limits.total_deflection,
        "span limited by shear alone (whole support reaction)": limits.shear,
    }
    if quantity in alone:
        return alone[quantity] / INCH
    if quantity.startswith("bearing length needed at the allowable (unrounded) span"):
        return bearing_needed(asked, _free(limits)) / INCH
    return None


def masonry(x: Inputs) -> float | None:
    quantity = x["quantity"]
    length = float(x["unit_mm"].split(" x ")[0])
    joint = float(x["joint_mm"])
    module = Module(float(x["module_mm"]), float(x["unit_mm"].split(" x ")[1]) + joint, joint)
    assert length + joint == 2 * module.length, "half bond"
    kinds: dict[str, LengthKind] = {
        "external": "outside",
        "opening": "opening",
        "in-between": "between",
    }
    words = quantity.split()
    if quantity.startswith("full "):
        return full_units(x["n"])
    if words[1:] == ["length", "of", "n", "modules"]:
        return modular(x["n"], kinds[words[0]], module)
    if quantity.startswith("nearest modular"):
        return nearest(x["wanted_mm"], kinds[words[2]], module)
    if quantity.startswith("courses needed"):
        return courses(x["wall_height_mm"], module)
    beside = re.match(
        r"wall left beside a (\d+)-module opening that starts (\d+) mm from the end of a (\d+) mm wall",
        quantity,
    )
    if beside:
        n, start, whole = (int(v) for v in beside.groups())
        wall = Wall(
            "W", "w", (0.0, 0.0), (float(whole), 0.0), 190.0, "left", "L", "P", build_up="X"
        )
        hole = Opening("o", "opening", float(start), modular(n, "opening", module), 2000.0, 0.0)
        levels = (Level("L", "Floor", "floor", 0.0), Level("P", "Plate", "plate", 2600.0))
        body = WallBuildUp("X", (Layer("block", 190.0, "core"),), module)
        made = Project(
            FORMAT,
            "",
            "metric",
            "eu",
            levels,
            walls=(replace(wall, openings=(hole,)),),
            wall_build_ups=(body,),
        )
        found = module_lengths(validate(made))
        assert all(abs(item.off) < 1e-6 for item in found)
        return found[-1].length
    return None


def design_values(x: Inputs) -> float | None:
    q = x["quantity"]
    if "reference value times size factor" in q:
        species = read_species(x["species"])
        grade, size = read_grade(x["grade"], species), nominal(x["nominal_size"])
        found = reference(species, grade, size)
        name = q.split()[0].lower()
        value = {"fb": found.fb, "ft": found.ft, "fc": found.fc}[name]
        return value * factors.size_factor(name, species, grade, size) / PSI  # type: ignore[arg-type]
    if q.startswith("beam stability factor CL"):
        return factors.beam_stability(
            x["width_in"] * INCH,
            x["depth_in"] * INCH,
            x["unbraced_length_in"] * INCH,
            x["Fb_star_psi"] * PSI,
            x["Emin_adjusted_psi"] * PSI,
        )
    if q == "volume factor CV":
        return factors.volume_factor(
            x["glulam_width_in"] * INCH,
            x["depth_in"] * INCH,
            x["length_between_zero_moment_ft"] * FOOT,
            southern_pine=x["southern_pine"],
        )
    if q == "bearing value at an angle to grain":
        return factors.bearing_at_angle(
            x["Fc_star_psi"], x["Fc_perp_adjusted_psi"], math.radians(x["angle_to_grain_deg"])
        )
    if q == "bearing area factor Cb":
        return factors.bearing_area_factor(
            x["bearing_length_in"] * INCH, x["distance_to_end_in"] * INCH
        )
    if q == "section modulus about the strong axis":
        return section(x["nominal_size"]).modulus / INCH**3
    if q == "moment of inertia about the strong axis":
        return section(x["nominal_size"]).inertia / INCH**4
    if q.startswith("area"):
        return section(x["nominal_size"]).area / INCH**2
    return None


class CommonRafter(NamedTuple):
    """What a common rafter measures, in."""

    length: float
    """Along the slope from the outer wall line to the face of the ridge."""
    tail: float
    height_above_plate: float


def rafter(x: Inputs) -> CommonRafter:
    """Return the measures of a common rafter as it is framed in a whole building."""
    run, slope = x["run_to_ridge_centre_in"] * INCH, x["rise_per_12"] / 12
    assert x["ridge_thickness_in"] == 1.5, "lumber is 1½ in thick"
    names = {5.5: "2x6", 7.25: "2x8", 9.25: "2x10", 11.25: "2x12"}
    made = set_roof(
        house(3 * run, 2 * run),
        "R1",
        rise=x["rise_per_12"],
        overhang=x["level_overhang_in"] * INCH,
        seat=x["level_seat_cut_in"] * INCH,
        section=names[x["depth_in"]],
        spacing=24 * INCH,
    )
    checked = work_out(made)
    outline = checked.structure.of(kinds.RAFTER)[4].solid.outline
    steep = math.hypot(1.0, slope)
    runs = [p[0] for p in outline]  # from the outer wall line
    heel = checked.structure.roofs[the("roof:R1")].heel
    return CommonRafter(max(runs) * steep / INCH, -min(runs) * steep / INCH, heel / INCH)


def _single(x: Inputs) -> dict[str, Callable[[], float]]:
    s = x["rise_per_12"] / 12
    return {
        "length of common rafter per 12 in of run": lambda: framing_square.common_length(s),
        "length of hip or valley per 12 in of common run": lambda: framing_square.hip_length(s),
        "hip or valley slope angle, equal pitches, square corner": lambda: math.degrees(
            framing_square.hip_angle(s)
        ),
        "difference in length of jack rafters": lambda: framing_square.jack_difference(
            s, x["spacing_in"]
        ),
        "framing square, side cut of jack rafters: figure taken against 12 in": lambda: (
            framing_square.jack_side_cut(s)
        ),
        "framing square, side cut of a regular hip or valley: figure taken against 12 in": (
            lambda: framing_square.hip_side_cut(s)
        ),
        "angle in the roof surface between jack rafter and hip": (
            lambda: math.degrees(framing_square.jack_surface_angle(s))
        ),
        "backing angle of a regular hip, each side": lambda: math.degrees(
            framing_square.backing_angle(s, s)
        ),
        "plumb drop of an unbacked regular hip": lambda: framing_square.hip_drop(
            s, x["hip_thickness_in"]
        ),
        "total sloping area of a gable roof": lambda: (
            roof_rows.gable(x["length_ft"], x["width_ft"], s).area
        ),
        "area of one gable triangle": lambda: (
            roof_rows.gable(2 * x["width_ft"], x["width_ft"], s).roof.top / FOOT * x["width_ft"] / 2
        ),
        "height above plate (plumb wood above the seat cut, at the outer wall line)": (
            lambda: rafter(x).height_above_plate
        ),
        "tail length along the slope": lambda: rafter(x).tail,
        "rafter length along the slope, outer wall line to ridge face (half ridge taken off),"
        " without tail": (lambda: rafter(x).length),
    }


def _irregular(x: Inputs) -> dict[str, Callable[[], float]]:
    a, b = x["pitch_a_rise_per_12"] / 12, x["pitch_b_rise_per_12"] / 12
    return {
        "slope angle of the hip": lambda: framing_square.irregular_hip_angle(a, b),
        "plan angle of the hip from the eaves line of roof a": lambda: (
            framing_square.irregular_hip_plan_angle(a, b)
        ),
        "backing angle on the side of roof a (section square to the hip)": lambda: (
            framing_square.backing_angle(a, b)
        ),
        "backing angle on the side of roof b (section square to the hip)": lambda: (
            framing_square.backing_angle(b, a)
        ),
    }


def roof_geometry(x: Inputs) -> float | None:
    q = x["quantity"]
    if "pitch_a_rise_per_12" in x:
        angle = _irregular(x).get(q)
        return math.degrees(angle()) if angle else None
    if x.get("roof", "").startswith("hip on a rectangle"):
        hip = roof_rows.hip(
            x["length_ft"],
            x["width_ft"],
            x["side_pitch_rise_per_12"] / 12,
            x["end_pitch_rise_per_12"] / 12,
        )
        figures = {
            "total sloping area": lambda: hip.area,
            "ridge length": lambda: hip.each("ridge")[0],
            "length of one hip": lambda: hip.each("hip")[0],
        }
        return figures[q]() if q in figures else None
    if x.get("roof", "").startswith("L, hipped"):
        ell = roof_rows.ell(
            x["main_length_ft"],
            x["main_width_ft"],
            x["wing_width_ft"],
            x["wing_projects_ft"],
            x["rise_per_12"] / 12,
        )
        figures = {
            "total sloping area": lambda: ell.area,
            "length of the main ridge": lambda: ell.each("ridge")[0],
            "length of the wing ridge": lambda: ell.each("ridge")[1],
            "length of the valley": lambda: ell.each("valley")[0],
            "total length of all hips incl. the broken hip": lambda: ell.lengths["hip"],
        }
        return figures[q]() if q in figures else None
    figure = _single(x).get(q)
    return figure() if figure else None


def _soil_class(text: str) -> str:
    """The table's own row for a soil as a person writes it."""
    words = text.lower()
    for mark, row in (
        ("crystalline", "crystalline bedrock"),
        ("foliated", "sedimentary and foliated rock"),
        ("sandy gravel", "sandy gravel and gravel"),
        ("silty sand", "silty sand, silty or clayey gravel"),
        ("clay", "clay, sandy or silty clay"),
    ):
        if mark in words:
            return row
    raise AssertionError(f"no row of the table is {text}")


def _construction(text: str) -> irc_soil.Construction:
    if "light" in text and "brick" not in text:
        return "light frame"
    return (
        "brick veneer or hollow masonry"
        if "hollow" in text or "veneer" in text
        else "solid or grouted masonry"
    )


def _own_weight(text: str) -> tuple[float, float]:
    """Weight of concrete and thickness, from “150 pcf, thickness 12 in”; nothing where it is in the
    load already."""
    found = re.match(r"([\d.]+) pcf, thickness ([\d.]+) in", text)
    return (float(found[1]) * PCF, float(found[2]) * INCH) if found else (0.0, 0.0)


def _square(x: Inputs) -> dict[str, float]:
    """The figures of a square pad under a square column, in the program's units."""
    side, column = x["pad_side_in"] * INCH, x["square_column_in"] * INCH
    return {
        "load": x["factored_load_lb"] * LB,
        "side": side,
        "column": column,
        "thick": x["thickness_in"] * INCH,
        "fc": x["fc_psi"] * PSI,
    }


def _pad(x: Inputs, q: str) -> float | None:
    p = _square(x)
    load, side, column, fc = p["load"], p["side"], p["column"], p["fc"]
    sides = (side, side)
    if "plain" in q:
        pressure, reach = load / side**2, (side - column) / 2
        if "punching" in q:
            return aci_plain.punching(load, sides, (column, column), p["thick"], fc)
        if "flexure" in q:
            return aci_plain.flexure(pressure, reach, p["thick"], fc)
        return aci_plain.one_way_shear(pressure, reach, p["thick"], fc) if "shear" in q else None
    depth, fy = x["mean_effective_depth_in"] * INCH, x["fy_psi"] * PSI
    moment = aci_pads.face_moment(load, sides, column)
    steel = aci_pads.steel_for(moment, side, depth, fc, fy)
    if q.startswith("punching"):
        force, held = aci_pads.punching(load, sides, (column, column), depth, fc)
        return force / held
    if q.startswith("one-way"):
        enough = max(steel, aci_pads.LEAST_STEEL * side * p["thick"])
        force, held = aci_pads.one_way(load, sides, column, depth, enough, fc)
        return force / held
    if q.startswith("factored moment"):
        return moment / (1000 * LBFT)
    return steel / INCH**2 if q.startswith("steel area each way") else None


def _basement(x: Inputs, q: str) -> float | None:
    height, fill, fluid = (
        x["height_ft"] * FOOT,
        x["backfill_height_ft"] * FOOT,
        x["equivalent_fluid_pcf"] * PCF,
    )
    earth = pressure.propped(height, fill, fluid)
    if q.startswith("greatest service moment"):
        return earth.moment / LB
    if q.startswith("reaction at the top"):
        return earth.top / PLF
    if q.startswith("reaction at the bottom"):
        return earth.bottom / PLF
    factored = 1.6 * earth.moment
    if q.startswith("plain concrete basement wall thickness"):
        return aci_plain.wall_thickness(factored, x["fc_psi"] * PSI) / INCH
    if q.startswith("vertical steel"):
        steel = aci_walls.vertical_steel(
            factored, x["effective_depth_in"] * INCH, x["fc_psi"] * PSI, x["fy_psi"] * PSI
        )
        return steel * FOOT / INCH**2
    return None


def _plain_strip(x: Inputs, q: str) -> float | None:
    reach = (x["footing_width_in"] - x["concrete_wall_in"]) / 2 * INCH
    soil, fc = x["factored_soil_pressure_psf"] * PSF, x["fc_psi"] * PSI
    if q.startswith("least overall thickness"):
        return aci_plain.least_thickness(soil, reach, fc) / INCH
    if q.startswith("flexural utilisation"):
        return aci_plain.flexure(soil, reach, x["thickness_in"] * INCH, fc)
    return (
        aci_plain.one_way_shear(soil, reach, x["thickness_in"] * INCH, fc) if "shear" in q else None
    )


def _concrete(x: Inputs, q: str) -> float | None:
    """Concrete of a rectangular house as the program frames and trims it, cubic yards."""
    from balken.model.edits import move_level, set_run

    role = "stem" if "foundation wall" in q else "footing" if "strip footing" in q else None
    if role is None:
        return None
    project = new_building(
        "House", x["outside_length_ft"] * FOOT, x["outside_width_ft"] * FOOT, 1, "us"
    )
    keep = tuple(w for w in project.walls if not w.name.startswith("middle"))
    project, _ = propose_structure(replace(project, walls=keep))
    top = next(v.elevation for v in project.levels if v.role == "foundation_top")
    base = top - x.get("wall_height_ft", 4) * FOOT
    project = move_level(project, "FB", base - x.get("footing_thickness_in", 10) * INCH)
    project = set_run(
        move_level(project, "FT", base),
        "G1",
        stem_thickness=x["wall_in"] * INCH,
        footing_width=x.get("footing_width_in", 20) * INCH,
    )
    done = work_out(project).structure
    return math.fsum(done.volume(m) for m in done.members if m.role == role) / (3 * FOOT) ** 3


def footing_sizes(x: Inputs) -> float | None:
    q = x["quantity"]
    if q == "presumptive load-bearing value":
        return round(irc_soil.SOIL_CLASSES[_soil_class(x["soil"])].bearing / PSF, 6)
    if q == "minimum footing width":
        width = irc_soil.prescriptive_width(
            _construction(x["construction"]), x["stories"], x["bearing_psf"] * PSF
        )
        return None if width is None else round(width / INCH, 6)
    if q == "strip footing width":
        weight, thick = _own_weight(x["own_weight_of_footing"])
        return (
            sizes.strip_width(
                x["line_load_lb_ft"] * PLF, x["allowable_bearing_psf"] * PSF, thick, weight
            )
            / FOOT
        )
    if q == "side of a square pad":
        weight, thick = _own_weight(x["own_weight_of_footing"])
        return (
            sizes.pad_side(
                x["column_load_lb"] * LB, x["allowable_bearing_psf"] * PSF, thick, weight
            )
            / FOOT
        )
    if q == "greatest soil pressure under a rigid pad":
        sides = (x["size_along_moment_m"] * 1000, x["size_across_m"] * 1000)
        return (
            pressure.under_pad(x["vertical_kN"] * 1000, (x["moment_kNm"] * 1e6, 0.0), sides).highest
            / KPA
        )
    if q.startswith("least number of"):
        return least_bolts(x["plate_length_in"] * INCH)
    if "must be stepped" in q:
        return float(sizes.must_step(x["ground_fall_ft"], x["over_ft"]))
    if "pad_side_in" in x:
        return _pad(x, q)
    if "equivalent_fluid_pcf" in x:
        return _basement(x, q)
    if "factored_soil_pressure_psf" in x:
        return _plain_strip(x, q)
    return _concrete(x, q) if q.startswith("concrete in") else None


ADAPTERS: dict[str, Adapter] = {
    "joist_span": span,
    "rafter_span": span,
    "ceiling_joist_span": span,
    "design_values": design_values,
    "masonry_modules": masonry,
    "roof_geometry": roof_geometry,
    "footing_sizes": footing_sizes,
    "statics_beam": statics,
    "truss_forces": truss_forces,
    "beam_utilisation": beam_utilisation,
    "column_capacity": column_capacity,
    "effective_length": clause_rows.stability_of,
    "glulam_us": clause_rows.glulam,
    "built_up_columns": clause_rows.built_up,
    "notches": clause_rows.notch,
    "rafter_beam_column": clause_rows.leaning,
    "point_load_on_strip": clause_rows.point_load,
    "retaining": clause_rows.earth,
    "steel_us": clause_rows.steel,
    "pads_rectangular": clause_rows.rectangular_pads,
    "wall_weights": clause_rows.wall_weights,
    "steel_eu": clause_rows.steel_eu,
    "bar_detailing": concrete_rows.bars,
    "slabs": concrete_rows.slabs,
    "grade_beams": concrete_rows.grade_beams,
    "ec5_bending": timber_eu_rows.bent,
    "ec5_shear": timber_eu_rows.sheared,
    "ec5_bearing": timber_eu_rows.pressed_across,
    "ec5_buckling": timber_eu_rows.pressed_along,
    "ec5_deflection": timber_eu_rows.sagging,
    "ec5_vibration": timber_eu_rows.vibrating,
    "vibration": timber_eu_rows.vibrating,
    "ec5_members": timber_eu_rows.members,
    "glulam_eu": timber_eu_rows.members,
    "snow_us": load_rows.snow_us,
    "snow_eu": load_rows.snow_eu,
    "wind_us": load_rows.wind_us,
    "wind_eu": load_rows.wind_eu,
    "seismic_us": load_rows.earthquake_us,
    "live_load_reduction": load_rows.reduced,
    "load_combinations_us": load_rows.combined_us,
    "combinations_eu": load_rows.combined_en,
    "snow_and_combinations": load_rows.snow_and_combinations,
    "fasteners": joint_rows.fasteners,
    "shear_walls": joint_rows.shear_walls,
    "wall_headers": joint_rows.headers,
    "wall_studs": joint_rows.studs,
    "creep_us": joint_rows.crept,
    "stock_cutting": joint_rows.stock,
}
