"""The page of fasteners: what each use asks for, and what is chosen for it."""

from functools import partial

from balken.model.edits.fasteners import choose_fastener
from balken.model.fasteners import USE_WORDS, Fastener, Use
from balken.session.desk import Desk
from balken.session.rows import Fact, Field, Heading, Line, Link, Rows, Title
from balken.session.things.load_way import rest_called
from balken.units import format_force
from balken.units.quantity import parse_force
from balken.works.fasteners import Demand, demands_of

NONE = "none chosen"
MOST = 6
"""So many of the greatest demands of a use are named."""


def fasteners(desk: Desk) -> Rows:
    """What hangers, straps and heel joints must hold, and whether what is chosen does."""
    found = demands_of(desk.checked)
    yield Title("Fasteners", "what they are asked to hold", str(len(found)))
    yield Line("By the worst combination of the code; what one holds is its maker’s.", quiet=True)
    chosen = {f.use: f for f in desk.project.fasteners}
    for use, words in USE_WORDS.items():
        mine = [d for d in found if d.use == use]
        yield Heading(words.capitalize(), str(len(mine)))
        if not mine:
            yield Line("None is needed.", quiet=True)
            continue
        yield from _use(desk, use, mine, chosen.get(use))


def _use(desk: Desk, use: Use, mine: list[Demand], now: Fastener | None) -> Rows:
    system = desk.system

    def name(text: str) -> object:
        holds = now.holds if now else mine[0].force
        return desk.edit(
            "fastener", partial(choose_fastener, use=use, name=text.strip(), holds=holds)
        )

    def holds(text: str) -> object:
        emptied = text.strip().lower() in ("", NONE)
        value = None if emptied else parse_force(text, system)
        called = now.name if now else USE_WORDS[use]
        return desk.edit("fastener", partial(choose_fastener, use=use, name=called, holds=value))

    if now:
        yield Field(f"{use} called", now.name, name)
    yield Field(f"one {use} holds", format_force(now.holds, system) if now else NONE, holds)
    if now:
        worst = mine[0].force / now.holds
        yield Fact("used to", f"{worst:.2f}")
    for d in mine[:MOST]:
        on = f" on {rest_called(desk, d.on)}" if d.on is not None else ""
        words = f"{format_force(d.force, system)}, {d.combination}"
        yield Link(f"{rest_called(desk, d.what)}{on}", words, partial(desk.select, d.what))
    if len(mine) > MOST:
        yield Line(f"and {len(mine) - MOST} more, each less", quiet=True, small=True)
