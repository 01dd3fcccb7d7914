"""What the tables of the IRC say of framed walls beside the calculation: how far apart their studs may
stand, and how long the panels of a line must be against wind. Of US projects alone."""

import math
from collections.abc import Callable
from typing import Final, NamedTuple, get_args

from balken.design.codes.us.irc_walls import (
    LEAST_PANEL,
    Line,
    Method,
    PortalPanel,
    bracing_length,
    least_continuous,
    portal_counts,
    stud_spacing,
)
from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.hosts.walls import rule_of
from balken.loads.sideways import IN_LINE, Storey
from balken.model.names import HostName, whole
from balken.model.project import level, wall, wall_base, wall_build_up, wall_top
from balken.model.walls import Opening, Wall
from balken.works.bracing import Braced, between_openings, braced_lines, is_slack
from balken.works.building import Checked
from balken.works.let_in import let_in_of
from balken.works.terms import terms_of

STUD_TABLE: Final = "IRC 2021 table R602.3(5)"
BRACING_TABLE: Final = "IRC 2021 tables R602.10.3(1), (2)"
THINNEST: Final = 9.4
"""Panels of method WSP are 3/8 in at the least, mm (table R602.10.4)."""


class Opinion(NamedTuple):
    """What a table allows or asks for, mm, and what is there; or why it says nothing."""

    table: str
    allowed: float | None
    there: float
    words: str


def stud_opinion(checked: Checked, item: Wall) -> Opinion | None:
    """How far apart the studs of a wall may stand by the table; None where it carries nothing, is not
    framed, or stands under another code."""
    rule = rule_of(checked.built, item)
    host = HostName("wall", item.id)
    studs = checked.structure.in_host(host, kinds.WALL_STUD)
    if checked.project.code != "us" or rule is None or not studs:
        return None
    floors, roofs = _over(checked, host, frozenset())
    if not floors and not roofs:
        return None
    section = terms_of(checked.built).sections.get(studs[0].section)
    tall = max(m.length for m in studs)
    count = "a floor" if len(floors) == 1 else f"{len(floors)} floors"
    over = f"a roof and {count}" if floors else "a roof"
    try:
        if section is None:
            raise BalkenError("the section of the studs is not known")
        allowed = stud_spacing(section.depth, tall, len(floors))
    except BalkenError as error:
        return Opinion(STUD_TABLE, None, rule.spacing, str(error))
    return Opinion(STUD_TABLE, allowed, rule.spacing, f"under {over}")


def _over(
    checked: Checked, host: HostName, seen: frozenset[HostName]
) -> tuple[frozenset[HostName], frozenset[HostName]]:
    """The floors and the roofs that bear on a wall, by what stands on it too."""
    floors: frozenset[HostName] = frozenset()
    roofs: frozenset[HostName] = frozenset()
    for parcel in checked.path.on_walls.get(host, ()):
        source = parcel.source if isinstance(parcel.source, HostName) else parcel.source.host
        if source == host or source in seen:
            continue
        if source.kind == "floor" and not _is_ceiling(checked, source):
            floors |= {source}
        elif source.kind == "roof":
            roofs |= {source}
        elif source.kind == "wall":
            more = _over(checked, source, seen | {host})
            floors, roofs = floors | more[0], roofs | more[1]
    return floors, roofs


def _is_ceiling(checked: Checked, host: HostName) -> bool:
    """Whether a floor is the ceiling under a roof, which the table counts with it."""
    floor = next((f for f in checked.built.floors if f.id == host.key), None)
    bodies = {b.id: b.use for b in checked.built.build_ups}
    return floor is not None and bodies.get(floor.build_up) == "ceiling"


