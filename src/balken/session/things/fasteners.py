"""The page of fasteners: what each use asks for, and what is chosen for it."""

from collections.abc import Callable
from functools import partial
from typing import Any, Final, get_args

from msgspec.structs import replace

from balken.model.edits.fasteners import choose_dowels, choose_fastener, set_fastener
from balken.model.fasteners import (
    IN_ROWS,
    USE_WORDS,
    WOOD_TO_WOOD,
    DowelKind,
    Dowels,
    Fastener,
    Use,
)
from balken.session.desk import Desk
from balken.session.rows import Checks, Fact, Field, Heading, Line, Link, Options, Rows, Title
from balken.session.things.load_way import rest_called
from balken.units import (
    INCH,
    System,
    format_force,
    format_length,
    format_line_load,
    format_run,
    parse_length,
)
from balken.units.number import parse_number
from balken.units.quantity import parse_force
from balken.works.fasteners import Demand, demands_of, least_count, used_by

NONE = "none chosen"
MOST = 6
"""So many of the greatest demands of a use are named."""
USUAL: Final[dict[System, dict[DowelKind, tuple[float, float]]]] = {
    "us": {
        "nails": (0.162 * INCH, 3.5 * INCH),
        "screws": (0.242 * INCH, 3.5 * INCH),
        "bolts": (0.5 * INCH, 6 * INCH),
    },
    "metric": {"nails": (3.4, 90.0), "screws": (5.0, 100.0), "bolts": (12.0, 140.0)},
}
"""Diameter and length that a choice begins with, mm (common practice): 16d common nails."""


def fasteners(desk: Desk) -> Rows:
    """What fasteners must hold, use by use, and whether what is chosen does."""
    found = demands_of(desk.checked)
    yield Title("Fasteners", "what they are asked to hold", str(len(found)))
    yield Line("By the worst combination of the code.", quiet=True)
    chosen = {f.use: f for f in desk.project.fasteners}
    for use, words in USE_WORDS.items():
        mine = [d for d in found if d.use == use]
        yield Heading(words.capitalize(), str(len(mine)))
        if not mine:
            yield Line("None is needed.", quiet=True)
            continue
        yield from _use(desk, use, mine, chosen.get(use))


def _use(desk: Desk, use: Use, mine: list[Demand], now: Fastener | None) -> Rows:
    if use in WOOD_TO_WOOD:
        yield _made_of(desk, use, now)
    if now is None or now.holds is not None:
        yield from _by_maker(desk, use, mine[0], now)
    elif now.dowels is not None:
        yield from _dowels(desk, use, now, now.dowels)
    if now is not None and use in IN_ROWS:
        yield Field(
            "apart along it",
            format_run(now.apart, desk.system),
            lambda t: _set(desk, use, apart=parse_length(t, desk.system)),
        )
    if now is not None:
        yield from _used(desk, now, mine)
    for d in mine[:MOST]:
        on = f" on {rest_called(desk, d.on)}" if d.on is not None else ""
        words = f"{_amount(desk, d)}, {d.combination}"
        yield Link(f"{rest_called(desk, d.what)}{on}", words, partial(desk.select, d.what))
    if len(mine) > MOST:
        yield Line(f"and {len(mine) - MOST} more, each less", quiet=True, small=True)


def _amount(desk: Desk, d: Demand) -> str:
    if d.use in IN_ROWS:
        return format_line_load(d.force, desk.system)
    return format_force(d.force, desk.system)


def _made_of(desk: Desk, use: Use, now: Fastener | None) -> Options:
    """What the joints of a use are made of."""
    kind = now.dowels.kind if now and now.dowels else None

    def choose(kind: DowelKind | None) -> object:
        if kind is None:
            return desk.edit("fastener", partial(choose_fastener, use=use, name="", holds=None))
        diameter, length = USUAL[desk.system][kind]
        count = 1 if use in IN_ROWS else 4
        made = partial(choose_dowels, use=use, name=kind)
        return desk.edit("fastener", partial(made, dowels=Dowels(kind, diameter, length, count)))

    kinds = [(f"{k}, by the code", k) for k in get_args(DowelKind)]
    return Options("made of", [("what a maker gives", None), *kinds], kind, choose)


def _by_maker(desk: Desk, use: Use, most: Demand, now: Fastener | None) -> Rows:
    """A fastener of a name, and what its maker says that it holds."""
    system = desk.system

    def holds(text: str) -> object:
        emptied = text.strip().lower() in ("", NONE)
        value = None if emptied else parse_force(text, system)
        called = now.name if now else USE_WORDS[use]
        return desk.edit("fastener", partial(choose_fastener, use=use, name=called, holds=value))

    if now:
        yield Field(f"{use} called", now.name, lambda t: _set(desk, use, name=t.strip()))
    held = format_force(now.holds, system) if now and now.holds is not None else NONE
    yield Field(f"one {use} holds", held, holds)


def _dowels(desk: Desk, use: Use, now: Fastener, dowels: Dowels) -> Rows:
    """The size and number of nails, screws or bolts."""
    system = desk.system

    def put(field: str, read: Callable[[str], Any]) -> Callable[[str], object]:
        return lambda t: _set(desk, use, dowels=replace(dowels, **{field: read(t)}))

    at_root = " at the root" if dowels.kind == "screws" else ""
    thick = f"{dowels.diameter / INCH:.3f} in" if system == "us" else f"{dowels.diameter:g} mm"
    yield Field(f"{use}: diameter{at_root}", thick, put("diameter", partial(_thick, system)))
    yield Field(
        f"{use}: length",
        format_length(dowels.length, system),
        put("length", lambda t: parse_length(t, system)),
    )
    words = f"{use}: side by side" if use in IN_ROWS else f"{use}: how many"
    yield Field(words, f"{dowels.count}", put("count", lambda t: round(parse_number(t))))


def _thick(system: System, text: str) -> float:
    """A diameter: inches in decimals without a sign, or mm."""
    plain = text.lower().replace("in", "").replace('"', "").strip()
    if system == "us" and "mm" not in plain and "/" not in plain:
        return parse_number(plain) * INCH
    return parse_length(text, system)


def _used(desk: Desk, now: Fastener, mine: list[Demand]) -> Rows:
    """The demand that uses it most, with its calculation."""
    worst = max((used_by(desk.checked, now, d) for d in mine), key=lambda u: u.check.ratio)
    if worst.why:
        yield Line(f"Not reckoned: {worst.why}.")
        return
    yield Checks((worst.check,))
    count = least_count(desk.checked, now, worst.demand)
    if count is not None:
        yield Fact("least that hold it", f"{count}")
    elif now.dowels is not None:
        yield Fact("least that hold it", "more than sixty")


def _set(desk: Desk, use: Use, **fields: Any) -> object:
    return desk.edit("fastener", partial(set_fastener, use=use, **fields))
