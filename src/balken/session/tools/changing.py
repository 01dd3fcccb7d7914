"""Tools that change what is selected: move, copy, turn, mirror, array, align; and measure."""

import math
from collections.abc import Sequence
from functools import partial

from balken.drawing.marks import Drawing, Label, Mark, Stroke
from balken.errors import BalkenError
from balken.geometry.plane import Point, add, direction_or, distance, sub
from balken.model.edits.clipboard import Clip, paste
from balken.model.edits.transform import (
    Face,
    Motion,
    align_walls,
    apply,
    array_motions,
    chosen,
    copies,
    mirror_motion,
    move,
    turned_motions,
)
from balken.model.names import HostName, Name, keys_of
from balken.model.project import Project, wall
from balken.model.supports import footprint
from balken.model.walls import arc_points, direction_of, straightened
from balken.session.tools.asking import Bench, Do, Pick, Tool, ask, clicked
from balken.site.bodies import bodies
from balken.units import format_length, parse_angle, parse_number


def _outlines(project: Project, keys: Sequence[Name], motions: Sequence[Motion]) -> Drawing:
    """The outlines of what is selected where motions would bring it."""
    there = chosen(keys)
    walls = straightened(tuple(w for w in project.walls if w.id in there.walls))
    rings = [b.ring for b in bodies(walls).values()]
    rings += [
        ring
        for s in project.point_supports
        if s.id in there.supports and (ring := footprint(project, s)) is not None
    ]
    return tuple(
        Stroke(tuple(m(p) for p in (*ring, ring[0])), "mark")
        for m in motions[:50]
        for ring in rings
    )


def moving(bench: Bench, keys: tuple[Name, ...], *, copying: bool = False) -> Tool:
    """Move or copy what is selected from one place to another."""
    word = "copy" if copying else "move"
    a = yield from ask(f"Click the place to {word} from.")
    start = a.point

    def ghost(p: Point) -> Drawing:
        return (
            *_outlines(bench.project, keys, [Motion(sub(p, start))]),
            Stroke((start, p), "hair"),
        )

    while True:
        b = yield from ask(
            f"Click where to {word} it to, or type a distance, Tab, an angle.",
            anchor=start,
            ghost=ghost,
            ends=True,
        )
        if b.finished:
            return
        by = sub(b.point, start)
        if not copying:
            yield Do("move", partial(move, names=keys, by=by))
            return
        yield Do("copy", partial(_copied, keys=keys, motions=(Motion(by),)))


def _copied(project: Project, keys: Sequence[Name], motions: Sequence[Motion]) -> Project:
    return copies(project, keys, motions)[0]


def turning(bench: Bench, keys: tuple[Name, ...], *, copying: bool = False) -> Tool:
    """Turn what is selected about a place, by a typed angle or from one direction to another."""
    a = yield from ask("Click the place to turn about.")
    centre = a.point

    def motion(p: Point, zero: float = 0.0) -> Motion:
        away = sub(p, centre)
        return Motion(turn=math.atan2(away[1], away[0]) - zero, centre=centre)

    def read(pointer: Point, numbers: Sequence[float]) -> Point:
        t = math.radians(numbers[0])
        return add(centre, (math.cos(t), math.sin(t)), 1000.0)

    def ghost(p: Point) -> Drawing:
        return (*_outlines(bench.project, keys, [motion(p)]), Stroke((centre, p), "hair"))

    b = yield from ask(
        "Type the angle, or click the direction that its right-hand side turns to.",
        anchor=centre,
        fields=("turn",),
        read=read,
        ghost=ghost,
    )
    if copying:
        yield Do("turn a copy", partial(_copied, keys=keys, motions=(motion(b.point),)))
    else:
        yield Do("turn", partial(apply, names=keys, motion=motion(b.point)))


def mirroring(bench: Bench, keys: tuple[Name, ...], *, copying: bool = True) -> Tool:
    """Mirror what is selected in a line; a copy, unless told otherwise."""
    a = yield from ask("Click the first place of the line to mirror in.")
    start = a.point

    def ghost(p: Point) -> Drawing:
        return (
            *_outlines(bench.project, keys, [mirror_motion(start, p)]),
            Stroke((start, p), "centre"),
        )

    b = yield from ask("Click the second place of the line.", anchor=start, ghost=ghost)
    motion = mirror_motion(start, b.point)
    if copying:
        yield Do("mirror a copy", partial(_copied, keys=keys, motions=(motion,)))
    else:
        yield Do("mirror", partial(apply, names=keys, motion=motion))


