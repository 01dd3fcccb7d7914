"""Tools in the ground: a foundation along walls, round a storey or drawn freely; heights of the
ground; steps."""

from functools import partial
from typing import Any

from msgspec.structs import replace

from balken.drawing.marks import Drawing, Stroke
from balken.framing.hosts.runs import heights_of
from balken.geometry.plane import TOUCH, Point, distance, dot, sub
from balken.model.edits.common import EditError
from balken.model.edits.foundations import (
    crossing_of,
    footing_levels,
    hold_step,
    not_founded,
    place_foundation,
    remove_spot,
    set_spot,
    usual_parts,
)
from balken.model.edits.others import add_spot
from balken.model.foundations import (
    PART_WORDS,
    WITH_STEM,
    Chosen,
    FoundationKind,
    chosen_of,
    parts_missing,
)
from balken.model.names import MemberName, Name, keys_of, wall_below, whole
from balken.model.project import Project, level, wall
from balken.model.walls import direction_of
from balken.session.tools.asking import Bench, Do, Tool, ask, clicked
from balken.site.bodies import outer_sides, storey_outline, storey_walls
from balken.site.ground import height_at, surface_of
from balken.site.proposals import bearing_walls, propose_levels
from balken.units import System, format_length, parse_length

WHERE = ("round the storey", "along chosen walls", "drawn freely")
NEAR = 400.0
"""A clicked place this near to a measured height is that height, mm."""


def chosen_parts(bench: Bench, kind: FoundationKind) -> Chosen:
    """The parts chosen for a kind: in this sitting, else those of the last foundation of the
    kind in the project."""
    for known, chosen in bench.kit.chosen:
        if known == kind:
            return chosen
    last = next((r for r in reversed(bench.project.runs) if r.kind == kind), None)
    if last is None:
        return Chosen()
    bottom, base, _, _ = heights_of(bench.project, last)
    return chosen_of(last, base - bottom)


def with_parts(
    bench: Bench, kind: FoundationKind, chosen: Chosen
) -> tuple[tuple[FoundationKind, Chosen], ...]:
    """What the kit remembers after parts of one kind were chosen; each kind keeps its
    own."""
    return (*((k, c) for k, c in bench.kit.chosen if k != kind), (kind, chosen))


def usual(bench: Bench, kind: FoundationKind, chosen: Chosen) -> Chosen:
    """Parts with usual sizes for those that are not chosen yet."""
    proposed = usual_parts(bench.project, kind)
    return replace(
        chosen, **{part: getattr(proposed, part) for part in parts_missing(kind, chosen)}
    )


def place(bench: Bench) -> Tool:
    """Place a foundation of the kit's kind where the kit says."""
    kind = bench.kit.foundation
    missing = parts_missing(kind, chosen_parts(bench, kind))
    if missing:
        words = " and ".join(PART_WORDS[p] for p in missing)
        while True:
            yield from ask(
                f"Not chosen yet: {words}. The slip asks for just these.", ends=True, free=True
            )
            yield Do("place foundation", partial(_refused, words=words))
    where = bench.kit.along
    if where == "drawn freely":
        yield from _drawn(bench)
    elif where == "along chosen walls":
        yield from _walls(bench)
    else:
        yield from ask("Enter places it round the whole storey.", ends=True, free=True)
        yield Do("place foundation", partial(_round_the_storey, bench=bench))


def _refused(project: Project, words: str) -> Project:
    raise EditError(f"Nothing is placed before this is chosen: {words}.")


def _args(bench: Bench) -> tuple[FoundationKind, Chosen]:
    kind = bench.kit.foundation
    return kind, chosen_parts(bench, kind)


def _levels(bench: Bench) -> dict[str, Any]:
    """The levels the kit names, where they still are."""
    there = {x.id for x in bench.project.levels}
    fields = {
        "top": bench.kit.found_top,
        "base": bench.kit.found_base,
        "slab_level": bench.kit.found_slab,
    }
    return {name: key for name, key in fields.items() if key in there}


def with_levels(project: Project) -> Project:
    """A project with the levels a foundation stands between: those that are missing are
    proposed."""
    return project if footing_levels(project) else propose_levels(project)


def _round_the_storey(project: Project, bench: Bench) -> Project:
    """Place it under the lowest storey: outside walls, and for walls that carry also the inner
    ones."""
    floors = sorted({w.base for w in project.walls}, key=lambda k: level(project, k).elevation)
    if not floors:
        raise EditError(
            "There are no walls to run under yet. Draw the foundation freely, or draw walls first."
        )
    base = bench.base if bench.base in floors else floors[0]
    walls = storey_walls(project, base)
    outline = storey_outline(walls)
    if outline is None:
        raise EditError(
            f"The walls on {level(project, base).name} enclose nothing to run round. Choose walls"
            " instead."
        )
    kind, chosen = _args(bench)
    if kind in WITH_STEM:
        keys = [w.id for w in bearing_walls(walls, outline)]
    else:
        outer = outer_sides(walls, outline)
        keys = [w.id for w in walls if w.id in outer]
    names = tuple(dict.fromkeys(whole(k) for k in keys))
    free, parts = not_founded(project, kind, names)
    if not free and not parts:  # all of it stands on such a foundation: another in its place
        free = names
    return place_foundation(
        with_levels(project),
        kind,
        chosen,
        free,
        parts=parts,
        offset=bench.kit.face,
        **_levels(bench),
    )


