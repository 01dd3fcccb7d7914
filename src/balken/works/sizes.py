"""Section and spacing of joists, rafters and trusses: the least that carries, chosen before anything
is framed, from the longest of each host."""

import math
from typing import NamedTuple

from balken.design.codes.timber import TimberCode
from balken.design.seats import Beneath
from balken.design.service import service_class
from balken.design.side_by_side import tail_and_push
from balken.design.sizing import Sized, Task, choose, end_share, member_span
from balken.design.terms import Terms
from balken.design.trusses import size_trusses
from balken.design.under import UNKNOWN, Under
from balken.framing.floors.joists import frame_floor
from balken.framing.hosts import floors, roof_sites
from balken.framing.hosts.roof_shapes import shape_or_fault
from balken.framing.hosts.sites import Sites, sites_of
from balken.framing.layout import LayoutError
from balken.framing.member import Bearings, Member, Part, Size, clear_span
from balken.framing.roofs.rafter_roof import longest_rafters
from balken.framing.roofs.shape import RoofShape
from balken.geometry.plane import TOUCH, dot, left, sub, unit
from balken.loads.leeward import slopes_of
from balken.loads.roof_snow import leeward
from balken.model.cases import Cases
from balken.model.catalogue import catalogue_of, sections_of
from balken.model.floors import BuildUp, FloorArea
from balken.model.foundations import Carbon
from balken.model.names import HostName
from balken.model.project import Project
from balken.model.roofs import RoofArea
from balken.model.sections import Product, Section
from balken.model.uses import USES
from balken.recall import remembered, remembered_piece
from balken.units import System
from balken.works.terms import beneath_of
from balken.works.walking import between, walked_of


def sizes_of(project: Project) -> dict[HostName, Sized]:
    """Section and spacing of every floor, ceiling and roof of a project."""
    return choose_sizes(sites_of(project), beneath_of(project, {}))


def choose_sizes(sites: Sites, beneath: Beneath) -> dict[HostName, Sized]:
    """Section and spacing of every floor, ceiling and roof that something spans under.

    Args:
        sites: what each host is framed from.
        beneath: what supports lie on.
    """
    found = [_of_floor(s, s.bearings, beneath) for s in sites.floors if s.bearings is not None]
    found += [_of_roof(s, s.bearings, beneath) for s in sites.roofs if s.bearings is not None]
    return {sized.host: sized for sized in found if sized is not None}


def _of_floor(site: floors.Site, bearings: Bearings, beneath: Beneath) -> Sized | None:
    if site.build_up.kind != "joists":
        return None
    return _size_floor(
        site.floor,
        site.build_up,
        bearings,
        softest(beneath, bearings),
        site.allowed,
        beneath.terms.timber,
        site.system,
        site.products,
        beneath.terms.site.carbon,
    )


def _of_roof(site: roof_sites.Site, bearings: Bearings, beneath: Beneath) -> Sized | None:
    under, terms = softest(beneath, bearings), beneath.terms
    if site.roof.framing == "trusses":
        return size_trusses(site.roof, bearings, under, terms.timber, site.system)
    return _size_roof(site.roof, bearings, under, terms, site.system)


def softest(beneath: Beneath, bearings: Bearings) -> Under:
    """The softest of what a floor or roof may bear on, beams left out."""
    under = [beneath.under(strip.on) for strip in bearings.strips]
    return min(under, key=lambda u: u.stress, default=UNKNOWN)


def _held(
    names: tuple[str, ...], one: str | None, sections: dict[str, Section]
) -> tuple[Section, ...]:
    return (sections[one],) if one else tuple(sections[n] for n in names)


def _offered(names: tuple[str, ...], sections: dict[str, Section]) -> tuple[Section, ...]:
    """The sections a host may have, and of sawn ones two side by side."""
    doubles = (sections.get(f"2-{n}") for n in names)
    return (*(sections[n] for n in names), *(s for s in doubles if s is not None))


