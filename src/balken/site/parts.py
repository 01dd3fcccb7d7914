"""Parts of a storey: groups of walls that stand together and enclose something, a main block or a
wing."""

from typing import Final

import msgspec

from balken.geometry.plane import Ring
from balken.model.names import whole
from balken.model.walls import Wall
from balken.recall import remembered
from balken.site.bodies import bodies, storey_outline

NEAR: Final = 50.0
"""A wall stands in a part where its middle is this near to the part's outline, mm."""


class StoreyPart(msgspec.Struct, frozen=True):
    """One part: its outline round the outer faces, and the keys of its walls."""

    ring: Ring
    walls: tuple[str, ...]


@remembered
def storey_parts(walls: tuple[Wall, ...]) -> tuple[StoreyPart, ...]:
    """The parts of a storey that enclose something, the largest first. Walls on their own, and
    rows of posts, are none.

    Args:
        walls: of one storey, curved ones as straight pieces.
    """
    from shapely import Polygon, buffer, union_all

    if not walls:
        return ()
    rings = {key: Polygon(body.ring) for key, body in bodies(walls).items()}
    joined = union_all([buffer(r, NEAR, join_style="mitre") for r in rings.values()])
    found = []
    for shape in getattr(joined, "geoms", [joined]):
        mine = tuple(w for w in walls if rings[w.id].intersects(shape) and not shape.is_empty)
        outline = storey_outline(mine)
        if outline is not None:
            keys = tuple(dict.fromkeys(whole(w.id) for w in mine))
            found.append(StoreyPart(outline, keys))
    return tuple(sorted(found, key=lambda p: (-Polygon(p.ring).area, p.walls)))
