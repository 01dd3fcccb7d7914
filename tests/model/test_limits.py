"""Limits of fields are read from the records themselves; what is said names the field and the bound."""

from typing import Annotated

import msgspec
import pytest
from msgspec import Meta
from msgspec.structs import replace

from balken.model.edits.common import EditError, checked
from balken.model.limits import Broken, first_broken
from balken.model.project import Project
from balken.model.record import Record


class Inner(Record):
    depth: Annotated[float, Meta(gt=0, lt=10)] = 1.0


class Outer(Record):
    count: Annotated[int, Meta(ge=0, le=5)] = 0
    places: tuple[tuple[Annotated[float, Meta(le=100)], float], ...] = ()
    inner: Inner | None = None
    many: tuple[Inner, ...] = ()


@pytest.mark.parametrize(
    ("record", "broken"),
    [
        (Outer(), None),
        (Outer(count=5, inner=Inner(9.999)), None),
        (Outer(count=6), Broken("count", 5, False, False)),
        (Outer(count=-1), Broken("count", 0, True, False)),
        (Outer(inner=Inner(0.0)), Broken("depth", 0, True, True)),
        (Outer(many=(Inner(), Inner(10.0))), Broken("depth", 10, False, True)),
        (Outer(places=((1.0, 1e9), (101.0, 0.0))), Broken("places", 100, False, False)),
    ],
)
def test_the_first_number_beyond_its_limit_is_found(record: Outer, broken: Broken | None) -> None:
    assert first_broken(record) == broken
    with_reader = pytest.raises(msgspec.ValidationError) if broken else None
    if with_reader is None:
        msgspec.convert(msgspec.to_builtins(record), Outer)
    else:
        with with_reader:
            msgspec.convert(msgspec.to_builtins(record), Outer)


def test_what_is_said_names_the_field_and_both_measures(plain: Project) -> None:
    roof = replace(plain.roofs[0], rafters=replace(plain.roofs[0].rafters, tie_up=-5.0))
    with pytest.raises(EditError, match=r"The tie up must be zero or more\."):
        checked(plain, roofs=(roof,))
    wide = replace(plain.roofs[0], overhang=1e7)
    with pytest.raises(EditError, match=r"This overhang is too large: at most .* mm, .*'"):
        checked(plain, roofs=(wide,))
