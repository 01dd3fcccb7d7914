"""What lies under a support."""

import math
from typing import Final

import msgspec


class Under(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """What lies under a support: the stress square to its surface that it resists, N/mm² (infinite:
    no softer than any wood on it), and what it is."""

    stress: float
    what: str
    clause: str
    hard: bool = False
    """Concrete or masonry, where a bearing is longer than on wood (IRC 2021 R502.6)."""


UNKNOWN: Final = Under(math.inf, "", "")