def bracing_opinions(checked: Checked, braced: Braced) -> list[Opinion]:
    """How long what braces a line must be by the tables, method by method of those that are there, and how
    long that is which counts; none where no wind is typed or another code holds."""
    project, wind = checked.built, checked.built.site.wind
    if project.code != "us" or wind is None or braced.line.wind <= 0:
        return []
    items = [wall(project, key) for key in braced.line.walls]
    storey = braced.storey
    tall = max(wall_top(project, item) - storey.base for item in items)
    over = len({s.top for s in checked.sideways if s.top > storey.top + 1.0})
    spacing, lines = _spacing(storey, braced.line.at), len(storey.lines)
    found = []
    for method in get_args(Method):
        counted = [COUNTED[method](checked, item, over) for item in items]
        there = math.fsum(c.length for c in counted)
        found += [Opinion(BRACING_TABLE, None, 0.0, why) for c in counted for why in c.lacks]
        if there > 0:
            ridge = _ridge(checked)
            asked = Line(spacing, over, wind.speed, wind.exposure, tall, ridge, lines, method)
            found.append(_opinion(asked, there, any(c.portals for c in counted)))
    return found


def _opinion(asked: Line, there: float, portals: bool) -> Opinion:
    try:
        found = bracing_length(asked)
    except BalkenError as error:
        return Opinion(BRACING_TABLE, None, there, f"{asked.method}: {error}")
    factors = ", ".join(f"{name} {factor:.2f}" for name, factor in found.factors)
    words = f"method {asked.method}, times {factors}"
    words += f"; {PORTAL_WORDS[asked.method]}" if portals else ""
    return Opinion(BRACING_TABLE, found.length, there, words)


PORTAL_WORDS: Final[dict[Method, str]] = {
    "WSP": "portal frames PFH with a strap of 1,000 lb from header to post inside, hold-downs of 3,500 lb",
    "CS-WSP": "portal frames CS-PF with a strap of 1,000 lb from header to post inside",
}
"""What the figures of portal frames ask for beside their lengths."""


class Counted(NamedTuple):
    """What of a wall counts by a method, mm, whether portal frames are in it, and why others are not."""

    length: float
    portals: bool = False
    lacks: tuple[str, ...] = ()


def _panelled(checked: Checked, item: Wall) -> list[tuple[float, float]]:
    """The stretches of a wall that panels of the tables stand on."""
    rule = rule_of(checked.built, item)
    if rule is None or rule.panels is None or rule.panels.thick < THINNEST:
        return []
    return [s for s in between_openings(item) if not is_slack(item, s)]


def _on_stretches(checked: Checked, item: Wall, over: int) -> Counted:
    """Panels of 4 ft and more, and shorter ones of portal frames."""
    long = [s for s in _panelled(checked, item) if s[1] - s[0] >= LEAST_PANEL - 1.0]
    return _with_portals(checked, item, over, "WSP", long)


def _all_over(checked: Checked, item: Wall, over: int) -> Counted:
    """Of panels that cover the whole wall, those of portal frames, and of others those long enough for the
    openings beside them."""
    height = wall_top(checked.built, item) - wall_base(checked.built, item)
    long = []
    for low, high in _panelled(checked, item):
        beside = [o.height for o in _openings_beside(item, low, high)]
        least = least_continuous(height, max(beside, default=0.0))
        if high - low >= least - 1.0:
            long.append((low, high))
    return _with_portals(checked, item, over, "CS-WSP", long)


def _portals(checked: Checked, item: Wall) -> dict[tuple[float, float], Opening]:
    """The panels of a wall's portal frames, each with the opening whose header runs on over it."""
    return {
        (low, high): o
        for low, high in _panelled(checked, item)
        for o in _openings_beside(item, low, high)
        if o.portal == "both" or o.portal == ("end" if abs(o.at + o.width - low) < 1.0 else "start")
    }


def _openings_beside(item: Wall, low: float, high: float) -> list[Opening]:
    """The openings that a stretch of a wall ends at."""
    return [o for o in item.openings if abs(o.at - high) < 1.0 or abs(o.at + o.width - low) < 1.0]


