"""Words beside heights, pushed apart so that all can be read, each as near to its place as it can
be."""

from collections.abc import Sequence


def spread(wanted: Sequence[float], least: float, low: float, high: float) -> list[float]:
    """Places in the order of those wanted, ``least`` apart or more, with the least sum of squares of
    what they are moved by; all between two bounds where there is room for them.

    Args:
        wanted: from the smallest up.
        least: the distance two must have.
        low: none is smaller than this.
        high: none is larger than this, where there is room.
    """
    # What is left when the distances are taken out must only not fall: neighbours that would are
    # pooled at their mean (isotonic regression, Ayer et al. 1955).
    pools: list[tuple[float, int]] = []
    for i, place in enumerate(wanted):
        pools.append((place - i * least, 1))
        while len(pools) > 1 and pools[-2][0] > pools[-1][0]:
            (a, n), (b, m) = pools[-2:]
            pools[-2:] = [((a * n + b * m) / (n + m), n + m)]
    bare = [mean for mean, count in pools for _ in range(count)]
    room = high - (len(bare) - 1) * least
    return [max(low, min(room, b)) + i * least for i, b in enumerate(bare)]
