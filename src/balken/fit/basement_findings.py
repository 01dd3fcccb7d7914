"""What does not fit about a full basement: no prop yet, no headroom, strips over the soil that is
dug out."""

from collections.abc import Iterable
from functools import partial
from typing import Any

from shapely import Geometry, Polygon, union_all
from shapely import Point as Spot

from balken.fit.finding import (
    Finding,
    Mend,
    run_text,
    us_clause,
)
from balken.fit.places import place_name
from balken.framing import kinds
from balken.framing.hosts.runs import heights_of
from balken.framing.member import Member
from balken.geometry.plane import TOUCH
from balken.loads.path import place_of
from balken.model.edits.basements import LEAST_ROOM
from balken.model.edits.foundations import set_foundation
from balken.model.foundations import WITH_STEM, FoundationRun, walls_on
from balken.model.names import HostName
from balken.works.building import Checked


def basement_findings(
    checked: Checked, run: FoundationRun, flat: float | None
) -> Iterable[Finding]:
    """What does not fit about a foundation that is a basement; ``flat`` is the height of the
    level ground, mm."""
    if run.kind == "basement":
        yield from _unpropped(checked, run, flat)
        yield from _low_basement(checked, run)
        yield from _hangs_in_the_basement(checked, run)


def _unpropped(checked: Checked, run: FoundationRun, flat: float | None) -> Iterable[Finding]:
    """A basement wall is propped by the floor on it; before that floor is there, its backfill must
    wait."""
    project = checked.project
    floors = [
        f for f in project.floors if f.bears_on == run.top and set(f.walls) & set(walls_on(run))
    ]
    framed = {m.host for m in checked.structure.of(kinds.JOIST)}
    if any(HostName("floor", f.id) in framed for f in floors):
        return
    bottom, _, top, slab = heights_of(project, run)
    fill = (min(flat, top) if flat is not None else top) - max(
        bottom, slab if run.slab_thickness else bottom
    )
    yield Finding(
        "prop",
        f"foundation {run.name}",
        max(0.0, fill),
        "mm",
        f"No floor props the top of basement wall {run.name} yet, against"
        f" {run_text(project, max(0.0, fill))} of soil. Place the"
        " floor on it, or backfill after it is there; until then the wall is checked as held at"
        " its foot alone.",
        HostName("run", run.id),
    )


def _low_basement(checked: Checked, run: FoundationRun) -> Iterable[Finding]:
    """A basement nobody can stand in is a foundation at the wrong level."""
    _, _, top, slab = heights_of(checked.project, run)
    room = top - slab
    if room < LEAST_ROOM - TOUCH:
        project = checked.project
        yield Finding(
            "headroom",
            f"foundation {run.name}",
            LEAST_ROOM - room,
            "mm",
            f"From the slab of basement {run.name} to the top of its walls are"
            f" {run_text(project, room)};"
            f" {run_text(project, LEAST_ROOM)} is the least"
            f"{us_clause(project, 'IRC R305.1.1')}. Lower its slab and footing on its slip, or place it"
            " again at its usual levels.",
            HostName("run", run.id),
        )


def _hangs_in_the_basement(checked: Checked, run: FoundationRun) -> Iterable[Finding]:
    """A strip inside a basement has soil under it only where it goes down to the basement's own
    footing."""
    room = _dug_out(checked, run)
    slab = heights_of(checked.project, run)[3]
    others = [r for r in checked.project.runs if r.id != run.id and r.kind in WITH_STEM]
    for other in others:
        host = HostName("run", other.id)
        strips = [m for m in checked.structure.of(kinds.FOOTING) if m.host == host]
        inside = [m for m in strips if room.covers(Spot(place_of(m)))]
        above = [m for m in inside if m.solid.bounds()[0][2] > slab]
        if above:
            yield _hanging(checked, run, other, above, may_go_down=inside == strips)


def _hanging(
    checked: Checked,
    run: FoundationRun,
    other: FoundationRun,
    above: list[Member],
    *,
    may_go_down: bool,
) -> Finding:
    project = checked.project
    amount = max(m.solid.bounds()[0][2] for m in above) - heights_of(project, run)[3]
    to_it: dict[str, Any] = {
        "base": run.base,
        "bottom": run.bottom,
        "footing_thickness": run.footing_thickness,
    }
    lower = Mend(
        f"Lower {other.name} to the footing of {run.name}",
        partial(set_foundation, key=other.id, **to_it),
    )
    return Finding(
        "no footing",
        f"foundation {other.name}",
        amount,
        "mm",
        f"{len(above)} footings of {other.name} lie {run_text(project, amount)} over the slab"
        f" of basement {run.name}, where"
        f" the soil is dug out, {place_name(project, place_of(above[0]))}. Let them go down to"
        " the basement’s footing.",
        HostName("run", other.id),
        tuple(m.id for m in above),
        place_of(above[0]),
        mend=lower if may_go_down else None,
    )


def _dug_out(checked: Checked, run: FoundationRun) -> Geometry:
    """The room of a basement in plan: within the ring of its footings, and over its slab."""
    mine = [
        m
        for m in checked.structure.of(kinds.FOOTING, kinds.SLAB)
        if m.host == HostName("run", run.id)
    ]
    together = union_all([Polygon(m.solid.plan()).buffer(TOUCH) for m in mine])
    return union_all(
        [
            Polygon(part.exterior)
            for part in getattr(together, "geoms", [together])
            if not part.is_empty
        ]
    )
