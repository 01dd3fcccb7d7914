"""The structure as bars on supports, for analysis elsewhere: each piece that spans and each post as it is
analysed here, with what lies on it case by case.

Bars do not share nodes. What a piece hands to another stands as a load on that other, as in the load
path, so that each bar can be solved alone and gives the same reactions.
"""

import math
from collections.abc import Iterator, Sequence
from functools import partial
from typing import Final, Literal, NamedTuple

from balken.framing import kinds
from balken.framing.member import Member, apart
from balken.geometry.plane import EXACT
from balken.geometry.solid import Vector
from balken.loads.path import area_loads
from balken.loads.statics import beam_of, leans
from balken.model.cases import CASE_NAMES, Cases
from balken.model.names import MemberName
from balken.model.project import Host, host_records
from balken.works.building import Checked
from balken.works.terms import terms_of

Sharing = Literal["by stiffness", "leaning", "over a purlin", "to the nearest", "upright"]
"""How a bar shares what lies on it. What leans on a ridge board hands all to its foot; over a purlin it is
shared as if the ridge held, and the ridge's share goes to the foot; a ledger's fasteners each take what is
nearest."""


class Node(NamedTuple):
    """A place on a bar, mm."""

    number: int
    bar: MemberName
    place: Vector


class Bar(NamedTuple):
    """A piece as a line through its nodes, from its first to its last."""

    name: MemberName
    member: Member
    nodes: tuple[int, ...]
    hinges: tuple[int, ...]
    """Nodes where it may fold."""
    area: float | None
    """mm²; None of what has no section of its own: a truss."""
    inertia: float | None
    """About its strong axis, mm⁴."""
    elastic: float | None
    """N/mm²; None where its material has no values."""
    sharing: Sharing = "by stiffness"


class Held(NamedTuple):
    """A node that is held, and on what."""

    node: int
    bar: MemberName
    on: str
    up: bool
    """Held up; not at a ridge board, which carries nothing."""
    along: bool
    """Held along the plan of the bar."""


class BarLoad(NamedTuple):
    """A load down on a bar, in one case: along it from ``low`` to ``high``, N/mm of its length, or at one
    place (``low`` is ``high``), N. mm along the bar from its first node."""

    bar: MemberName
    case: str
    low: float
    high: float
    amount: float


class AnalysisModel(NamedTuple):
    """All of them."""

    nodes: tuple[Node, ...]
    bars: tuple[Bar, ...]
    held: tuple[Held, ...]
    loads: tuple[BarLoad, ...]


def analysis_model(checked: Checked) -> AnalysisModel:
    """The bars of a building: what hands load on along its length, and posts.

    Walls, slabs and footings are no bars; where they carry, they stand as what a node is held on.
    """
    nodes: list[Node] = []
    bars: list[Bar] = []
    held: list[Held] = []
    loads: list[BarLoad] = []
    stiffness, records = _Stiffness(checked), host_records(checked.built)
    for m in checked.structure.members:
        if math.dist(*_axis(m)) < EXACT:  # a post between two levels that meet
            continue
        if m.kind is kinds.POST:
            made = _post(checked, m)
        elif m.id in checked.path.reactions:
            made = _spanning(checked, m, records[m.host])
        else:
            continue
        places, supports, hinges, mine, sharing = made
        first, start = len(nodes) + 1, places[0]
        number = partial(_nearest, places, first)
        nodes += [Node(first + i, m.id, along(m, x)) for i, x in enumerate(places)]
        folds = tuple(map(number, hinges))
        numbers = tuple(range(first, first + len(places)))
        bars.append(Bar(m.id, m, numbers, folds, *stiffness.of(m), sharing))
        held += [Held(number(x), m.id, on, up, by) for x, on, up, by in supports]
        loads += [x._replace(low=x.low - start, high=x.high - start) for x in mine]
    return AnalysisModel(tuple(nodes), tuple(bars), tuple(held), tuple(loads))


Supports = list[tuple[float, str, bool, bool]]
"""Where along a bar, on what, whether it is held up, and along its plan."""
Made = tuple[list[float], Supports, list[float], list[BarLoad], Sharing]


def _nearest(places: Sequence[float], first: int, at: float) -> int:
    """The number of the node at a place."""
    return first + min(range(len(places)), key=lambda i: abs(places[i] - at))


def along(member: Member, at: float) -> Vector:
    """A place so far along the axis of a member, mm."""
    return between(*_axis(member), at)


def between(a: Vector, b: Vector, at: float) -> Vector:
    """A place so far from one place on the way to another, mm."""
    t = at / math.dist(a, b)
    return (a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t)