def _walls(bench: Bench) -> Tool:
    keys = keys_of(bench.chosen, "wall")
    if keys:
        yield from ask(f"Enter places it under the {len(keys)} chosen walls.", ends=True, free=True)
    else:
        picked = yield from ask("Click a wall it runs under.", kind="thing", things=("wall",))
        keys = [clicked(picked, "wall")]
    kind, chosen = _args(bench)

    def change(project: Project) -> Project:
        return place_foundation(
            with_levels(project), kind, chosen, keys, offset=bench.kit.face, **_levels(bench)
        )

    yield Do("place foundation", change)


def _drawn(bench: Bench) -> Tool:
    while True:
        first = yield from ask(
            "Click where it begins; along walls it takes that part of them. Enter ends.", ends=True
        )
        if first.finished:
            return
        path = [first.point]
        while True:

            def ghost(p: Point, path: tuple[Point, ...] = tuple(path)) -> Drawing:
                return (Stroke((*path, p), "mark"),)

            answer = yield from ask(
                "Click the next corner, or the first one to close it. Enter places it.",
                anchor=path[-1],
                ghost=ghost,
                ends=len(path) > 1,
            )
            if answer.finished:
                break
            closes = len(path) > 2 and distance(answer.point, path[0]) < NEAR / 4
            point = path[0] if closes else answer.point
            if distance(point, path[-1]) < TOUCH:
                continue
            if crossing_of([*path, point]):
                yield Do("draw on", partial(_crossed, path=(*path, point)))
                continue
            path.append(point)
            if closes:
                break
        yield Do("place foundation", partial(_along_path, bench=bench, path=tuple(path)))


def _along_path(project: Project, bench: Bench, path: tuple[Point, ...]) -> Project:
    kind, chosen = _args(bench)
    return place_foundation(
        with_levels(project), kind, chosen, path=path, offset=bench.kit.face, **_levels(bench)
    )


def _crossed(project: Project, path: tuple[Point, ...]) -> Project:
    spot = crossing_of(path)
    assert spot is not None
    x, y = (format_length(c, project.system) for c in spot)
    raise EditError(f"There the path would cross itself, at {x}, {y}. Click another corner.")


# -- heights of the ground ----------------------------------------------------


def heights(bench: Bench) -> Tool:
    """Put heights of the ground one by one, change one that is clicked, take it away with “-”."""
    while True:
        answer = yield from ask(
            "Click where the ground was measured; one that is there can be changed. Enter ends.",
            ends=True,
        )
        if answer.finished:
            return
        there = spot_at(bench.project, answer.point)
        now = (
            bench.project.spots[there].height
            if there is not None
            else _ground_now(bench.project, answer.point)
        )
        shown = format_length(now, bench.project.system).replace("−", "-")
        words = (
            "Its height; “away” takes it away"
            if there is not None
            else "Height of the ground there"
        )
        typed = yield from ask(
            f"{words}.",
            kind="text",
            first=shown,
            check=partial(_height_or_away, bench.project.system),
        )
        if not typed.text:
            continue
        if typed.text.strip().lower() == "away" and there is not None:
            yield Do("take height away", partial(remove_spot, number=there))
            continue
        height = parse_length(typed.text, bench.project.system, negative=True)
        if there is not None:
            yield Do("height of the ground", partial(set_spot, number=there, height=height))
        else:
            yield Do("height of the ground", partial(add_spot, at=answer.point, height=height))


def _height_or_away(system: System, text: str) -> object:
    return None if text.strip().lower() == "away" else parse_length(text, system, negative=True)


def spot_at(project: Project, p: Point) -> int | None:
    """The number of the measured height nearest to a place, where one is near."""
    near = [
        (distance(s.at, p), i) for i, s in enumerate(project.spots) if distance(s.at, p) <= NEAR
    ]
    return min(near)[1] if near else None


def _ground_now(project: Project, p: Point) -> float:
    if project.spots:
        return height_at(surface_of(project.spots), p)
    return next((x.elevation for x in project.levels if x.role == "ground"), 0.0)


# -- steps --------------------------------------------------------------------


def steps(bench: Bench) -> Tool:
    """Put steps of one module into outside footings where they are clicked; they go down as the
    ground falls."""
    while True:
        picked = yield from ask(
            "Click the wall or footing where it is to step; Enter ends.", ends=True, free=True
        )
        if picked.finished:
            return
        yield Do("put step", partial(_put_step, at=picked.point, key=picked.key))


def _put_step(project: Project, at: Point, key: Name | None) -> Project:
    below = key if isinstance(key, MemberName) and key.host.kind == "run" else None
    run = next(
        (r for r in project.runs if below and r.id == below.host.key and r.kind in WITH_STEM), None
    )
    item = next((w for w in project.walls if w.id == wall_below(below)), None)
    if run is None or item is None:
        raise EditError(
            "A step stands in the footing of a wall. Click a wall or footing on the foundation"
            " plan."
        )
    way = direction_of(item)
    along = round(dot(sub(at, item.start), way), 3)
    start, end = (_ground_now(project, p) for p in (wall(project, item.id).start, item.end))
    drop = project.site.steps.module * (1 if end <= start else -1)
    return hold_step(project, run.id, item.id, along, drop)
