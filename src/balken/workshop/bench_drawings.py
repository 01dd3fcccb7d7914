"""The bench of drawings: hidden lines of 1,500 boards against a tree of outlines."""

import math
import random
from collections.abc import Callable

from balken.drawing.cut import Body, View
from balken.drawing.seen import lines_of, sight_of
from balken.geometry.solid import upright
from balken.model.names import HostName
from balken.recall import Recall, remembering

BOARDS = 1500
NORTH = View((1.0, 0.0), (0.0, 1.0))
KEY = HostName("wall", "W1")
Timing = tuple[float, float, float]


def boards() -> list[Body]:
    """Boards at random, turned in plan, one behind the other."""
    chance = random.Random(7)
    found = []
    for _ in range(BOARDS):
        x, y, z = (chance.uniform(0, far) for far in (12_000, 9_000, 7_000))
        long, thick, tall = chance.uniform(500, 4000), 38.0, chance.uniform(90, 300)
        turn = chance.uniform(-0.6, 0.6)
        way = (math.cos(turn), math.sin(turn))
        across = (-way[1] * thick, way[0] * thick)
        a, b = (x, y), (x + way[0] * long, y + way[1] * long)
        ring = (a, b, (b[0] + across[0], b[1] + across[1]), (a[0] + across[0], a[1] + across[1]))
        found.append(Body(upright(ring, z, z + tall), "timber", KEY))
    return found


def by_tree(bodies: list[Body]) -> float:
    """The visible outlines, each less the union of those nearer that it meets (shapely); their length,
    mm."""
    import shapely

    rings = [
        shapely.MultiPoint([(NORTH.along((x, y)), z) for x, y, z in b.solid.points()]).convex_hull
        for b in bodies
    ]
    depths = [b.depths(NORTH)[0] for b in bodies]
    tree = shapely.STRtree(rings)
    length = 0.0
    for i, ring in enumerate(rings):
        near = [rings[j] for j in tree.query(ring).tolist() if depths[j] < depths[i]]
        outline = ring.exterior
        length += (outline.difference(shapely.union_all(near)) if near else outline).length
    return length


def hidden_lines(rounds: int, compare: Callable[..., Timing]) -> Timing:
    """Compare a tree of outlines with edges clipped all at once."""
    bodies, sight, recall = boards(), sight_of(NORTH), Recall()

    def clipped() -> None:
        with remembering(recall):  # faces of bodies are worked out once for all views
            lines_of(bodies, sight)

    return compare(lambda: by_tree(bodies), clipped, rounds)