def _axis(member: Member) -> tuple[Vector, Vector]:
    upright = member.kind is kinds.POST
    return (member.start, member.end) if upright else (member.carrier.start, member.carrier.end)


def _spanning(checked: Checked, m: Member, record: Host) -> Made:
    """A piece on its supports. What is measured in plan of a piece that slopes is measured along it here."""
    area = area_loads(record, m.carrier.slope)
    beam, _ = beam_of(m, area, checked.path.carried.get(m.id, ()))
    longer = math.dist(*_axis(m)) / beam.length
    rests = apart(m.carrier.supports)
    sharing = _sharing(m)
    last = rests[-1] if sharing in LEANS else None
    supports = [
        (s.at * longer, str(s.on or ""), s is not last, s is last or s is rests[0]) for s in rests
    ]
    hinges = [x * longer for x in beam.hinges]
    simple = len(rests) == 2 and not hinges
    lines = (
        _by_lever(m, area) if simple else [(x.case, x.low, x.high, x.at_low) for x in beam.lines]
    )
    loads = [
        BarLoad(m.id, CASE_NAMES[case], low * longer, high * longer, q / longer)
        for case, low, high, q in lines
    ]
    loads += [
        BarLoad(m.id, CASE_NAMES[p.case], p.at * longer, p.at * longer, p.force)
        for p in beam.forces()
        if p.force
    ]
    spread = [x for load in loads for x in (load.low, load.high)]
    ends = [min([0.0, *spread]), max([beam.length * longer, *spread])]
    places = _apart([*ends, *(x for x, *_ in supports), *hinges])
    return places, supports, hinges, loads, sharing


def _by_lever(m: Member, area: Cases) -> Iterator[tuple[int, float, float, float]]:
    """The line loads of a piece on two supports, which are shared by the lever: what it carries reaches over
    the rim beside its end, and so does its bar."""
    carrier = m.carrier
    low, high = carrier.carries
    for case, (on_area, line) in enumerate(zip(area, carrier.line)):
        if on_area and carrier.area and high > low:
            yield case, low, high, on_area * carrier.area / (high - low)
        if line:
            yield case, 0.0, carrier.reach, line


LEANS: Final = ("leaning", "over a purlin")


def _sharing(m: Member) -> Sharing:
    if leans(m):
        return "over a purlin" if len(m.carrier.supports) > 2 else "leaning"
    return "to the nearest" if m.kind is kinds.LEDGER else "by stiffness"


def _post(checked: Checked, m: Member) -> Made:
    """A post on its foot, with what comes onto its head."""
    length = math.dist(m.start, m.end)
    onto = checked.path.onto.get(m.id, Cases())
    loads = [BarLoad(m.id, case, length, length, f) for case, f in zip(CASE_NAMES, onto) if f]
    return [0.0, length], [(0.0, "", True, True)], [], loads, "upright"


def _apart(places: Sequence[float]) -> list[float]:
    """Places in order, none twice."""
    found: list[float] = []
    for x in sorted(places):
        if not found or x - found[-1] > EXACT:
            found.append(x)
    return found


class _Stiffness:
    """What bars are cut from, each material and section asked for once."""

    def __init__(self, checked: Checked) -> None:
        self.terms = terms_of(checked.built)
        self.known: dict[tuple[str, str], tuple[float | None, float | None, float | None]] = {}

    def of(self, m: Member) -> tuple[float | None, float | None, float | None]:
        """Area, inertia and E of a bar; nothing of a truss, which is analysed as one line here."""
        section = self.terms.sections.get(m.section)
        if section is None or m.kind.of_truss:
            return None, None, None
        key = (m.section, m.material)
        if key not in self.known:
            species, _, grade = m.material.partition(" ")
            strength = self.terms.timber.strength(
                section, species, grade, section.depth, 0.0, False
            )
            elastic = None if strength is None else strength.ei / section.inertia
            self.known[key] = (section.area, section.inertia, elastic)
        return self.known[key]


def bars_by_name(model: AnalysisModel) -> Iterator[tuple[Bar, list[Held], list[BarLoad]]]:
    """Yield each bar with its supports and its loads."""
    held: dict[MemberName, list[Held]] = {}
    loads: dict[MemberName, list[BarLoad]] = {}
    for h in model.held:
        held.setdefault(h.bar, []).append(h)
    for x in model.loads:
        loads.setdefault(x.bar, []).append(x)
    for bar in model.bars:
        yield bar, held.get(bar.name, []), loads.get(bar.name, [])
