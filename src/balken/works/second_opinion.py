"""What the span tables of the IRC say beside the calculation of a floor or a roof, and why the two
differ."""

from typing import Final, Literal, NamedTuple

from msgspec.structs import replace

from balken.design.sizing import Sized
from balken.design.spans import MemberWord, SpanAsked, find_span
from balken.errors import BalkenError
from balken.framing.hosts.heights import build_up_of
from balken.model.catalogue import sections_of
from balken.model.floors import FloorArea
from balken.model.names import HostName
from balken.model.project import host_record
from balken.model.roofs import RoofArea
from balken.units import PSF
from balken.works.building import Checked


class Opinion(NamedTuple):
    """What a table allows where it applies, mm, and where that stands or why there is none."""

    allowed: float | None
    words: str
    span: float
    """Of the longest member here, mm."""
    by_calculation: float | None
    """The longest span by calculation under the same even loads, mm."""
    governing: str


def opinion_of(checked: Checked, host: HostName) -> Opinion | None:
    """The second opinion on what a floor or a roof of rafters is framed with; None for others, and in
    European projects."""
    project, sized = checked.built, checked.sizes.get(host)
    if project.code != "us" or sized is None or sized.task is None or host.kind not in HOSTS:
        return None
    record = host_record(project, host)
    asked = None
    if isinstance(record, FloorArea):
        ceiling = build_up_of(project, record).use == "ceiling"
        word: MemberWord = "ceiling joist" if ceiling else "joist"
        asked = _asked(checked, sized, word, (record.dead, record.live, "L"))
    elif isinstance(record, RoofArea) and record.framing == "rafters":
        kind: LiveKind = "S" if record.snow > record.live else "Lr"
        loads = (record.dead, max(record.snow, record.live), kind)
        asked = _asked(checked, sized, "rafter", loads)
    if asked is None:
        return None
    try:
        return _opinion(asked, sized.span)
    except BalkenError as error:
        return Opinion(None, str(error), sized.span, None, "")


LiveKind = Literal["L", "Lr", "S"]
"""What the tables call live load: of floors, of roofs, snow."""
HOSTS: Final = ("floor", "roof")


LISTED: Final[dict[str, tuple[tuple[float, ...], tuple[float, ...]]]] = {
    "joist": ((30.0, 40.0), (10.0, 20.0)),
    "ceiling joist": ((10.0, 20.0), (5.0, 10.0)),
    "rafter": ((20.0, 30.0, 50.0, 70.0), (10.0, 20.0)),
}
"""Live and dead loads that the tables have, psf."""


def _opinion(asked: SpanAsked, span: float) -> Opinion:
    """By the table of these loads, or of the next heavier ones."""
    calculated = find_span(asked)
    lives, deads = LISTED[asked.member]
    live, dead = _next(asked.live, lives), _next(asked.dead, deads)
    if live is None or dead is None:
        words = "the tables have no loads as heavy"
        return Opinion(None, words, span, calculated.engineered, calculated.governing)
    kind = "S" if asked.member == "rafter" and live > 20 * PSF + 1e-9 else asked.live_kind
    found = find_span(replace(asked, live=live, dead=dead, live_kind=kind))
    where = found.table_name
    if found.table is not None:
        where += f", {live / PSF:.0f} psf live and {dead / PSF:.0f} psf dead"
    return Opinion(found.table, where, span, calculated.engineered, calculated.governing)


def _next(load: float, listed: tuple[float, ...]) -> float | None:
    """The listed load that is no lighter, N/mm²."""
    return next((x * PSF for x in listed if x * PSF >= load - 1e-9), None)


def _asked(
    checked: Checked, sized: Sized, word: MemberWord, loads: tuple[float, float, LiveKind]
) -> SpanAsked:
    task, project = sized.task, checked.built
    assert task is not None, "asked for where rows were sized"
    dead, live, kind = loads
    return SpanAsked(
        word,
        task.species,
        task.grade,
        sections_of(project.system, project.products)[sized.size.section],
        sized.size.spacing,
        dead=dead,
        live=live,
        live_kind=kind,
        live_limit=task.live_limit,
        total_limit=task.total_limit,
        system=project.system,
    )
