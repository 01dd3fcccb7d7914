"""Choosing section and spacing: every pair from the catalogue checked in one batch on the worst
span of a host."""

import math
from collections.abc import Callable, Iterable
from itertools import product
from typing import Final, NamedTuple

import msgspec
import numpy as np
from msgspec.structs import replace

from balken.analysis.simple import reactions
from balken.design.codes.timber import TimberCode
from balken.design.spanning import Batch, Tails, Walked
from balken.design.under import Under
from balken.design.worth import Worth
from balken.framing import kinds
from balken.framing.member import Member, Size, clear_span
from balken.geometry.plane import TOUCH
from balken.loads.cases import drifted
from balken.loads.parcels import rows_of
from balken.model.aims import Aim
from balken.model.cases import Cases
from balken.model.catalogue import price_per_mm
from balken.model.foundations import Carbon
from balken.model.names import HostName
from balken.model.record import ServiceClass
from balken.model.sections import STEEL, Section
from balken.model.uses import Category
from balken.units import INCH

LEAST_BEARING = 1.5 * INCH
"""Least bearing of joists and rafters on wood (IRC 2021 R502.6, R802.6)."""
TOLERANCE = 1e-9
"""A utilisation this far over 1 is rounding."""


class Choice(msgspec.Struct, frozen=True):
    """One section at one spacing on the worst span."""

    section: str
    spacing: float
    worst: float
    governing: str
    cost: float
    depth: float
    fits: bool
    """No deeper than allowed."""
    wood: tuple[str, str] = ("", "")
    """Species and grade, where it is of another wood than the host's."""
    pieces: int = 0
    """Rows of members."""
    volume: float = 0.0
    """Of all rows, mm³."""
    carbon: float = 0.0
    """Embodied, kg, by typed factors."""

    @property
    def passes(self) -> bool:
        """Strong enough and within the depth."""
        return self.fits and self.worst <= 1 + TOLERANCE


class Sized(msgspec.Struct, frozen=True):
    """What sizing found for a host: the choice taken, and the others from the least cost up."""

    host: HostName
    size: Size
    choices: tuple[Choice, ...]
    span: float
    allowed: float
    """Depth allowed, mm; infinite where nothing limits it."""
    task: "Task | None" = None
    """What was asked, for those who ask further; None where it was not asked of rows."""


class Task(msgspec.Struct, frozen=True):
    """What a host asks of its members: the worst span and loads of its plan, mm and N/mm²."""

    host: HostName
    timber: TimberCode
    service: ServiceClass
    on_floors: Category
    species: str
    grade: str
    sections: tuple[Section, ...]
    spacings: tuple[float, ...]
    loads: Cases
    clear: float
    span: float
    carries: float
    """Length of plan whose load the worse support takes from one member, mm (times spacing and
    load: its reaction)."""
    bearing: float
    slope: float
    live_limit: float
    total_limit: float
    allowed: float
    across: float
    """How far the members are set out, mm."""
    lengths: float
    """Total blank length of one row, mm."""
    under: Under
    """The softest of what they bear on."""
    leeward: float = 1.0
    """How much heavier snow may lie on one side of a ridge."""
    walked: tuple[float, float, float] | None = None
    """Of a floor that people walk on: limit of sag under 1 kN, width, mm, and EI of the deck, N mm²
    a mm."""
    aim: Aim = "cost"
    carbon: Carbon = Carbon()
    offers: tuple[Section, ...] = ()
    """All sections there are to choose from, where one is held."""
    gaps: tuple[float, ...] = ()
    """All spacings, likewise, mm."""
    woods: tuple[tuple[str, str], ...] = ()
    """Species and grades to look at beside the host's own."""
    tail: tuple[float, float, float, float] = (0.0, 0.0, 0.0, 0.0)
    """Of rafters: reach past the plate in plan and what of the seat's length cuts into the depth,
    mm; thrust over the reaction at the head; length along the slope, mm."""


def design_span(clear: float, first: float, last: float) -> float:
    """The span of a member (NDS 3.2.1): clear, plus half the bearing it needs at each end,
    mm.

    The bearing needed is taken as the least allowed, 1½ in, or what is there if shorter.
    """
    return clear + min(first, LEAST_BEARING) / 2 + min(last, LEAST_BEARING) / 2


def member_span(member: Member) -> float:
    """A member's design span; 0 where it lacks a support."""
    clear = clear_span(member)
    if clear <= 0:
        return 0.0
    return design_span(clear, member.carrier.supports[0].length, member.carrier.supports[-1].length)


def end_share(member: Member) -> float:
    """The length of plan whose load the worse support of a member takes, mm."""
    first, last = member.carrier.supports[0], member.carrier.supports[-1]
    low, high = member.carrier.carries
    if member.kind is kinds.RAFTER:
        return high - low
    return float(max(reactions(high - low, low, high, first.at, last.at)))


class _Offer(NamedTuple):
    """A section at a spacing in a wood, with what it is worth there."""

    section: Section
    spacing: float
    wood: tuple[str, str]
    worth: Worth


