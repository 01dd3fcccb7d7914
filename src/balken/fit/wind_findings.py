"""Findings on wind and earthquake: what they lift off the soil, storeys with nothing in their way, and
that they are not counted where they are not typed."""

from collections.abc import Iterable
from typing import Final

from balken.fit.finding import Finding, Kind
from balken.fit.places import place_name
from balken.geometry.plane import Point
from balken.loads.path import place_of
from balken.loads.sideways import PAST
from balken.loads.wind import wind_by
from balken.model.names import ThingName
from balken.units import format_force, format_length
from balken.works.building import Checked
from balken.works.held_down import lifted_off

SITE: Final = ThingName("page", "Foundation")
"""Where the site is typed."""


def wind_findings(checked: Checked) -> Iterable[Finding]:
    """All that is told of wind and earthquake."""
    yield from _not_counted(checked)
    yield from _zones_not_typed(checked)
    yield from _lifted(checked)
    yield from _unbraced(checked)


def _not_counted(checked: Checked) -> Iterable[Finding]:
    """A roof stands in the wind: where none is typed, that is told."""
    roofs = len(checked.project.roofs)
    if checked.project.site.wind is None and roofs:
        yield Finding(
            "unchecked",
            "whole building",
            1.0,
            "count",
            f"Wind on {roofs} {'roof' if roofs == 1 else 'roofs'} is not counted: no wind speed is"
            " typed for the site. What it lifts and pushes is not known; type it under Site, or name"
            " the place there.",
            SITE,
        )


def _zones_not_typed(checked: Checked) -> Iterable[Finding]:
    """By US codes rafters are components, whose coefficients have to be typed."""
    project = checked.project
    wind, framed = project.site.wind, [r for r in project.roofs if r.framing != "trusses"]
    if project.code != "us" or wind is None or wind.zones is not None or not framed:
        return
    yield Finding(
        "unchecked",
        "whole building",
        float(len(framed)),
        "count",
        "Wind lifts rafters harder along the edges and in the corners of a roof than the roof as a"
        " whole: that is not counted until GCp of the zones is typed under Site, from ASCE 7-16"
        " figure 30.3-2 for the area of one rafter.",
        SITE,
    )


def _lifted(checked: Checked) -> Iterable[Finding]:
    """Footings that even with their own weight do not hold what the wind lifts."""
    project, structure = checked.project, checked.structure
    rules = wind_by(project.code, project.site.left_open)
    by_id = {m.id: m for m in structure.members}
    for name, force in lifted_off(rules, checked.path):
        m = by_id[name]
        at = place_of(m)
        yield Finding(
            "wind",
            f"{m.mark}, {place_name(project, at)}",
            force,
            "N",
            f"Wind lifts {m.mark}, {place_name(project, at)}, by"
            f" {format_force(force, project.system)} more than it weighs with all that stands on it"
            f" ({rules.holding_words}). Make the footing heavier, or bring more dead load to it.",
            m.host,
            (name,),
            at,
        )


def _unbraced(checked: Checked) -> Iterable[Finding]:
    """Storeys that no wall braces one way, or only one line, which lets them turn; and floors and
    roofs that reach far past the last line."""
    project = checked.project
    for storey in checked.sideways:
        top, way = format_length(storey.top, project.system), compass(storey.way)
        force = max(storey.wind, storey.quake)
        kind: Kind = "wind"
        if force > 0 and len(storey.lines) < 2:
            lack = "no wall stands" if not storey.lines else "only one line of walls stands"
        elif storey.past > 0:
            force, kind = storey.past, "unchecked"
            lack = f"the last wall stands more than {format_length(PAST, project.system)} from it"
        else:
            continue
        yield Finding(
            kind,
            f"storey to {top}",
            force,
            "N",
            f"{format_force(force, project.system)} push the storey that ends at {top} {way}, and"
            f" {lack} that way. Add a wall, or say in a wall’s slip that it braces; frames and"
            " bracing between posts are not worked out here: check them by hand.",
            None,
        )


def compass(way: Point) -> str:
    """Along which line a force acts, in words."""
    x, y = abs(way[0]), abs(way[1])
    if x > 0.92:
        return "east or west"
    if y > 0.92:
        return "north or south"
    return "north-east or south-west" if way[0] * way[1] > 0 else "north-west or south-east"
