"""Quick spans in words and for machines: reading the question as typed, writing the answer."""

import json
import math
from typing import Any

from balken.design.codes.us.nds.values import NoValueError
from balken.design.lines import format_value
from balken.design.spans import (
    MemberWord,
    SpanAsked,
    SpanFound,
    default_limits,
    find_span,
    span_table,
    usual_sections,
)
from balken.errors import BalkenError
from balken.model.catalogue import GRADES, SPECIES, catalogue_of
from balken.model.sections import Section
from balken.units import (
    KPA,
    PSF,
    LengthError,
    QuantityError,
    System,
    format_area_load,
    format_length,
    format_run,
    parse_area_load,
    parse_length,
)


class SpanError(BalkenError):
    """A question that cannot be answered; the text says why and what is accepted."""


def read_species(text: str) -> str:
    """The species for what was typed, by its short or long name.

    Raises:
        SpanError: there is none.
    """
    wanted = text.strip().lower()
    for short, long in SPECIES.items():
        if wanted in (short.lower(), long.lower()):
            return short
    raise SpanError(
        f"There are no design values for species “{text}”. There are: {', '.join(SPECIES)}."
    )


def read_grade(text: str, species: str) -> str:
    """The grade for what was typed: ``2``, ``No. 2``, ``#2``, ``select structural``.

    Raises:
        SpanError: the species has no such grade.
    """
    wanted = (
        text.strip().lower().replace(" ", "").replace("no.", "").replace("#", "").removeprefix("no")
    )
    wanted = {"selectstructural": "ss", "1andbtr": "1&btr", "1&better": "1&btr"}.get(wanted, wanted)
    for grade in GRADES[species]:
        if grade.lower().removeprefix("no.") == wanted:
            return grade
    raise SpanError(f"{species} has no grade “{text}”. It has: {', '.join(GRADES[species])}.")


def read_section(text: str, system: System | None) -> tuple[Section, System]:
    """The section for ``2x10`` or ``38x235`` and the system it belongs to.

    Raises:
        SpanError: there is no such size.
    """
    name = text.strip().lower().replace("×", "x").replace(" ", "")
    systems: tuple[System, ...] = (system,) if system else ("us", "metric")
    for one in systems:
        found = catalogue_of(one).sections.get(name)
        if found:
            return found, one
    every = ", ".join(s for one in systems for s in catalogue_of(one).sections)
    raise SpanError(f"There is no size “{text}”. There are: {every}.")


def _default_loads(member: MemberWord, system: System) -> tuple[float, float]:
    us = {"joist": (40.0, 10.0), "ceiling joist": (10.0, 5.0), "rafter": (20.0, 10.0)}[member]
    metric = {"joist": (1.9, 0.5), "ceiling joist": (0.5, 0.25), "rafter": (1.0, 0.5)}[member]
    return (us[0] * PSF, us[1] * PSF) if system == "us" else (metric[0] * KPA, metric[1] * KPA)


def read_question(
    *,
    member: str,
    species: str,
    grade: str,
    size: str | None,
    spacing: str | None,
    live: str | None,
    snow: str | None,
    dead: str | None,
    limit: float | None,
    total_limit: float | None,
    wet: bool,
    incised: bool,
    units: System | None,
) -> tuple[SpanAsked, bool, bool]:
    """The question, and whether size and spacing were given.

    Raises:
        SpanError: something typed cannot be read.
    """
    word: MemberWord = "ceiling joist" if member == "ceiling-joist" else member  # type: ignore[assignment]
    kind = read_species(species)
    quality = read_grade(grade, kind)
    if snow and word != "rafter":
        raise SpanError("Only rafters carry snow here; give --live for joists.")
    if snow and live:
        raise SpanError(
            "Give roof live load or snow, not both: a rafter is checked for one at a time."
        )
    if size:
        section, system = read_section(size, units)
    else:
        system = units or _system_typed(spacing, live, dead)
        section = usual_sections(system, word)[0]
    gap, load, rest = _amounts(word, system, spacing, snow or live, dead)
    live_limit, allowed = _limits(word, limit, total_limit)
    asked = SpanAsked(
        word,
        kind,
        quality,
        section,
        gap,
        load,
        rest,
        "S" if snow else "Lr" if word == "rafter" else "L",
        live_limit,
        allowed,
        wet,
        incised,
        system,
    )
    return asked, bool(size), bool(spacing)


def _system_typed(*texts: str | None) -> System:
    """The measure that typed amounts are in."""
    metric = any(t and ("mm" in t or "pa" in t.lower() or "kn" in t.lower()) for t in texts)
    return "metric" if metric else "us"


def _amounts(
    word: MemberWord, system: System, spacing: str | None, live: str | None, dead: str | None
) -> tuple[float, float, float]:
    """Spacing, mm, variable and dead load, N/mm², as typed or as usual."""
    usual_live, usual_dead = _default_loads(word, system)
    try:
        gap = parse_length(spacing, system) if spacing else catalogue_of(system).spacings[1]
        load = parse_area_load(live, system) if live else usual_live
        rest = parse_area_load(dead, system) if dead else usual_dead
    except (LengthError, QuantityError) as error:
        raise SpanError(str(error)) from error
    if not 25 <= gap <= 3000:
        raise SpanError(
            f"A spacing of {format_run(gap, system)} makes no floor; give one between 1 in and 10"
            " ft."
        )
    if load + rest <= 0:
        raise SpanError("Without any load every span is long enough; give a load above zero.")
    return gap, load, rest


