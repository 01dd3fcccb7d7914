"""Snow that wind has heaped up, whatever the code."""

from typing import NamedTuple


class Drift(NamedTuple):
    """What lies on the leeward side of a ridge beside the balanced snow: ``load``, N/mm², from the
    ridge down over ``reach`` of plan, mm."""

    load: float
    reach: float
