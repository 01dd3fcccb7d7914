"""The report: one document about a building, for machines (``docs/report.md`` describes it) and for
people."""

import math
from collections.abc import Iterator
from typing import Any

from balken.fit.finding import KIND_WORDS, Finding, amount_text
from balken.framing.member import Member
from balken.loads.sideways import Storey
from balken.model.cases import CASE_NAMES, PRESSING, SYMBOLS, Cases, total
from balken.model.grids import grid_ends
from balken.model.project import (
    ROLE_WORDS,
    Project,
    Reference,
    column,
    wall_base,
    wall_build_up,
    wall_top,
)
from balken.model.walls import name_of, wall_length
from balken.units import format_force, format_length, format_run
from balken.works.building import Checked
from balken.works.held_down import Strap

REPORT_FORMAT = 1
Document = dict[str, Any]


def report(checked: Checked, findings: tuple[Finding, ...]) -> Document:
    """The whole report as plain data. Lengths mm, volumes mm³, forces N."""
    project, path = checked.project, checked.path
    return {
        "format": REPORT_FORMAT,
        "project": project.name,
        "system": project.system,
        "levels": [
            {"id": x.id, "name": x.name, "role": x.role, "elevation_mm": x.elevation}
            for x in column(project)
        ],
        "grid_lines": _grid_lines(project),
        "walls": _walls(project),
        "sizes": _sizes(checked),
        "members": _members(checked),
        "concrete": [_concrete(checked, m) for m in checked.structure.members if m.kind.concrete],
        "findings": [_finding(f) for f in findings],
        "loads": {
            "applied_N": _by_symbol(path.applied),
            "soil_reaction_N": _by_symbol(path.soil_total),
            "open_N": _by_symbol(total(e.forces for e in path.open_ends)),
            "beside_N": _by_symbol(total(b.forces for b in path.beside)),
        },
        "sideways": [_storey(s) for s in checked.sideways],
        "held_down": [_strap(s) for s in checked.straps],
        "references": [_reference(r) for r in project.references],
        "unread": [{"source": n.source, "what": n.what, "why": n.why} for n in project.notes],
    }


def _concrete(checked: Checked, m: Member) -> Document:
    return {
        "id": str(m.id),
        "kind": m.role,
        "host": str(m.host),
        "volume_mm3": checked.structure.volume(m),
    }


def _finding(f: Finding) -> Document:
    return {
        "kind": f.kind,
        "place": f.place,
        "amount": f.amount if math.isfinite(f.amount) else None,
        "measure": f.measure,
        "text": f.text,
        "host": str(f.host or ""),
        "members": [str(name) for name in f.members],
        "mend": f.mend.text if f.mend else None,
    }


def _reference(r: Reference) -> Document:
    return {
        "id": r.source or r.id,
        "name": r.name,
        "kind": r.kind,
        "outline_mm": [list(p) for p in r.outline],
        "bottom_mm": r.bottom,
        "top_mm": r.top,
    }


def _storey(s: Storey) -> Document:
    return {
        "base_mm": s.base,
        "top_mm": s.top,
        "way": list(s.way),
        "wind_N": s.wind,
        "earthquake_N": s.quake,
        "lines": [
            {
                "walls": list(x.walls),
                "length_mm": x.length,
                "wind_N": x.wind,
                "earthquake_N": x.quake,
            }
            for x in s.lines
        ],
    }


def _strap(s: Strap) -> Document:
    on = str(s.on) if s.on is not None else None
    return {"what": str(s.what), "on": on, "force_N": s.force}


def _by_symbol(amounts: Cases) -> Document:
    """Every case that presses, and what lifts where wind does."""
    return {
        SYMBOLS[name]: amount
        for name, amount in zip(CASE_NAMES, amounts)
        if amount or name in PRESSING
    }


def _grid_lines(project: Project) -> list[Document]:
    found = []
    for grid in project.grids:
        for line in grid.lines:
            start, end = grid_ends(grid, line)
            found.append(
                {"label": line.label, "grid": grid.id, "start_mm": list(start), "end_mm": list(end)}
            )
    return found


