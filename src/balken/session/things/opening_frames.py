"""How the frame round one opening of a wall is made, as rows: on the slip of the opening, and of each piece
that belongs to it."""

from functools import partial
from typing import Any, Final

from balken.drawing.words import pretty
from balken.framing import kinds
from balken.framing.hosts.walls import rule_of
from balken.framing.member import Member
from balken.model.catalogue import sections_of
from balken.model.edits.openings import frame_openings
from balken.model.names import ThingName
from balken.model.project import wall
from balken.model.wall_frames import StudRule
from balken.model.walls import Opening, Portal, Wall
from balken.session.desk import Desk
from balken.session.rows import Heading, Line, Link, Options, Rows
from balken.works.headers import OF_KIND, under_one_header

PIECES: Final = {
    kinds.WALL_HEADER: "header cut from",
    kinds.JACK: "jacks at each side",
    kinds.KING: "kings at each side",
    kinds.ROUGH_SILL: "sills",
}
"""The row that is about each piece of the frame round an opening."""
JACKS: Final = [("by calculation", 0), *((str(n), n) for n in range(1, 7))]
KINGS: Final = [("by rule: one", 0), ("one", 1), ("two", 2), ("three", 3), ("four", 4)]
PORTALS: Final[list[tuple[str, Portal]]] = [
    ("nothing beside it", ""),
    ("the panel at its start", "start"),
    ("the panel at its end", "end"),
    ("the panels at both sides", "both"),
]
"""Where an opening is part of a portal frame."""


def rows(desk: Desk, item: Wall, hole: Opening) -> Rows:
    """What stands round an opening; nothing where its wall is not framed."""
    rule = rule_of(desk.project, item)
    if rule is None:
        return
    under = under_one_header(desk.checked.structure, item, hole.id)

    def put(words: str, **fields: Any) -> object:
        """Change what the openings under one header have in common."""
        keys = [o.id for o in under]
        return desk.edit(words, partial(frame_openings, key=item.id, openings=keys, **fields))

    def alone(words: str, **fields: Any) -> object:
        return desk.edit(words, partial(frame_openings, key=item.id, openings=[hole.id], **fields))

    yield Heading("Its frame")
    if len(under) > 1:
        others = " and ".join(o.id for o in under if o.id != hole.id)
        yield Line(f"One header goes over it and {others}: both change.", quiet=True)
    if rule.header != "flat":
        held = next((o.header for o in under if o.header), "")
        yield Options(
            "header cut from", _headers(desk, rule), held, lambda v: put("header", header=v)
        )
    yield Options("jacks at each side", JACKS, hole.jacks, lambda v: put("jacks", jacks=v))
    yield Options("kings at each side", KINGS, hole.kings, lambda v: put("kings", kings=v))
    sills = [(f"as its wall: {'one' if rule.sills == 1 else 'two'}", 0), ("one", 1), ("two", 2)]
    yield Options("sills", sills, hole.sills, lambda v: alone("sills", sills=v))
    yield Options(
        "header runs on over", PORTALS, hole.portal, lambda v: alone("portal frame", portal=v)
    )


def of_piece(desk: Desk, m: Member) -> Rows:
    """Of what stands round the opening a piece belongs to, what is about this piece; and the opening."""
    item = wall(desk.project, m.host.key)
    hole = next((o for o in item.openings if o.id == m.id.row), None)
    about = PIECES.get(m.kind)
    if about is None or hole is None:
        return
    yield from (r for r in rows(desk, item, hole) if not isinstance(r, Options) or r.name == about)
    opening = ThingName("opening", item.id, hole.id)
    yield Link(f"{hole.kind} {hole.id}", "all round it", partial(desk.select, opening))


def _headers(desk: Desk, rule: StudRule) -> list[tuple[str, str]]:
    """What a header can be cut from, and to leave it to its wall."""
    sections = sections_of(desk.system, desk.project.products)
    offered = [n for n in OF_KIND[rule.header][desk.system] if n in sections]
    wall_has = pretty(rule.header_section) if rule.header_section else "by calculation"
    return [(f"as its wall: {wall_has}", ""), *((pretty(n), n) for n in offered)]
