"""What is sawn wood that a host is cut from, the air round it, and how far it may bend: rows for the
slips of floors, roofs and beams."""

from collections.abc import Callable
from typing import Any, Final

from balken.design.codes import timber_by
from balken.design.service import service_class
from balken.model.catalogue import GRADES_OF, SPECIES
from balken.model.record import ServiceClass
from balken.session.desk import Desk
from balken.session.rows import Field, Options, Rows
from balken.units.number import parse_number

Edit = Callable[..., object]
AIR: Final[tuple[tuple[str, ServiceClass], ...]] = (
    ("inside, heated", 1),
    ("under cover", 2),
    ("open to the weather", 3),
)
"""Service classes (EN 1995-1-1 2.3.1.3)."""


def woods(desk: Desk) -> list[tuple[str, tuple[str, str]]]:
    """Every species and grade that the project's code has values for, in words."""
    return [
        (f"{SPECIES.get(species, species)} {grade}", (species, grade))
        for species, grades in GRADES_OF[desk.project.code].items()
        for grade in grades
    ]


def wood_row(desk: Desk, record: Any, edit: Edit) -> Rows:
    """What a record is cut from; ``edit`` is given words and the fields."""
    now = (record.species, record.grade)
    choices = woods(desk)
    if now not in [wood for _, wood in choices]:
        choices = [(" ".join(now).strip() or "none", now), *choices]
    yield Options("wood", choices, now, lambda w: edit("wood", species=w[0], grade=w[1]))


def air_row(desk: Desk, host: Any, edit: Edit) -> Rows:
    """The air round a host, where the code asks for it."""
    if desk.project.code == "eu":
        yield Options(
            "air round it", list(AIR), service_class(host), lambda v: edit("air", service=v)
        )


def limit_rows(desk: Desk, record: Any, edit: Edit) -> Rows:
    """Span over the two deflections it may have."""
    for words, field in zip(timber_by(desk.project.code).rules.sags, ("live_limit", "total_limit")):

        def change(text: str, field: str = field) -> object:
            return edit("limit of deflection", **{field: parse_number(text)})

        yield Field(f"{words.lower()}, span over", f"{getattr(record, field):g}", change)
