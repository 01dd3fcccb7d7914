"""What holds pieces to one another, where one kind is chosen for a use: its name, and what one of them
holds by its maker."""

from typing import Annotated, Final, Literal

from msgspec import Meta

from balken.model.record import Name, Record

Use = Literal["hanger", "strap", "heel"]
USE_WORDS: Final[dict[Use, str]] = {
    "hanger": "hangers",
    "strap": "straps against wind",
    "heel": "heel joints and ties",
}


class Fastener(Record, frozen=True):
    """One kind of fastener for a use."""

    use: Use
    name: Name
    holds: Annotated[float, Meta(gt=0, le=1e6)]
    """One of them, N: by the factors of the code, as its maker gives it."""
