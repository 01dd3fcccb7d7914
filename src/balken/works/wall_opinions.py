"""What the tables of the IRC say of framed walls beside the calculation: how far apart their studs may
stand, how far their headers may reach, and what braces their line. Of US projects alone."""

from typing import Final

from balken.design.codes.us.irc_walls import stud_spacing
from balken.errors import BalkenError
from balken.framing import kinds
from balken.framing.hosts.walls import rule_of
from balken.model.names import HostName, whole
from balken.model.project import wall
from balken.model.walls import Wall
from balken.works.bracing import braced_lines
from balken.works.bracing_opinions import bracing_opinions
from balken.works.building import Checked
from balken.works.header_opinions import header_opinions
from balken.works.opinions import Opinion, over_wall
from balken.works.terms import terms_of

STUD_TABLE: Final = "IRC 2021 table R602.3(5)"
STUDS: Final = "studs apart"


def stud_opinion(checked: Checked, item: Wall) -> Opinion | None:
    """How far apart the studs of a wall may stand by the table; None where it carries nothing, is not
    framed, or stands under another code."""
    rule = rule_of(checked.built, item)
    host = HostName("wall", item.id)
    studs = checked.structure.in_host(host, kinds.WALL_STUD)
    if checked.project.code != "us" or rule is None or not studs:
        return None
    floors, roofs = over_wall(checked, host, frozenset())
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
        return Opinion(STUD_TABLE, STUDS, None, rule.spacing, str(error))
    return Opinion(STUD_TABLE, STUDS, allowed, rule.spacing, f"under {over}")


def opinions_of(checked: Checked, key: str) -> list[Opinion]:
    """All that the tables say of a wall."""
    item = wall(checked.built, whole(key))
    studs = stud_opinion(checked, item)
    lines = [b for b in braced_lines(checked) if item.id in b.line.walls]
    bracing = [o for b in lines for o in bracing_opinions(checked, b)]
    return ([studs] if studs is not None else []) + header_opinions(checked, item) + bracing
