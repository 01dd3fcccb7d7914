"""The bench of framed walls: 400 of them with 600 openings."""

from collections.abc import Callable

from msgspec.structs import replace

from balken.framing import kinds
from balken.framing.hosts.sites import sites_of
from balken.framing.structure import frame
from balken.model.edits.build_ups import add_build_up
from balken.model.edits.wall_frames import frame_walls
from balken.model.edits.walls import WallKind, draw_walls, rectangle_of
from balken.model.new import empty_building
from balken.model.project import Project
from balken.model.wall_catalogue import first_build_ups
from balken.model.walls import Opening, Wall
from balken.recall import Recall, remembering
from balken.site.wall_weights import is_masonry
from balken.works.building import work_out
from balken.works.headers import choose_headers
from balken.works.rounds import around_of

ROOMS = 100
ROOM = (8400.0, 6000.0)
STEPS = 10
"""Steps of a drag timed together: a hand makes dozens, and the first finds the machine cold."""
Timing = tuple[float, float, float]


def rooms() -> Project:
    """A hundred rooms apart from one another: 400 framed walls with three openings in every other."""
    project = empty_building("Rooms", "metric")
    body = next(b for b in first_build_ups("metric") if not is_masonry(b))
    project, key = add_build_up(project, body.layers, body.module)
    kind = WallKind("L1", "P1", build_up=key, by="outer face", outside="right")
    for n in range(ROOMS):
        x, y = (n % 10) * 2 * ROOM[0], (n // 10) * 2 * ROOM[1]
        ring = rectangle_of((x, y), (x + ROOM[0], y + ROOM[1]))
        project = draw_walls(project, kind, ring, closed=True)
    walls = tuple(_opened(w) if i % 2 == 0 else w for i, w in enumerate(project.walls))
    return frame_walls(replace(project, walls=walls), is_masonry)


def _opened(wall: Wall) -> Wall:
    door = Opening(f"{wall.id}-1", "door", 1000.0, 950.0, 2080.0, 0.0)
    windows = (
        Opening(f"{wall.id}-{n}", "window", at, 1400.0, 1200.0, 880.0)
        for n, at in ((2, 2900.0), (3, 5600.0))
    )
    return replace(wall, openings=(door, *windows))


def dragged(project: Project, by: float) -> Project:
    """The first window of the first wall moved along it."""
    first = project.walls[0]
    moved = tuple(
        replace(o, at=o.at + by) if o.id == f"{first.id}-2" else o for o in first.openings
    )
    return replace(project, walls=(replace(first, openings=moved), *project.walls[1:]))


def opening_dragged(rounds: int, compare: Callable[..., Timing]) -> Timing:
    """Compare framing all walls from nothing with one step of dragging an opening: one wall is framed
    again."""
    project, recall = rooms(), Recall()
    steps = iter(range(1, 10**6))

    def again(known: Recall) -> None:
        with remembering(known):
            frame(sites_of(dragged(project, next(steps) % 500)), {})

    def drag() -> None:
        for _ in range(STEPS):
            again(recall)

    drag()
    whole, many, ratio = compare(lambda: again(Recall()), drag, rounds)
    return whole, many / STEPS, STEPS * ratio


def headers(rounds: int, compare: Callable[..., Timing]) -> Timing:
    """Compare choosing the headers over 600 openings one by one with choosing them side by side."""
    done = work_out(rooms())
    project, structure, path = done.built, done.structure, done.path
    around = around_of(project, structure, dict(done.sizes))
    alone = [
        replace(structure, by_kind={kinds.WALL_HEADER: (m,)})
        for m in structure.of(kinds.WALL_HEADER)
    ]

    def one_by_one() -> None:
        for single in alone:
            choose_headers(project, single, path, around)

    return compare(one_by_one, lambda: choose_headers(project, structure, path, around), rounds)
