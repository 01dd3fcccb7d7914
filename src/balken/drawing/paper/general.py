"""General notes that follow from a project: codes, loads, materials, the ground; and those typed by hand."""

from collections.abc import Iterator

from balken.model.project import Project
from balken.model.usual import WOOD
from balken.units import format_area_load, format_length, format_speed
from balken.works.building import Checked
from balken.works.terms import terms_of


def general_notes(checked: Checked) -> list[str]:
    """Sentences, in the order of a set's first sheet."""
    return [
        *_codes(checked),
        *_loads(checked),
        *_ground(checked.project),
        *_wood(checked),
        *checked.project.paper.general,
    ]


def _codes(checked: Checked) -> Iterator[str]:
    yield f"Checked by {terms_of(checked.built).timber.basis}; the calculation is a book of its own."
    yield "Dimensions are of structure and outer faces of walls; do not scale from the sheets."


def _loads(checked: Checked) -> Iterator[str]:
    project = checked.project
    system, site = project.system, project.site
    for f in project.floors:
        live, dead = (format_area_load(x, system) for x in (f.live, f.dead))
        yield f"{f.name}: {live} live, {dead} dead."
    for r in checked.built.roofs:
        snow, live, dead = (format_area_load(x, system) for x in (r.snow, r.live, r.dead))
        yield f"Roof {r.name}: {snow} snow, {live} live, {dead} dead on the slope."
    wind, shake = site.wind, site.earthquake
    if wind is not None:
        us = project.code == "us"
        where = f"exposure {wind.exposure}" if us else f"terrain {wind.terrain}"
        yield f"Wind {format_speed(wind.speed, system)}, {where}."
    if shake is not None:
        yield f"Earthquake S_DS {shake.sds:g}, S_D1 {shake.sd1:g}, R {shake.response:g}."


def _ground(project: Project) -> Iterator[str]:
    site, system = project.site, project.system
    if project.runs or project.point_supports:
        yield (
            f"Soil {format_area_load(site.soil_bearing, system)} presumed; bottoms of footings"
            f" {format_length(site.frost_depth, system)} or more below the ground."
        )


def _wood(checked: Checked) -> Iterator[str]:
    materials = sorted({m.material for m in checked.structure.members if m.material != "concrete"})
    if materials:
        yield f"Wood and steel: {', '.join(materials)}."
    treated = WOOD[checked.project.code].sill
    if checked.project.runs:
        yield f"What lies on concrete: {treated}."