@remembered
def _size_floor(
    floor: FloorArea,
    build_up: BuildUp,
    bearings: Bearings,
    under: Under,
    allowed: float,
    timber: TimberCode,
    system: System,
    products: tuple[Product, ...],
    carbon: Carbon,
) -> Sized | None:
    sections = sections_of(system, products)
    candidates = _held(build_up.sizes, floor.section, sections)
    spacings = (floor.spacing,) if floor.spacing else build_up.spacings
    trial = Size(candidates[0].name, min(spacings))
    try:
        framed = frame_floor(floor, build_up, bearings, trial, sections, (), telling=True)
    except LayoutError:
        return None
    told = [one for part in framed.parts for one in _told(part)]
    if not told:
        # Nothing spans: the joists stay at the first choice and the fit list says what they lack.
        return (
            Sized(HostName("floor", floor.id), trial, (), 0.0, allowed) if framed.members else None
        )
    worst = max((one.worst for one in told), key=lambda m: (clear_span(m), m.id))
    across = [_between(part) for part in framed.parts if part.members]
    return choose(
        Task(
            HostName("floor", floor.id),
            timber,
            service_class(floor),
            USES["eu"][floor.use].category,
            build_up.species,
            build_up.grade,
            candidates,
            spacings,
            Cases(floor.dead, floor.live),
            clear_span(worst),
            member_span(worst),
            end_share(worst),
            min(one.bearing for one in told),
            0.0,
            floor.live_limit,
            floor.total_limit,
            allowed,
            max(high for _, high in across) - min(low for low, _ in across) + worst.solid.depth,
            max(one.row for one in told),
            under,
            1.0,
            walked_of(floor, build_up, max(h for _, h in across) - min(w for w, _ in across)),
            aim=floor.aim,
            carbon=carbon,
            offers=_offered(build_up.sizes, sections),
            gaps=build_up.spacings,
        )
    )


class _Told(NamedTuple):
    """What a choice of size asks of some rows: their worst joist, the longest row, the shortest
    bearing."""

    worst: Member
    row: float
    bearing: float


@remembered_piece
def _told(part: Part) -> tuple[_Told, ...]:
    """What the joists of a part tell; nothing where none of them spans."""
    joists = [m for m in part.members if m.kind.spans and clear_span(m) > 0]
    if not joists:
        return ()
    rows: dict[str, float] = {}
    for m in joists:
        rows[m.id.row] = rows.get(m.id.row, 0.0) + m.blank
    rests = [s for m in joists for s in m.carrier.supports]
    worst = max(joists, key=lambda m: (clear_span(m), m.id))
    return (_Told(worst, max(rows.values()), min(s.length for s in rests if s.on)),)


@remembered_piece
def _between(part: Part) -> tuple[float, float]:
    """Where the first and the last row of a part stand across, mm from the origin."""
    return between(part.members)


@remembered
def _size_roof(
    roof: RoofArea, bearings: Bearings, under: Under, terms: Terms, system: System
) -> Sized | None:
    catalogue = catalogue_of(system)
    candidates = _held(roof.sizes, roof.section, catalogue.sections)
    spacings = (roof.spacing,) if roof.spacing else roof.spacings
    trial = Size(candidates[0].name, min(spacings))
    shape = shape_or_fault(roof, bearings, candidates[0].depth, 0.0)
    sections = sections_of(system, ())
    rafters = (
        longest_rafters(roof, shape, bearings, candidates[0], sections, system)
        if isinstance(shape, RoofShape)
        else []
    )
    worst = max(rafters, key=lambda m: (clear_span(m), m.id), default=None)
    if worst is None or clear_span(worst) <= 0 or min(spacings) < TOUCH:
        return Sized(HostName("roof", roof.id), trial, (), 0.0, math.inf)
    slopes = slopes_of(shape) if isinstance(shape, RoofShape) else 1
    dead = roof.dead * math.hypot(1, worst.slope)
    loads = Cases(dead, roof_live=roof.live, snow=roof.snow, wind=roof.pressed or 0.0)
    n = left(unit(sub(worst.end[:2], worst.start[:2])))
    offsets = [dot(p, n) for p in bearings.outline]
    return choose(
        Task(
            HostName("roof", roof.id),
            terms.timber,
            service_class(roof),
            "A",
            roof.species,
            roof.grade,
            candidates,
            spacings,
            loads,
            clear_span(worst),
            member_span(worst),
            end_share(worst),
            worst.carrier.supports[0].length,
            worst.slope,
            roof.live_limit,
            roof.total_limit,
            math.inf,
            max(offsets) - min(offsets),
            2 * worst.blank,
            under,
            leeward(terms.code, terms.site, roof, slopes, worst.run),
            None,
            aim=roof.aim,
            carbon=terms.site.carbon,
            offers=_offered(roof.sizes, catalogue.sections),
            gaps=roof.spacings,
            tail=_tail_of(worst, candidates[0], roof),
        )
    )


def _tail_of(worst: Member, cut_from: Section, roof: RoofArea) -> tuple[float, float, float, float]:
    """What sizing asks of the longest rafter besides its span: tail, what its seat cuts away,
    thrust, length on the slope."""
    tie_up = roof.rafters.tie_up if roof.rafters.ties != "none" else 0.0
    tail, neck, push, length = tail_and_push(worst, cut_from, tie_up)
    return tail, cut_from.depth - neck, push, length
