"""The bench of drawings: hidden lines of 1,500 boards against a tree of outlines, a framing plan of 20,000
members, and the whole set of sheets after an edit and on all cores."""

import math
import random
from collections.abc import Callable

from msgspec.structs import replace

from balken.drawing.cut import Body, View
from balken.drawing.paper.compose import sheets_of
from balken.drawing.plan import plan, plan_notes
from balken.drawing.seen import lines_of, sight_of
from balken.drawing.tiers import tiers
from balken.geometry.solid import upright
from balken.model.edits.paper import add_sheet_note
from balken.model.names import HostName
from balken.processes import on_all_cores
from balken.recall import Recall, remembering
from balken.session.demo import shown_demo
from balken.works.building import Checked, work_out
from balken.workshop.bench_beams import large_storey

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


MEMBERS = 20_000


def framing_plan(rounds: int, compare: Callable[..., Timing]) -> Timing:
    """Compare plans of a tenth of the members with one of all: the same where the work goes with their
    number. The members of a large storey stand in it several times over."""
    storey = work_out(large_storey())
    tier = next(t for t in tiers(storey) if t.kind == "floor")
    mine = tuple(m for m in storey.structure.members if tier.holds(m.host))

    def holding(count: int) -> Checked:
        times = math.ceil(count / len(mine))
        members = (mine * times)[:count]
        return replace(storey, structure=replace(storey.structure, members=members))

    small, large = holding(MEMBERS // 10), holding(MEMBERS)

    def drawn(checked: Checked) -> None:
        plan(checked, tier)
        plan_notes(checked, tier, 100.0)

    def tenth() -> None:
        for _ in range(10):
            drawn(small)

    return compare(tenth, lambda: drawn(large), rounds)


def sheets_again(rounds: int, compare: Callable[..., Timing]) -> Timing:
    """Compare all sheets of the bakehouse from nothing with those after a note is written on a plan."""
    project = shown_demo()
    checked, recall = work_out(project), Recall()
    key = f"plan:{tiers(checked)[0].id}"
    noted = iter(
        work_out(add_sheet_note(project, key, f"note {n}", (0.0, 0.0))[0])
        for n in range(rounds + 2)
    )

    def again() -> None:
        with remembering(recall):
            sheets_of(next(noted), (), "")

    def anew() -> None:
        with remembering(Recall()):
            sheets_of(checked, (), "")

    again()
    return compare(anew, again, rounds)


def sheets_on_all_cores(rounds: int, compare: Callable[..., Timing]) -> Timing:
    """Compare all sheets of the bakehouse from one core with those from all there are."""
    checked = work_out(shown_demo())

    def alone() -> None:
        with remembering(Recall()):
            sheets_of(checked, (), "")

    def together() -> None:
        with on_all_cores():
            alone()

    return compare(alone, together, rounds)
