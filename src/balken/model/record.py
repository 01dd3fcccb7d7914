"""What all records share: frozen, strict, and the limits of their fields. Lengths mm, loads N/mm²;
x east, y north, z up.

The field limits are part of the records, so that a file, an edit and a test meet the same ones.
"""

from typing import Annotated, Literal

import msgspec
from msgspec import Meta

Key = Annotated[str, Meta(min_length=1, max_length=80, pattern=r"^[^/\s:~]+$")]
"""The lasting short name of a record: no spaces, slashes, colons or tildes, since member names are
built from it."""
Link = Annotated[str, Meta(max_length=80)]
"""The key of another record, empty for none."""
Name = Annotated[str, Meta(max_length=200)]
Coordinate = Annotated[float, Meta(ge=-1e9, le=1e9)]
Size = Annotated[float, Meta(ge=1, le=1e6)]
"""A length that must be there: a millimetre at least, at most a kilometre."""
Spacing = Annotated[float, Meta(ge=50, le=1e6)]
"""Between members side by side, mm: nearer than 50 mm there is no room for them."""
Reach = Annotated[float, Meta(ge=0, le=1e6)]
"""A length that may be nothing."""
Shift = Annotated[float, Meta(ge=-1e6, le=1e6)]
Move = Annotated[float, Meta(ge=-1e5, le=1e5)]
"""By how much a piece is moved by hand, mm: 100 m at most."""
Turn = Annotated[float, Meta(ge=-360, le=360)]
"""Degrees to the left."""
AreaLoad = Annotated[float, Meta(ge=0, le=0.1)]
"""N/mm², at most 100 kN/m²."""
Load = Annotated[float, Meta(ge=-1e12, le=1e12)]
"""A force in N, a line load in N/mm or a moment in N mm."""
Code = Literal["us", "eu"]
"""Which family of codes a building is checked by: American, or the Eurocodes."""
ServiceClass = Literal[1, 2, 3]
"""Of the air round wood: heated inside, under cover, open to the weather (EN 1995-1-1 2.3.1.3)."""
Place = tuple[Coordinate, Coordinate]
SectionName = Annotated[str, Meta(max_length=40)]


class Record(
    msgspec.Struct,
    frozen=True,
    gc=False,
    cache_hash=True,
    forbid_unknown_fields=True,
    omit_defaults=False,
):
    """Base of every record: frozen, hashable, strict about unknown fields."""
