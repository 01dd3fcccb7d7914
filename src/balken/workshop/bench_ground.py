"""How fast foundations are: a storey of 200 walls on ground of 3,000 measured heights."""

import math
import random

from balken.framing.hosts.sites import sites_of
from balken.framing.structure import Structure, frame
from balken.geometry.trim import Body, union
from balken.model.edits.foundations import place_foundation, usual_parts
from balken.model.edits.others import set_spots
from balken.model.edits.walls import WallKind, make_wall, move_wall
from balken.model.new import empty_building
from balken.model.project import Project, Spot
from balken.site.proposals import propose_levels

ROOMS = (10, 9)
ROOM = 4000.0
SPOTS = 3000


def storey() -> Project:
    """199 walls between 90 rooms on strip footings, on rough ground that falls 3 m across
    them."""
    from msgspec.structs import replace

    project = propose_levels(empty_building("Rooms", "metric"))
    kind = WallKind("L1", "P1", thickness=200.0, by="core centre")
    nx, ny = ROOMS
    lines = [
        ((i * ROOM, k * ROOM), ((i + 1) * ROOM, k * ROOM)) for k in range(ny + 1) for i in range(nx)
    ]
    lines += [
        ((i * ROOM, k * ROOM), (i * ROOM, (k + 1) * ROOM)) for i in range(nx + 1) for k in range(ny)
    ]
    walls = tuple(make_wall(project, kind, f"W{n}", a, b) for n, (a, b) in enumerate(lines, 1))
    project = replace(project, walls=walls)
    project = place_foundation(
        project, "strip", usual_parts(project, "strip"), [w.id for w in walls]
    )
    ground = next(x.elevation for x in project.levels if x.role == "ground")
    dice = random.Random(7)
    spots = []
    for _ in range(SPOTS):
        x, y = dice.uniform(-1e4, nx * ROOM + 1e4), dice.uniform(-1e4, ny * ROOM + 1e4)
        fall = 3000.0 * x / (nx * ROOM) + 300.0 * math.sin(x / 5000) * math.cos(y / 7000)
        spots.append(Spot((x, y), round(ground - max(0.0, fall), 1)))
    return set_spots(project, spots)


def dragged(project: Project, step: int) -> Project:
    """The storey with one outside wall dragged by a few mm."""
    return move_wall(project, "W5", -1.0 * (step % 50 + 1), stack=False)


def framed(project: Project) -> Structure:
    """Frame the foundation and trim its concrete."""
    return frame(sites_of(project), {})


def all_concrete(structure: Structure) -> list[Body]:
    """The bodies of all concrete before they meet."""
    return [Body(m.solid, m.voids) for m in structure.members if m.kind.concrete]


def union_volume(structure: Structure) -> float:
    """The volume of manifold3d's own union of all concrete, mm³."""
    return union(all_concrete(structure)).volume
