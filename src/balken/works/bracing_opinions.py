"""What the tables of the IRC say of a braced wall line beside the calculation: how long its panels must be
against wind and against earthquake, and how long those are that count. Of US projects alone."""

import math
from collections.abc import Callable
from functools import partial
from typing import Final, NamedTuple, get_args

from balken.design.codes.us.irc_earthquake import (
    ShakenLine,
    asks_nothing,
    category_of,
    shaken_length,
)
from balken.design.codes.us.irc_walls import (
    LEAST_PANEL,
    Bracing,
    Line,
    Method,
    PortalPanel,
    bracing_length,
    least_continuous,
    portal_counts,
)
from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.hosts.walls import rule_of
from balken.geometry.plane import dot
from balken.loads.sideways import IN_LINE, Storey
from balken.model.names import HostName
from balken.model.project import level, wall, wall_base, wall_build_up, wall_top
from balken.model.walls import Layer, Opening, Wall
from balken.site.wall_weights import is_veneer, wall_dead
from balken.works.bracing import Braced, between_openings, is_slack
from balken.works.building import Checked
from balken.works.let_in import let_in_of
from balken.works.opinions import Opinion, is_ceiling
from balken.works.terms import terms_of

WIND_TABLES: Final = "IRC 2021 tables R602.10.3(1), (2)"
QUAKE_TABLES: Final = "IRC 2021 tables R602.10.3(3), (4)"
BRACING: Final = "bracing"
WIND: Final = "wind bracing"
QUAKE: Final = "seismic bracing"
THINNEST: Final = 9.4
"""Panels of method WSP are 3/8 in at the least, mm (table R602.10.4)."""


def bracing_opinions(checked: Checked, braced: Braced) -> list[Opinion]:
    """How long what braces a line must be by the tables, method by method of those that are there, against
    wind and against earthquake where each is typed; and how long that is which counts. None under another
    code."""
    project = checked.built
    if project.code != "us":
        return []
    found = []
    wind, shaken = _wind(checked, braced), _shaken(checked, braced)
    items = [wall(project, key) for key in braced.line.walls]
    over = _storeys_over(checked, braced.storey)
    if shaken is not None and (none := asks_nothing(shaken.category)):
        found.append(Opinion(QUAKE_TABLES, QUAKE, None, 0.0, none))
        shaken = None
    for method in get_args(Method):
        counted = [COUNTED[method](checked, item, over) for item in items]
        there = math.fsum(c.length for c in counted)
        table = QUAKE_TABLES if wind is None else WIND_TABLES
        if wind is not None or shaken is not None:
            found += [Opinion(table, BRACING, None, 0.0, why) for c in counted for why in c.lacks]
        if there <= 0:
            continue
        portals = f"; {PORTAL_WORDS[method]}" if any(c.portals for c in counted) else ""
        if wind is not None:
            length = partial(bracing_length, wind._replace(method=method))
            found.append(_opinion(WIND_TABLES, WIND, method, length, there, portals))
        if shaken is not None:
            length = partial(shaken_length, shaken._replace(method=method))
            found.append(_opinion(QUAKE_TABLES, QUAKE, method, length, there, portals))
    return found


def _opinion(
    table: str,
    about: str,
    method: Method,
    length: Callable[[], Bracing],
    there: float,
    portals: str,
) -> Opinion:
    try:
        found = length()
    except BalkenError as error:
        return Opinion(table, about, None, there, f"{method}: {error}")
    acting = [f"{name} {factor:.2f}" for name, factor in found.factors if abs(factor - 1) > 1e-9]
    words = f"method {method}, {'times ' + ', '.join(acting) if acting else 'no factor'}{portals}"
    return Opinion(table, about, found.length, there, words, least=True)


def _wind(checked: Checked, braced: Braced) -> Line | None:
    """A line as the tables against wind ask for it; None where no wind pushes it."""
    wind, storey = checked.built.site.wind, braced.storey
    if wind is None or braced.line.wind <= 0:
        return None
    return Line(
        _spacing(storey, braced.line.at),
        _storeys_over(checked, storey),
        wind.speed,
        wind.exposure,
        _tall(checked, braced),
        _ridge(checked),
        len(storey.lines),
        _lined(checked, braced),
    )


def _shaken(checked: Checked, braced: Braced) -> ShakenLine | None:
    """A line as the tables against earthquakes ask for it; None where none is typed."""
    project, storey = checked.built, braced.storey
    quake = project.site.earthquake
    if quake is None or braced.line.quake <= 0:
        return None
    items = [wall(project, key) for key in braced.line.walls]
    ends = [dot(end, storey.way) for item in items for end in (item.start, item.end)]
    bodies = [b for item in items if (b := wall_build_up(project, item)) is not None]
    floors = [f for f in project.floors if not is_ceiling(checked, HostName("floor", f.id))]
    above = [f.dead for f in floors if level(project, f.level).elevation > storey.base + 1.0]
    return ShakenLine(
        category_of(quake.sds),
        max(ends) - min(ends),
        _spacing(storey, braced.line.at),
        _storeys_over(checked, storey),
        _tall(checked, braced),
        max(wall_dead(project, item) for item in items),
        _roof_dead(checked),
        max(above, default=0.0),
        any(is_veneer(layer) for body in bodies for layer in body.layers),
        _lined(checked, braced),
    )


def _tall(checked: Checked, braced: Braced) -> float:
    """From the foot of a storey to the highest of the walls of a line."""
    items = [wall(checked.built, key) for key in braced.line.walls]
    return max(wall_top(checked.built, item) - braced.storey.base for item in items)


def _storeys_over(checked: Checked, storey: Storey) -> int:
    return len({s.top for s in checked.sideways if s.top > storey.top + 1.0})


def _lined(checked: Checked, braced: Braced) -> bool:
    """Whether all walls of a line have gypsum boards inside."""
    items = [wall(checked.built, key) for key in braced.line.walls]
    return all(_boards(checked, item) for item in items)


def _boards(checked: Checked, item: Wall) -> list[Layer]:
    """The layers of gypsum board of a wall."""
    body = wall_build_up(checked.built, item)
    layers = body.layers if body is not None else ()
    return [x for x in layers if x.role == "lining" and "gypsum" in x.material.lower()]


def _roof_dead(checked: Checked) -> float:
    """Of the heaviest roof with the heaviest ceiling under it, N/mm²."""
    floors = checked.built.floors
    ceilings = [f.dead for f in floors if is_ceiling(checked, HostName("floor", f.id))]
    roofs = [r.dead for r in checked.built.roofs]
    return max(roofs, default=0.0) + max(ceilings, default=0.0)


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
    if rule_of(checked.built, item) is None:
        return Counted(0.0)
    share = min(1.0, 0.5 * len(_boards(checked, item)))
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
