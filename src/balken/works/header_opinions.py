"""What the table of the IRC says of the headers of a wall beside the calculation: how far each may reach, and
how many jacks stand under its ends."""

import re
from itertools import pairwise
from typing import Final

from balken.design.codes.us.irc_headers import Borne, Header, header_span
from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.hosts.roof_bearing import bearings_of_roof
from balken.framing.hosts.walls import is_heavy, openings_under
from balken.framing.member import Member
from balken.geometry.plane import Point, dot
from balken.model.names import HostName
from balken.model.walls import Wall, called, direction_of
from balken.units import FOOT, PSF
from balken.works.building import Checked
from balken.works.opinions import Opinion, over_wall

HEADER_TABLE: Final = "IRC 2015 table R602.7(1)"
MIDDLE: Final = 0.55
"""A floor whose joists span no more of the building's width bears in its middle."""
ROOF_SHARE: Final = 0.7
"""Of the snow on the ground lies on a roof (ASCE 7-16 7.3), where only the roof's is typed."""
LIVE: Final = 40 * PSF
"""What the table has on floors (IRC table R301.5)."""
ROOF_LIVE: Final = 20 * PSF
ROOF_DEAD: Final = 20 * PSF
"""The heaviest roof that the tables of the code count on (IRC tables R802.4.1)."""


def header_opinions(checked: Checked, item: Wall) -> list[Opinion]:
    """What the table says of each header of a wall; nothing of walls that carry nothing, and under another
    code."""
    host = HostName("wall", item.id)
    headers = checked.structure.in_host(host, kinds.WALL_HEADER)
    if checked.project.code != "us" or not headers:
        return []
    floors, roofs = over_wall(checked, host, frozenset())
    if not floors and not roofs:
        return []
    return [_opinion(checked, item, m, floors, roofs) for m in headers]


def _opinion(
    checked: Checked,
    item: Wall,
    m: Member,
    floors: frozenset[HostName],
    roofs: frozenset[HostName],
) -> Opinion:
    under = openings_under(m, item)
    there = under[-1].at + under[-1].width - under[0].at
    about = f"header {m.id.row}"
    try:
        asked = _asked(checked, item, m, floors, roofs)
        found = header_span(asked)
    except BalkenError as error:
        return Opinion(HEADER_TABLE, about, None, there, str(error))
    stand = _jacks_of(checked, m)
    words = (
        f"{m.section} under {asked.borne}, building {asked.width / FOOT:.0f} ft wide; "
        f"{_counted(found.jacks)} at each end"
    )
    if stand < found.jacks:
        words += f", here {stand}"
    return Opinion(HEADER_TABLE, about, found.span, there, words)


def _asked(
    checked: Checked,
    item: Wall,
    m: Member,
    floors: frozenset[HostName],
    roofs: frozenset[HostName],
) -> Header:
    """What the table is asked.

    Raises:
        BalkenError: it has no such header, and why.
    """
    heavy = _comes_down(checked, m)
    if heavy:
        raise BalkenError(f"{heavy} comes down on it; the table has even loads")
    if not roofs:
        raise BalkenError(f"{called(item)} carries no roof; the table is for walls under one")
    project = checked.built
    over = [r for r in project.roofs if HostName("roof", r.id) in roofs]
    live = [f.live for f in project.floors if HostName("floor", f.id) in floors]
    for words, found, most in (
        ("live load of a floor", max(live, default=0.0), LIVE),
        ("live load of a roof", max(r.live for r in over), ROOF_LIVE),
        ("weight of a roof", max(r.dead for r in over), ROOF_DEAD),
    ):
        if found > most + 1e-9:
            raise BalkenError(f"{words} {found / PSF:.0f} psf; the table has {most / PSF:.0f} psf")
    width = _width(checked, roofs, direction_of(item))
    snow = project.site.snow
    ground = snow.ground if snow is not None else max(r.snow for r in over) / ROOF_SHARE
    species, _, grade = m.material.partition(" ")
    borne = _borne(checked, item, floors, width)
    return Header(_as_listed(m.section), species, grade, borne, width, ground)


def _as_listed(section: str) -> str:
    """The section as the table calls it, which is of sawn pieces nailed together.

    Raises:
        BalkenError: it is another.
    """
    if not re.fullmatch(r"\d-2x\d+", section):
        raise BalkenError(f"the table has headers of pieces 2x4 to 2x12, not {section}")
    return section


def _comes_down(checked: Checked, m: Member) -> str:
    """The name of what comes down on a header at one place; empty where nothing does."""
    sources = {parcel.source for parcel in checked.path.carried.get(m.id, ())}
    chords = (c for c in checked.structure.of(kinds.BOTTOM_CHORD) if is_heavy(c))
    for one in (*checked.structure.of(*HEAVY), *chords):
        if one.id in sources:
            return f"{one.kind.role} {one.mark}".strip()
    return ""


HEAVY: Final = (
    kinds.BEAM,
    kinds.POST,
    kinds.TRIMMER,
    kinds.HEADER,
    kinds.RIDGE_BEAM,
    kinds.HIP,
    kinds.VALLEY,
    kinds.PURLIN,
    kinds.STRUT,
)
"""What brings to one place what others bear on it."""


def _width(checked: Checked, roofs: frozenset[HostName], along: Point) -> float:
    """Of the widest of the roofs across a wall, between the outer faces of its walls, mm."""
    across = (-along[1], along[0])
    found = [0.0]
    for roof in checked.built.roofs:
        bearings = bearings_of_roof(checked.built, roof)
        if HostName("roof", roof.id) in roofs and bearings is not None:
            places = [dot(p, across) for p in bearings.outline]
            found.append(max(places) - min(places))
    return max(found)


def _borne(checked: Checked, item: Wall, floors: frozenset[HostName], width: float) -> Borne:
    """What comes down on a wall, as the table says it."""
    if not floors:
        return "a roof"
    widest = max(_span(checked, floor) for floor in floors)
    middle = widest <= MIDDLE * width
    if len(floors) == 1:
        return (
            "a roof and a floor that bears in its middle"
            if middle
            else "a roof and a floor of one span"
        )
    if len(floors) == 2:
        return (
            "a roof and two floors that bear in their middle"
            if middle
            else "a roof and two floors of one span"
        )
    raise BalkenError(f"{called(item)} carries {len(floors)} floors; the table has two at most")


def _span(checked: Checked, floor: HostName) -> float:
    """The longest span of a floor's joists, mm."""
    spans = (
        b.at - a.at
        for m in checked.structure.in_host(floor)
        if m.kind.spans
        for a, b in pairwise(m.carrier.supports)
    )
    return max(spans, default=0.0)


def _jacks_of(checked: Checked, m: Member) -> int:
    """How many jacks stand under the end of a header that has fewer."""
    jacks = [j for j in checked.structure.in_host(m.host, kinds.JACK) if j.id.row == m.id.row]
    ends = [sum(j.id.piece.startswith(side) for j in jacks) for side in ("l", "r")]
    return min(ends)


def _counted(jacks: int) -> str:
    return "one jack" if jacks == 1 else f"{jacks} jacks"