def _limits(
    word: MemberWord, limit: float | None, total_limit: float | None
) -> tuple[float, float | None]:
    """The n of span / n for variable load, and for all load; none for the latter where it is 0."""
    usual, usual_total = default_limits(word)
    for name, value in (("--limit", limit), ("--total-limit", total_limit)):
        if value is not None and not (value == 0 or 1 <= value <= 5000):
            raise SpanError(f"{name} is the n of span / n, between 1 and 5000.")
    if limit == 0:
        raise SpanError("--limit is the n of span / n, between 1 and 5000.")
    return limit or usual, (usual_total if total_limit is None else total_limit) or None


def answer(*, as_json: bool, **typed: Any) -> str:
    """The answer to what was typed.

    Raises:
        SpanError: it cannot be read or answered.
    """
    asked, has_size, has_spacing = read_question(**typed)
    try:
        if has_size and has_spacing:
            found = find_span(asked)
            return (
                json.dumps(span_document(found), indent=1, ensure_ascii=False)
                if as_json
                else span_words(found)
            )
    except NoValueError as error:
        raise SpanError(f"{str(error)[0].upper()}{str(error)[1:]}.") from error
    sections = (asked.section,) if has_size else usual_sections(asked.system, asked.member)
    spacings = (asked.spacing,) if has_spacing else catalogue_of(asked.system).spacings
    table = span_table(asked, sections, spacings)
    if as_json:
        return json.dumps(
            [span_document(f) for row in table for f in row if f], indent=1, ensure_ascii=False
        )
    return _table_words(asked, sections, spacings, table)


def span_document(found: SpanFound) -> dict[str, Any]:
    """An answer as plain data: mm, N, N/mm²."""
    a = found.asked
    return {
        "member": a.member,
        "species": a.species,
        "grade": a.grade,
        "size": a.section.name,
        "spacing_mm": a.spacing,
        "live_N_mm2": a.live,
        "dead_N_mm2": a.dead,
        "live_kind": a.live_kind,
        "live_limit": a.live_limit,
        "total_limit": a.total_limit,
        "engineered_span_mm": found.engineered,
        "governing": found.governing,
        "limits_mm": {
            "bending": found.limits.bending,
            "shear": found.limits.shear,
            "live_deflection": found.limits.live_deflection,
            "total_deflection": found.limits.total_deflection if a.total_limit else None,
            "bearing": found.limits.bearing,
        },
        "bearing_needed_mm": found.bearing_needed,
        "table_span_mm": found.table,
        "table": found.table_name,
        "checks": [
            {
                "name": c.name,
                "ratio": c.ratio,
                "combination": c.combination,
                "clause": c.clause,
                "steps": [
                    {
                        "symbol": s.symbol,
                        "value": s.value if math.isfinite(s.value) else None,
                        "kind": s.kind,
                        "clause": s.clause,
                        "how": s.how,
                    }
                    for s in c.lines
                ],
            }
            for c in found.checks
        ],
    }


def _heading(a: SpanAsked) -> str:
    kind = {"L": "live", "Lr": "roof live", "S": "snow"}[a.live_kind]
    loads = (
        f"{format_area_load(a.live, a.system)} {kind}, {format_area_load(a.dead, a.system)} dead"
    )
    return f"{a.member}, {a.species} {a.grade}, {loads}, ℓ/{a.live_limit:g}" + (
        f" live, ℓ/{a.total_limit:g} total" if a.total_limit else " live"
    )


def table_words(found: SpanFound) -> str:
    """The span of the tables, or why there is none."""
    if found.table is None:
        return f"none: {found.table_name}"
    return f"{format_length(found.table, found.asked.system)} ({found.table_name})"


def span_words(found: SpanFound) -> str:
    """An answer to read."""
    a = found.asked
    system = a.system
    lines = [
        f"{a.section.name} at {format_run(a.spacing, system)}: {_heading(a)}",
        "",
        f"  engineered span  {format_length(found.engineered, system)}  ({found.governing.lower()}"
        " governs)",
        f"  table span       {table_words(found)}",
        f"  bearing needed   {format_run(found.bearing_needed, system)} at each end"
        + (", on the plan of the roof" if a.member == "rafter" else ""),
    ]
    for c in found.checks:
        lines += ["", f"  {c.name}  {c.ratio:.2f}  {c.combination}, {c.clause}"]
        for s in c.lines:
            note = "; ".join(t for t in (s.how, s.clause) if t)
            lines.append(f"    {s.symbol:<9}{format_value(s, system):>18}  {note}".rstrip())
    return "\n".join(lines)


def _table_words(
    asked: SpanAsked,
    sections: tuple[Section, ...],
    spacings: tuple[float, ...],
    table: list[list[SpanFound | None]],
) -> str:
    head = _row("", [format_run(s, asked.system) for s in spacings])
    lines = [_heading(asked), "engineered span, with the span of the tables below it", "", head]
    for section, row in zip(sections, table):
        lines.append(
            _row(section.name, [_span(f.engineered if f else None, asked.system) for f in row])
        )
        if any(f and f.table for f in row):
            lines.append(_row("", [_span(f.table if f else None, asked.system) for f in row]))
    return "\n".join(lines)


def _row(name: str, words: list[str]) -> str:
    return f"  {name:<8}" + "".join(f"{t:>15}" for t in words)


def _span(length: float | None, system: System) -> str:
    return format_length(length, system) if length else "–"