def array(bench: Bench, keys: tuple[Name, ...]) -> Tool:
    """Repeat what is selected in a row, or round a place."""
    words = "How many more? Write 4 for a row, or 4 round for copies round a place."
    how = yield from ask(words, kind="text", first="3", check=lambda t: _count(t.split()[0]))
    if how.finished:
        return
    word = how.text.lower().split()
    count = _count(word[0])
    if "round" in word:
        yield from _round_array(bench, keys, count)
        return
    a = yield from ask("Click the place to step from.")
    start = a.point

    def ghost(p: Point) -> Drawing:
        return _outlines(bench.project, keys, array_motions(sub(p, start), count))

    b = yield from ask(
        "Click where the first copy goes, or type a distance.", anchor=start, ghost=ghost
    )
    motions = array_motions(sub(b.point, start), count)
    yield Do(f"row of {count}", partial(_copied, keys=keys, motions=tuple(motions)))


def _round_array(bench: Bench, keys: tuple[Name, ...], count: int) -> Tool:
    a = yield from ask("Click the place they go round.")
    whole = yield from ask(
        "Degrees between them", kind="text", first=f"{360 / (count + 1):g}", check=parse_angle
    )
    if whole.finished:
        return
    motions = turned_motions(a.point, parse_angle(whole.text), count)
    yield Do(f"{count} round a place", partial(_copied, keys=keys, motions=tuple(motions)))


def _count(text: str) -> int:
    value = parse_number(text)
    if value != int(value) or value < 1:
        raise BalkenError(f"“{text}” is no number of copies. Write a whole number such as 4.")
    return int(value)


def aligning(bench: Bench, keys: tuple[Name, ...]) -> Tool:
    """Bring a face of the selected walls onto a line through two places."""
    walls = tuple(keys_of(keys, "wall"))
    if not walls:
        picked = yield from ask("Click the wall to align.", kind="thing", things=("wall",))
        walls = (clicked(picked, "wall"),)
    face = yield from ask("Which part: outer, inner or centre?", kind="text", first="outer")
    part: Face = {"o": "outer face", "i": "inner face", "c": "centre"}.get(
        face.text[:1].lower(), "outer face"
    )  # type: ignore[assignment]
    item = wall(bench.project, walls[0])
    way = direction_of(item)

    def ghost(p: Point) -> Drawing:
        far = 1e5
        return (Stroke((add(p, way, -far), add(p, way, far)), "centre"),)

    at = yield from ask("Click a place on the line it goes to.", ghost=ghost)
    yield Do("align", partial(align_walls, keys=walls, place=at.point, along=way, face=part))


def pasting(bench: Bench, clip: Clip) -> Tool:
    """Paste a clip at clicked places."""

    def ghost(p: Point) -> Drawing:
        by = Motion(sub(p, clip.origin))
        lines = [arc_points(w.start, w.end, w.bulge) for w in clip.walls]
        marks: list[Mark] = [Stroke(tuple(by(q) for q in line), "mark") for line in lines]
        return (
            *marks,
            *(Stroke((by(s.at), by(add(s.at, (200.0, 0.0)))), "mark") for s in clip.supports),
        )

    answer = yield from ask(
        "Click where it goes; Enter leaves it where it was.", ghost=ghost, ends=True
    )
    at = clip.origin if answer.finished else answer.point
    before = bench.project
    made = yield Do("paste", partial(paste, clip=clip, base=bench.base, at=at))
    if made:
        old = {w.id for w in before.walls} | {s.id for s in before.point_supports}
        keys: list[Name] = [HostName("wall", w.id) for w in bench.project.walls if w.id not in old]
        keys += [HostName("support", s.id) for s in bench.project.point_supports if s.id not in old]
        yield Pick(tuple(keys))


def measuring(bench: Bench) -> Tool:
    """Measure between places, one after another; the last one stays until the next."""
    while True:
        a = yield from ask("Click the first place to measure from. Enter ends.", ends=True)
        if a.finished:
            return
        last, total = a.point, 0.0
        while True:
            answer = yield from ask(
                "Click the next place; Enter begins anew.",
                anchor=last,
                ends=True,
                ghost=partial(_measured, bench, last, total),
            )
            if answer.finished:
                break
            total += distance(last, answer.point)
            last = answer.point


def _measured(bench: Bench, a: Point, before: float, p: Point) -> Drawing:
    system = bench.project.system
    text = format_length(distance(a, p), system)
    if before:
        text += f", {format_length(before + distance(a, p), system)} in all"
    x, y = sub(p, a)
    if abs(x) > 1 and abs(y) > 1:
        text += f" ({format_length(abs(x), system)} across, {format_length(abs(y), system)} up)"
    middle = ((a[0] + p[0]) / 2, (a[1] + p[1]) / 2)
    side = direction_or(sub(p, a), (1.0, 0.0))
    return (
        Stroke((a, p), "mark"),
        Label(text, add(middle, (-side[1], side[0]), 150.0), 2.8, boxed=True, bold=True),
    )
