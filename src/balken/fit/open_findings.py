"""Open work: parts of the building with walls and nothing under, in or over them."""

from collections.abc import Callable, Iterable, Iterator
from functools import partial
from typing import Any, Final

from balken.errors import BalkenError
from balken.fit.finding import Finding, Mend
from balken.fit.places import place_name
from balken.framing import kinds
from balken.framing.hosts.floor_bearing import bearings_of_floor
from balken.geometry.plane import Ring, middle_of
from balken.model.names import ThingName, whole
from balken.model.project import Level, Project
from balken.site.bodies import storey_walls
from balken.site.parts import StoreyPart, storey_parts
from balken.site.proposals import (
    floors_up,
    with_floor_in,
    with_floor_over,
    with_foundation_under,
    with_roof_over,
)
from balken.works.building import Checked

COVERED: Final = 0.5
"""A floor that covers this much of a part is its floor: stairs and open spaces take their share."""
WIDE: Final = 1500.0
"""Between floors and walls, what is less wide than this is a well or a shaft, mm."""
BARE: Final = 0.9
"""A part of which more than this lies open to the sky has no roof."""
SLIVER: Final = 0.04
"""Of a part that a roof covers, less than this left open is a matter of outlines, not of work."""
FOOT2, METRE2 = 304.8**2, 1e6


def open_work(checked: Checked) -> Iterable[Finding]:
    """What a part of a storey still lacks, once a part: foundation, floor, roof."""
    project = checked.project
    floors = floors_up(project)
    parts = {x.id: storey_parts(storey_walls(project, x.id)) for x in floors}
    floored = _floored(checked)
    roofs = [shape.eaves for shape in checked.structure.roofs.values()]
    for i, item in enumerate(floors):
        over = [p.ring for x in floors[i + 1 :] for p in parts[x.id]]
        over += [r for x in _higher(project, item) for r in floored.get(x, [])]
        for part in parts[item.id]:
            if i == 0 and not _founded(checked, part):
                yield _no_foundation(project, item, part)
            yield from _floorless(project, item, part, floored.get(item.id, []), lowest=i == 0)
            yield from _roofless(project, item, part, over, roofs)


def _higher(project: Project, item: Level) -> list[str]:
    """The levels of floors above one, ceilings but for: what lies on them keeps the rain off."""
    return [
        x.id for x in project.levels if x.role == "floor" and x.elevation > item.elevation + 1.0
    ]


def _floored(checked: Checked) -> dict[str, list[Ring]]:
    """What lies on each level: floors by their outlines, slabs in the ground on the lowest."""
    project = checked.project
    found: dict[str, list[Ring]] = {}
    for floor in project.floors:
        bearings = bearings_of_floor(project, floor)
        if bearings is not None:
            found.setdefault(floor.level, []).append(bearings.outline)
    floors = floors_up(project)
    slabs = [m.solid.plan() for m in checked.structure.of(kinds.SLAB)]
    if floors and slabs:
        found.setdefault(floors[0].id, []).extend(slabs)
    return found


def _union(rings: Iterable[Ring]) -> Any:
    from shapely import Polygon, make_valid, union_all

    return union_all([make_valid(Polygon(r)) for r in rings if len(r) > 2])


def _share(ring: Ring, over: list[Ring]) -> float:
    """How much of an outline lies under others."""
    from shapely import Polygon

    shape = Polygon(ring)
    return float(shape.intersection(_union(over)).area / shape.area) if over else 0.0


def _finding(
    project: Project,
    item: Level,
    area: Any,
    walls: tuple[str, ...],
    words: str,
    mend: Mend | None,
) -> Finding:
    """An area round which walls stand and that lacks something."""
    middle = area.representative_point()
    at = (middle.x, middle.y)
    return Finding(
        "open",
        f"{item.name}, {len(walls)} walls",
        1.0,
        "count",
        f"{item.name}: {len(walls)} walls round {_size(project, area)},"
        f" {place_name(project, at)}, {words}",
        ThingName("walls", item.id),
        at=at,
        mend=mend,
    )


def _size(project: Project, area: Any) -> str:
    if project.system == "us":
        return f"{area.area / FOOT2:,.0f} sq ft"
    return f"{area.area / METRE2:,.0f} m²"


def _mend(project: Project, text: str, change: Callable[[Project], Project]) -> Mend | None:
    """A mend where it changes something; None where it cannot be made yet."""
    try:
        return Mend(text, change) if change(project) != project else None
    except BalkenError:
        return None


def _founded(checked: Checked, part: StoreyPart) -> bool:
    """Whether any foundation, or any pad of a post, lies under a part; where it lies under some of
    its walls only, those without are told by what they lack."""
    from shapely import Polygon

    shape = Polygon(part.ring)
    return any(
        (m.host.kind == "run" or m.kind is kinds.PAD) and shape.intersects(Polygon(m.solid.plan()))
        for m in checked.structure.members
    )


def _no_foundation(project: Project, item: Level, part: StoreyPart) -> Finding:
    change = partial(with_foundation_under, base=item.id, walls=part.walls)
    words = "have no foundation. Place one with G, or let the usual one be placed."
    mend = _mend(project, "Place a strip footing under them", change)
    return _finding(project, item, _union([part.ring]), part.walls, words, mend)


def _floorless(
    project: Project, item: Level, part: StoreyPart, floors: list[Ring], *, lowest: bool
) -> Iterator[Finding]:
    """What of a part has no floor: all of it, or a wing beside one that has."""
    under = "the foundation" if lowest else "the storey below"
    words = f"have no floor. Place one with Shift+F; it lies on {under}."
    if _share(part.ring, floors) < COVERED:
        change = partial(with_floor_over, base=item.id, ring=part.ring)
        mend = _mend(project, "Place a joist floor", change)
        yield _finding(project, item, _union([part.ring]), part.walls, words, mend)
        return
    left = _union([part.ring]).difference(_union(floors))
    for area in getattr(left, "geoms", [left]):
        if area.buffer(-WIDE / 2).is_empty:
            continue
        inside = area.representative_point()
        room = (round(inside.x, 3), round(inside.y, 3))
        change = partial(with_floor_in, base=item.id, room=room)
        mend = _mend(project, "Place a joist floor", change)
        yield _finding(project, item, area, _walls_round(project, item, area), words, mend)


def _roofless(
    project: Project, item: Level, part: StoreyPart, over: list[Ring], roofs: list[Ring]
) -> Iterator[Finding]:
    """What of a part is open to the sky: all of it, a wing, or a rest beside a roof."""
    shape = _union([part.ring])
    low = shape.difference(_union(over))
    left = low.difference(_union(roofs))
    areas = [a for a in getattr(left, "geoms", [left]) if a.area > SLIVER * shape.area]
    for area in areas:
        walls = _walls_round(project, item, area)
        if left.area > BARE * low.area:
            change = partial(with_roof_over, base=item.id, walls=walls)
            mend = _mend(project, "Place a roof over them", change)
            yield _finding(
                project, item, area, walls, "have no roof. Place one with Shift+R.", mend
            )
        else:
            words = (
                "are not under the roof beside them. Let it run on over them, or place another with"
                " Shift+R."
            )
            yield _finding(project, item, area, walls, words, None)


def _walls_round(project: Project, item: Level, area: Any) -> tuple[str, ...]:
    """The walls of a storey that stand round an area, by their middles."""
    from shapely import Point

    near = [
        whole(w.id)
        for w in storey_walls(project, item.id)
        if area.distance(Point(middle_of(w.start, w.end))) < 2 * w.thickness
    ]
    return tuple(dict.fromkeys(near))