def _walls(project: Project) -> list[Document]:
    names = {x.id: x.name for x in project.levels}
    return [
        {
            "id": w.source or w.id,
            "key": w.id,
            "name": w.name,
            "storey": names[w.base],
            "start_mm": list(w.start),
            "end_mm": list(w.end),
            "length_mm": wall_length(w),
            "thickness_mm": w.thickness,
            "side": w.side,
            "shift_mm": w.shift,
            "base_mm": wall_base(project, w),
            "height_mm": wall_top(project, w) - wall_base(project, w),
            "build_up": name_of(body, project.system)
            if (body := wall_build_up(project, w))
            else None,
            "openings": [
                {
                    "id": o.id,
                    "kind": o.kind,
                    "width_mm": o.width,
                    "height_mm": o.height,
                    "sill_mm": o.sill,
                    "at_mm": o.at,
                }
                for o in w.openings
            ],
        }
        for w in project.walls
    ]


def _sizes(checked: Checked) -> list[Document]:
    return [
        {
            "host": str(s.host),
            "section": s.size.section,
            "spacing_mm": s.size.spacing,
            "span_mm": s.span,
            "depth_allowed_mm": None if math.isinf(s.allowed) else s.allowed,
        }
        for s in checked.sizes.values()
    ]


def _members(checked: Checked) -> list[Document]:
    found = []
    for m in checked.structure.members:
        used = checked.used.get(m.id)
        ratio = None if used is None or not math.isfinite(used[0]) else used[0]
        found.append(
            {
                "id": str(m.id),
                "mark": m.mark,
                "role": m.role,
                "host": str(m.host),
                "section": m.section,
                "material": m.material,
                "start_mm": list(m.start),
                "end_mm": list(m.end),
                "length_mm": m.length,
                "volume_mm3": checked.structure.volume(m),
                "cuts": list(m.cuts),
                "utilisation": ratio,
                "governing": used[1] if used else None,
                "supports": [
                    {"on": str(s.on or ""), "bearing_mm": s.length} for s in m.carrier.supports
                ],
                "touched": m.touched,
            }
        )
    return found


def for_people(checked: Checked, findings: tuple[Finding, ...]) -> str:
    """The report as text to read."""
    project = checked.project
    system = project.system
    length = format_length(sum(wall_length(w) for w in project.walls), system)
    openings = sum(len(w.openings) for w in project.walls)
    applied = format_force(sum(checked.path.applied), system)
    soil = format_force(sum(checked.path.soil_total), system)
    lines = [
        project.name,
        "",
        *_level_lines(project),
        "",
        f"  {len(project.walls)} walls, {length} in all, {openings} openings",
        *_size_lines(checked),
        "",
        f"  {applied} applied, {soil} into the soil",
        "",
    ]
    if project.notes:
        lines.append(f"  {len(project.notes)} things of the architect's file did not come in:")
        lines += [f"    {n.what} {n.source}: {n.why}" for n in project.notes]
        lines.append("")
    lines += _finding_lines(project, findings) or ["  Everything fits."]
    return "\n".join(lines) + "\n"


def _level_lines(project: Project) -> list[str]:
    """The levels from the highest down."""
    width = max((len(x.name) for x in project.levels), default=0)
    return [
        f"  {x.name:<{width}}  {format_length(x.elevation, project.system):>14} "
        f" {ROLE_WORDS[x.role]}"
        for x in reversed(column(project))
    ]


def _size_lines(checked: Checked) -> Iterator[str]:
    """What each floor and roof is framed with."""
    system = checked.project.system
    for host, sized in checked.sizes.items():
        count = sum(m.host == host and bool(m.carrier.supports) for m in checked.structure.members)
        gap = f" at {format_run(sized.size.spacing, system)}" if sized.size.spacing else ""
        size, span = sized.size.section + gap, format_length(sized.span, system)
        yield f"  {host}: {size}, {count} pieces, span {span}"


def _finding_lines(project: Project, findings: tuple[Finding, ...]) -> list[str]:
    lines = []
    for f in findings:
        lines.append(f"  {KIND_WORDS[f.kind]:<12} {amount_text(project, f):>9}  {f.text}")
        if f.mend:
            lines.append(f"  {'':<12} {'':>9}  Mend: {f.mend.text}.")
    return lines