def _offers(task: Task, timber: TimberCode) -> list[_Offer]:
    """Everything there is to choose from; what has no design values is left out."""
    woods = task.woods or ((task.species, task.grade),)
    found = []
    for section, spacing, wood in product(task.sections, task.spacings, woods):
        value = timber.worth(*wood, section)
        if value is not None:
            found.append(_Offer(section, spacing, wood, timber.on(value, task.under)))
    return found


def _batch(task: Task, timber: TimberCode, offers: list[_Offer]) -> Batch:
    """All offers on the worst span, side by side."""
    n, gaps = len(offers), np.array([o.spacing for o in offers])
    line = rows_of([task.loads]).T * gaps[None, :]
    count = [math.ceil(task.across / o.spacing) + 1 for o in offers]
    shared = [timber.shared(k, o.section.breadth, o.spacing) for k, o in zip(count, offers)]
    reach, lost, thrust, along = task.tail
    tails = Tails(
        np.full(n, reach),
        np.array([max(0.0, o.section.depth - lost) for o in offers]),
        np.full(n, thrust),
        np.full(n, along),
    )
    return Batch(
        sections=tuple(o.section for o in offers),
        values=tuple(o.worth for o in offers),
        repetitive=np.array(shared),
        span=np.full(n, task.span),
        line=line,
        reaction=line * task.carries,
        bearing=np.full(n, task.bearing),
        live_limit=np.full(n, task.live_limit),
        total_limit=np.full(n, task.total_limit),
        slope=np.full(n, task.slope),
        combinations=drifted(timber.sums(task.service, task.on_floors), task.leeward).under(
            task.loads
        ),
        tails=tails if any(task.tail[::2]) else None,
        walked=Walked(*(np.full(n, v) for v in task.walked)) if task.walked else None,
        spacing=gaps,
    )


def choices(task: Task) -> tuple[Choice, ...]:
    """Check every section at every spacing at once; the least by the host's aim first."""
    timber = task.timber
    offers = _offers(task, timber)
    if not offers or task.span <= 0:
        return ()
    results = timber.spans.check(_batch(task, timber, offers))
    found = []
    for i, (section, gap, wood, _) in enumerate(offers):
        rows = math.ceil((task.across - section.breadth) / gap - TOLERANCE) + 1
        length = rows * task.lengths
        found.append(
            Choice(
                section.name,
                gap,
                float(results.worst[i]),
                timber.spans.names[int(results.ratios[:, i].argmax())],
                length * price_per_mm(section, wood[1]),
                section.depth,
                section.depth <= task.allowed + TOUCH,
                wood,
                rows,
                length * section.area,
                carbon_per_mm(section, task.carbon) * length,
            )
        )
    return tuple(sorted(found, key=LEAST[task.aim]))


def carbon_per_mm(section: Section, factors: Carbon) -> float:
    """Embodied carbon of a piece, kg a mm, by what it is of."""
    if section.family in STEEL:
        factor = factors.steel
    else:
        factor = factors.timber if section.product is None else factors.glued or factors.timber
    return section.area * factor / 1e9


LEAST: Final[dict[Aim, Callable[[Choice], tuple[float, ...]]]] = {
    "cost": lambda c: (c.cost, c.depth, -c.spacing),
    "depth": lambda c: (c.depth, c.cost, -c.spacing),
    "pieces": lambda c: (c.pieces, c.cost, c.depth),
    "volume": lambda c: (c.volume, c.cost, c.depth),
    "carbon": lambda c: (c.carbon, c.volume, c.cost),
}
"""What comes first for each aim."""


def alternatives(sized: Sized, woods: tuple[tuple[str, str], ...]) -> tuple[Choice, ...]:
    """Every section at every spacing in every wood, whatever is held; the least first. Nothing where
    it was not asked of rows.

    Args:
        sized: what sizing found.
        woods: species and grades to look at.
    """
    task = sized.task
    if task is None:
        return ()
    return choices(replace(task, sections=task.offers, spacings=task.gaps, woods=woods))


def frontier(found: Iterable[Choice]) -> tuple[Choice, ...]:
    """Of the choices that pass those that no other beats in both cost and depth, the shallowest
    first: each next one is deeper and costs less."""
    best: list[Choice] = []
    for c in sorted((c for c in found if c.passes), key=lambda c: (c.depth, c.cost)):
        if not best or c.cost < best[-1].cost - 1e-9:
            best.append(c)
    return tuple(best)


def choose(task: Task) -> Sized:
    """The choice that is least in what the host aims at and passes within the depth; where none
    does, the strongest that fits, else the strongest.

    Where no section has design values, or nothing spans, the first size is framed with, and what
    carries is told as not checked.
    """
    found = choices(task)
    if not found:
        first = Size(task.sections[0].name, task.spacings[0])
        return Sized(task.host, first, (), task.span, task.allowed, task)
    passing = [c for c in found if c.passes]
    fitting = [c for c in found if c.fits]
    best = passing[0] if passing else min(fitting or found, key=lambda c: c.worst)
    size = Size(best.section, best.spacing)
    return Sized(task.host, size, found, task.span, task.allowed, task)
