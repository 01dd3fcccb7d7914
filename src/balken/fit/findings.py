"""The fit list: one function a kind of finding, over a building that was worked out, each in the
file of what it looks at."""

from collections.abc import Callable, Iterable
from functools import partial

from balken.fit.beam_findings import beam_findings
from balken.fit.bracing_findings import bracing_findings
from balken.fit.deck_findings import deck_findings
from balken.fit.fastener_findings import fastener_findings
from balken.fit.finding import Finding, Mend, run_text
from balken.fit.floor_findings import lacking_bridging
from balken.fit.ground_findings import ground_findings
from balken.fit.member_findings import bearings, over, stock, supports
from balken.fit.open_findings import open_work
from balken.fit.path_findings import path_of_loads
from balken.fit.roof_findings import roof_findings
from balken.fit.storey_findings import columns, modules, through, wall_tops
from balken.fit.unchecked_findings import unchecked_findings
from balken.fit.wall_findings import wall_findings
from balken.fit.wind_findings import wind_findings
from balken.framing.hosts.divided_roofs import can_divide, divided
from balken.framing.hosts.roof_bearing import bearings_of_roof
from balken.geometry.plane import TOUCH
from balken.model.edits import (
    drop_change,
)
from balken.model.names import (
    HostName,
    Rest,
    in_words,
)
from balken.model.project import Project
from balken.recall import Recall, remembering
from balken.works.building import Checked


def findings(checked: Checked, recall: Recall | None = None) -> tuple[Finding, ...]:
    """Everything that does not fit, in the order of the building from the ground up."""
    asked = (
        ground_findings,
        columns,
        wall_tops,
        through,
        modules,
        supports,
        bearings,
        beam_findings,
        lacking_bridging,
        roof_findings,
        over,
        unchecked_findings,
        path_of_loads,
        wind_findings,
        fastener_findings,
        wall_findings,
        bracing_findings,
        deck_findings,
        stock,
        _lost,
        _unframed,
        open_work,
    )
    with remembering(recall):
        return tuple(f for kind in asked for f in _told(kind, checked))


def _told(kind: Callable[[Checked], Iterable[Finding]], checked: Checked) -> list[Finding]:
    """What one kind of finding tells; where it cannot be asked for, that is a finding
    too."""
    try:
        return list(kind(checked))
    except Exception as error:
        name = kind.__name__.strip("_").replace("_", " ")
        return [
            Finding(
                "fault",
                name,
                1.0,
                "count",
                f"What is told about {name} could not be worked out ({type(error).__name__}:"
                f" {str(error)[:160]}). Look at it by"
                " eye.",
                None,
            )
        ]


def _lost(checked: Checked) -> Iterable[Finding]:
    for name in checked.structure.gone:
        yield Finding(
            "lost change",
            str(name),
            1.0,
            "count",
            f"A change by hand on {name} has no member to act on any more. Take it back, or bring"
            " the member back.",
            name.host,
            (),
            mend=Mend("Take the change back", partial(drop_change, member=name)),
        )


def _divide(checked: Checked, host: Rest | None) -> Mend | None:
    """The mend of a roof of trusses over other than a rectangle, where it can be divided."""
    roof = next((r for r in checked.project.roofs if HostName("roof", r.id) == host), None)
    shape = checked.structure.roofs.get(HostName("roof", roof.id)) if roof else None
    if roof is None or shape is None or roof.framing != "trusses" or not can_divide(shape):
        return None
    key = roof.id
    return Mend("Divide it over rectangles", lambda project: divided(project, key, shape))


def _unframed(checked: Checked) -> Iterable[Finding]:
    for host, why in checked.structure.unframed:
        yield Finding(
            "not framed",
            in_words(host) or "the building",
            1.0,
            "count",
            f"{in_words(host) or 'The building'} is not framed: {why}.",
            host,
            mend=_divide(checked, host),
        )
    for run in checked.project.runs:
        if not (run.walls or run.spans or run.paths):
            yield Finding(
                "not framed",
                f"foundation {run.name}",
                1.0,
                "count",
                f"Foundation {run.name} has no walls to stand under.",
                HostName("run", run.id),
            )
    yield from _wide_seats(checked.project)


def _wide_seats(project: Project) -> Iterable[Finding]:
    """Roofs whose rafters are to have a longer seat than their plate is wide."""
    for roof in project.roofs:
        under = bearings_of_roof(project, roof)
        if under and roof.seat and roof.seat > under.width + TOUCH:
            yield Finding(
                "overlap",
                f"seat of roof {roof.name}",
                roof.seat - under.width,
                "mm",
                f"The seat of roof {roof.name} is {run_text(project, roof.seat)} on a plate"
                f" {run_text(project, under.width)} wide.",
                HostName("roof", roof.id),
            )
