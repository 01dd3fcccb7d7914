"""What a code leaves open, as fields: the values of a country, and the sag that stays."""

from collections.abc import Sequence
from functools import partial
from typing import Final, get_args

from msgspec.structs import replace

from balken.model.edits import set_site
from balken.model.left_open import RECOMMENDED, LeftOpen, LongTerm
from balken.session.desk import Desk
from balken.session.rows import Field, Heading, Line, Options, Rows
from balken.units.number import parse_number, parse_several

FACTORS: Final = (
    ("γG", "permanent"),
    ("γG, favourable", "holding"),
    ("γQ", "variable"),
    ("γM of solid timber", "solid_timber"),
    ("γM of glulam", "glulam"),
    ("γM of LVL", "lvl"),
)
LISTS: Final = (
    ("ψ0, ψ1, ψ2, floors", "psi_floors", 3),
    ("ψ0, ψ1, ψ2, snow", "psi_snow", 3),
    ("ψ0, ψ1, ψ2, wind", "psi_wind", 3),
    ("kmod, class 1, 2", "kmod_dry", 5),
    ("kmod, class 3", "kmod_wet", 5),
)
"""Names, fields, and how many numbers each holds; kmod from permanent to instantaneous."""
BY_CATEGORY: Final = "by category"
LONG_TERM_WORDS: Final[dict[LongTerm, str]] = {
    "at once": "at once",
    "seasoned": "with creep, built in dry",
    "unseasoned": "with creep, built in wet",
}


def left_open_rows(desk: Desk) -> Rows:
    """The fields of the project's code."""
    if desk.project.code == "us":
        yield from _long_term(desk)
    else:
        yield from _of_country(desk)
    yield Heading("Live loads of floors")
    yield Options(
        "on large areas",
        [("whole", "whole"), ("reduced", "reduced")],
        desk.project.site.left_open.live_on_areas,
        partial(_put, desk, "live_on_areas"),
    )


def _long_term(desk: Desk) -> Rows:
    yield Heading("Sag that stays")
    yield Options(
        "sag of the whole",
        [(LONG_TERM_WORDS[v], v) for v in get_args(LongTerm)],
        desk.project.site.left_open.long_term,
        partial(_put, desk, "long_term"),
    )
    yield Line(
        "Creep by NDS 3.5.2: dead load times 1.5, or 2 built in wet.", quiet=True, small=True
    )


def _of_country(desk: Desk) -> Rows:
    now = desk.project.site.left_open
    yield Heading("Values of the country")
    for name, field in FACTORS:
        yield Field(
            name,
            f"{getattr(now, field):g}",
            lambda t, f=field: _put(desk, f, parse_number(t)),  # type: ignore[misc]
        )
    for name, field, count in LISTS:
        yield Field(name, _words(getattr(now, field)), partial(_put_several, desk, field, count))
    typed = [f for f in LeftOpen.__struct_fields__ if getattr(now, f) != getattr(RECOMMENDED, f)]
    said = "Typed where they differ from the recommended ones." if typed else "As recommended."
    yield Line(said, quiet=True, small=True)


def _words(values: Sequence[float] | None) -> str:
    return BY_CATEGORY if values is None else ", ".join(f"{v:g}" for v in values)


def _put_several(desk: Desk, field: str, count: int, text: str) -> object:
    if text.strip().lower() in ("", BY_CATEGORY):
        return _put(desk, field, getattr(RECOMMENDED, field))
    example = getattr(RECOMMENDED, field)
    words = _words(example) if example else "0.7, 0.5, 0.3"
    return _put(desk, field, parse_several(text, count, words))


def _put(desk: Desk, field: str, value: object) -> object:
    now = replace(desk.project.site.left_open, **{field: value})
    return desk.edit("values the code leaves open", partial(set_site, left_open=now))