def _with_portals(
    checked: Checked,
    item: Wall,
    over: int,
    method: Method,
    long: list[tuple[float, float]],
) -> Counted:
    """Panels that count by their own length, and of the others those of portal frames."""
    found, lacks = [high - low for low, high in long], []
    short = ((s, o) for s, o in _portals(checked, item).items() if s not in long)
    for stretch, opening in short:
        try:
            found.append(
                portal_counts(method, _portal_panel(checked, item, stretch, opening, over))
            )
        except BalkenError as error:
            lacks.append(f"portal frame beside {opening.id}: {error}")
    return Counted(math.fsum(found), len(found) > len(long), tuple(lacks))


def _portal_panel(
    checked: Checked, item: Wall, stretch: tuple[float, float], opening: Opening, over: int
) -> PortalPanel:
    rule = rule_of(checked.built, item)
    headers = checked.structure.in_host(HostName("wall", item.id), kinds.WALL_HEADER)
    mine = next((m for m in headers if m.id.row == opening.id), None)
    section = terms_of(checked.built).sections.get(mine.section) if mine is not None else None
    return PortalPanel(
        stretch[1] - stretch[0],
        wall_top(checked.built, item) - wall_base(checked.built, item),
        opening.width,
        (section.breadth, section.depth) if section is not None else (0.0, 0.0),
        rule.panels.thick if rule is not None and rule.panels is not None else 0.0,
        over,
    )


def _boarded(checked: Checked, item: Wall, over: int) -> Counted:
    """Gypsum boards: half of their length on one face, all of it on both (R602.10.5)."""
    body = wall_build_up(checked.built, item)
    if rule_of(checked.built, item) is None or body is None:
        return Counted(0.0)
    boards = [x for x in body.layers if x.role == "lining" and "gypsum" in x.material.lower()]
    share = min(1.0, 0.5 * len(boards))
    lengths = (b - a for a, b in between_openings(item) if not is_slack(item, (a, b)))
    return Counted(share * math.fsum(x for x in lengths if x >= LEAST_PANEL - 1.0))


def _let_in(checked: Checked, item: Wall, over: int) -> Counted:
    rule = rule_of(checked.built, item)
    if rule is None or rule.let_in != "board":
        return Counted(0.0)
    return Counted(math.fsum(b.high - b.low for b in let_in_of(checked.built, item).braces))


COUNTED: Final[dict[Method, Callable[[Checked, Wall, int], Counted]]] = {
    "WSP": _on_stretches,
    "CS-WSP": _all_over,
    "GB": _boarded,
    "LIB": _let_in,
}
"""What of a wall counts by each method; by the storeys over it."""


def _spacing(storey: Storey, at: float) -> float:
    """To the next lines: the mean of both sides, or of the one side there is (R602.10.1.3)."""
    gaps = [abs(x.at - at) for x in storey.lines if abs(x.at - at) > IN_LINE]
    before = min((at - x.at for x in storey.lines if at - x.at > IN_LINE), default=None)
    after = min((x.at - at for x in storey.lines if x.at - at > IN_LINE), default=None)
    if before is not None and after is not None:
        return (before + after) / 2
    return before or after or max(gaps, default=0.0)


def _ridge(checked: Checked) -> float:
    """From the eaves to the highest ridge, mm."""
    found = [0.0]
    for roof in checked.built.roofs:
        shape = checked.structure.roofs.get(HostName("roof", roof.id))
        if shape is not None:
            found.append(shape.roof.top - level(checked.built, roof.plate).elevation)
    return max(found)


def opinions_of(checked: Checked, key: str) -> list[Opinion]:
    """All that the tables say of a wall."""
    item = wall(checked.built, whole(key))
    studs = stud_opinion(checked, item)
    lines = [b for b in braced_lines(checked) if item.id in b.line.walls]
    bracing = [o for b in lines for o in bracing_opinions(checked, b)]
    return ([studs] if studs is not None else []) + bracing
