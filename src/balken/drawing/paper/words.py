"""What is written beside views: sizes, loads and materials of what a plan shows, pieces of a wall, the
trusses of a kind."""

import textwrap

from balken.drawing.foundation_words import sizes_of
from balken.drawing.tiers import Tier
from balken.drawing.truss_figure import truss_notes
from balken.drawing.wall_elevation import piece_list
from balken.drawing.wall_sheets import sheet_words
from balken.drawing.words import pretty
from balken.framing.ground.anchors import APART
from balken.model.floors import FloorArea
from balken.model.foundations import FoundationRun
from balken.model.names import HostName
from balken.model.project import Project, host_record, wall
from balken.model.roofs import RoofArea
from balken.takeoff.sheets import sheets_on
from balken.takeoff.trusses import TrussKind
from balken.units import System, format_area_load, format_length, format_run
from balken.units.pitch import format_pitch
from balken.works.building import Checked, worst_of


def host_notes(checked: Checked, tier: Tier) -> list[str]:
    """Sizes, loads and materials of what a plan shows."""
    host = tier.host
    notes = _of_host(checked, host) if host is not None else []
    materials = dict.fromkeys(m.material for m in checked.structure.members if tier.holds(m.host))
    return notes + [f"  {m}" for m in materials]


def _of_host(checked: Checked, host: HostName) -> list[str]:
    """What is noted of a floor, a roof or the foundations."""
    notes = _size_notes(checked, host)
    if host.kind == "run":
        return notes + _foundation_notes(checked.project)
    record, system = host_record(checked.project, host), checked.project.system
    if isinstance(record, FloorArea):
        live, dead = (format_area_load(x, system) for x in (record.live, record.dead))
        notes.append(f"  {live} live, {dead} dead")
    if isinstance(record, RoofArea):
        snow, live = (format_area_load(x, system) for x in (record.snow, record.live))
        pitch = format_pitch(record.rise, system)
        notes.append(f"  {pitch}, overhang {format_run(record.overhang, system)}")
        notes.append(f"  {snow} snow, {live} roof live")
    return notes


def _size_notes(checked: Checked, host: HostName) -> list[str]:
    """Section, spacing and count of a host's pieces, and how far they are used."""
    sized, system = checked.sizes.get(host), checked.project.system
    if sized is None:
        return []
    count = sum(m.host == host and m.carrier.area > 0 for m in checked.structure.members)
    spacing = format_run(sized.size.spacing, system)
    ratio, check, _ = worst_of(checked, host)
    span = format_length(sized.span, system)
    return [
        f"{pretty(sized.size.section)} at {spacing}, {count} pieces",
        f"  span {span}, {check.lower()} {ratio:.2f} of 1.00",
    ]


def _foundation_notes(project: Project) -> list[str]:
    """What each foundation is, and what it stands in."""
    site, system = project.site, project.system
    return [
        *(f"{r.name}: {sizes_of(r, project)}{_anchored(r, system)}" for r in project.runs),
        f"  soil bearing {format_area_load(site.soil_bearing, system)} presumed",
        f"  bottoms {format_length(site.frost_depth, system)} or more below the ground",
    ]


def _anchored(run: FoundationRun, system: System) -> str:
    """The sill of a foundation and what holds it down."""
    if not run.sill:
        return ""
    bolt = format_run(run.bolt, system)
    apart = format_run(run.bolts_apart or APART, system)
    return f"; sill {pretty(run.sill)}, anchor bolts {bolt}, {apart} apart or less"


def wall_words(checked: Checked, host: HostName) -> list[str]:
    """The pieces of a wall, its panels and its sheets."""
    item = wall(checked.project, host.key)
    system = checked.project.system
    return [
        *piece_list(checked, host),
        *(sheet_words(x, system) for x in sheets_on(checked, item)),
    ]


def truss_words(checked: Checked, kind: TrussKind) -> list[str]:
    """What is noted of a kind of truss."""
    strength = kind.record.trusses.plate_strength
    return truss_notes(checked, kind.roof, kind.first, list(kind.rows), strength)


def wrapped(text: str, width: int) -> list[str]:
    """Words in lines of at most ``width`` letters; what is set in stays set in."""
    inset = "  " if text.startswith("  ") else ""
    return textwrap.wrap(text, width, initial_indent=inset, subsequent_indent=inset) or [""]
