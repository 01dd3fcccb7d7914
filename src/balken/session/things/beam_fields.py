"""The fields of a beam and of a bay of beams: how they are made and set, what they are chosen from."""

from functools import partial
from typing import Any

from msgspec.structs import replace

from balken.drawing.words import pretty
from balken.model.beams import SET_WORDS, Beam, BeamBay
from balken.model.cases import CASE_WORDS, PRESSING
from balken.model.catalogue import sections_of
from balken.model.edits.beams import set_beams
from balken.model.edits.common import EditError
from balken.model.floors import RULE_WORDS
from balken.model.names import HostName
from balken.model.project import host_record, level
from balken.model.sections import FAMILY_WORDS
from balken.session.desk import Desk
from balken.session.rows import Field, Heading, Options, Rows
from balken.session.things.groups import ALONE, group_named
from balken.session.things.wood import air_row, limit_rows, wood_row
from balken.units import format_area_load, format_line_load, format_run, parse_length
from balken.units.quantity import parse_area_load, parse_line_load


def beam_fields(desk: Desk, host: HostName) -> Rows:
    """Add the fields of a beam or a bay."""
    project = desk.project
    record = host_record(project, host)
    if not isinstance(record, Beam | BeamBay):
        return
    system = project.system

    def edit(words: str, **values: Any) -> object:
        return desk.edit(words, partial(set_beams, hosts=(host,), **values))

    yield Heading(
        "All of this bay" if isinstance(record, BeamBay) else "This beam",
        level(project, record.level).name,
    )
    sections = sections_of(system, project.products)
    names = [n for n, s in sections.items() if s.plies > 1 or s.product or min(s.nominal) >= 4]
    options: list[tuple[str, Any]] = [("by calculation", None)]
    options += [
        (
            f"{pretty(n)} "
            f" {'' if sections[n].family == 'sawn' else FAMILY_WORDS[sections[n].family]}".rstrip(),
            n,
        )
        for n in names
    ]
    yield Options(
        "section", options, record.kind.section, lambda v: edit("section of beam", section=v)
    )
    yield Field(
        "sized with",
        record.kind.group or ALONE,
        lambda t: edit("group of beam", group=group_named(t)),
        example="beams at Floor 2",
    )
    yield from wood_row(desk, record.kind, edit)
    yield from air_row(desk, record, edit)
    yield from limit_rows(desk, record.kind, edit)
    yield Options(
        "set",
        [(words, key) for key, words in SET_WORDS.items()],
        record.kind.set,
        lambda v: edit("set of beam", set=v),
    )
    yield Field(
        "top raised by",
        format_run(record.kind.offset, system),
        lambda t: edit("height of beam", offset=parse_length(t, system, negative=True)),
    )
    yield Field(
        "camber",
        format_run(record.kind.camber, system),
        lambda t: edit("camber", camber=parse_length(t, system, negative=True)),
    )
    if isinstance(record, Beam):
        yield from _beam(desk, record, edit)
    else:
        yield from _bay(desk, record, edit)


def _beam(desk: Desk, record: Beam, edit: Any) -> Rows:
    system = desk.system
    through: list[tuple[str, Any]] = [("in one piece over them", True), ("cut over each", False)]
    yield Options(
        "inner supports", through, record.through, lambda v: edit("pieces of beam", through=v)
    )
    for i, name in enumerate(("out at start", "out at end")):

        def out(t: str, i: int = i) -> object:
            value = parse_length(t, system, negative=True)
            return edit(
                "reach of beam", out=(value, record.out[1]) if i == 0 else (record.out[0], value)
            )

        yield Field(name, format_run(record.out[i], system), out)
    yield Field(
        "hinges at",
        ", ".join(format_run(h, system) for h in record.hinges) or "none",
        lambda t: edit("hinges of beam", hinges=_hinges(t, system)),
    )
    for case in PRESSING:

        def load(t: str, case: str = case) -> object:
            loads = replace(record.loads, **{case: parse_line_load(t, system)})
            return edit("load on beam", loads=loads)

        amount = getattr(record.loads, case)
        yield Field(f"typed {CASE_WORDS[case]}", format_line_load(amount, system), load)


def _hinges(text: str, system: Any) -> tuple[float, ...]:
    if text.strip().lower() in ("", "none"):
        return ()
    return tuple(parse_length(part, system) for part in text.split(","))


def _bay(desk: Desk, record: BeamBay, edit: Any) -> Rows:
    system = desk.system
    yield Options(
        "spacing",
        [(words, key) for key, words in RULE_WORDS.items()],
        record.rule,
        lambda v: edit(
            "rule of bay", rule=v, **({"count": record.count or 3} if v == "count" else {})
        ),
    )
    if record.rule == "count":
        yield Field(
            "how many", str(record.count), lambda t: edit("beams in bay", count=count_of(t))
        )
    else:
        yield Field(
            "distance",
            format_run(record.spacing, system),
            lambda t: edit("spacing of bay", spacing=parse_length(t, system)),
        )
    yield Field(
        "first from side",
        format_run(record.begin, system),
        lambda t: edit("start of bay", begin=parse_length(t, system)),
    )
    sides = [("along the first pair of lines", 0), ("along the second pair", 1)]
    if not record.grid:
        sides = [(f"along side {i + 1}", i) for i in range(len(record.corners))]
    yield Options(
        "beams run", sides, record.along, lambda v: edit("turn the beams of a bay", along=v)
    )
    yield Field(
        "dead load",
        format_area_load(record.dead, system),
        lambda t: edit("load on bay", dead=parse_area_load(t, system)),
    )
    yield Field(
        "live load",
        format_area_load(record.live, system),
        lambda t: edit("load on bay", live=parse_area_load(t, system)),
    )


def count_of(text: str) -> int:
    """How many beams a bay holds.

    Raises:
        EditError: it is no such number.
    """
    if not text.strip().isdigit() or not 1 <= int(text) <= 400:
        raise EditError(f"“{text}” is no count; a bay holds 1 to 400 beams.")
    return int(text)
