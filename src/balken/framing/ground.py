"""Foundation runs: strip footing, stem wall and sill plate under a set of walls.

The footing lies centred under the stem; the stem's outer face is flush with the wall above (or moved by the run's
offset); under inside walls the stem is centred. Where pieces meet, concrete is counted once.
"""

from msgspec.structs import replace
from shapely import Polygon, unary_union

from balken.framing.member import Framed, Member, MemberRole
from balken.geometry.plane import Point, Ring, add, dot, left, simplify, sub, unit
from balken.geometry.solid import upright
from balken.model.bodies import bodies, outer_sides, storey_outline
from balken.model.catalogue import Section
from balken.model.memo import Memo
from balken.model.project import Change, FoundationRun
from balken.model.walls import Wall, reach
from balken.units import System, format_run

SLIVER = 100.0
"""Pieces of plan smaller than this are rounding, mm²."""
SILL_MATERIAL = "HF No.2 treated"
"""Wood on concrete is preservative-treated (IRC 2021 R317.1)."""


def flush_lines(
    walls: tuple[Wall, ...], thickness: float, offset: float = 0.0, outside: dict[str, int] | None = None
) -> tuple[Wall, ...]:
    """Return stems or plates under walls as lines, so that they mitre by the same rule as walls do.

    Under outside walls the outer face is flush with the wall's, moved out by ``offset``; under inside walls the line is
    centred. ``outside`` says which side of which walls is outside, where it is known already.
    """
    if outside is None:
        outside = outer_sides(walls, storey_outline(walls))
    found = []
    for wall in walls:
        normal = left(unit(sub(wall.end, wall.start)))
        faces = reach(wall)
        sign = outside.get(wall.id)
        if sign is None:
            found.append(_line(wall, normal, sum(faces) / 2, thickness, "centre"))
        elif sign > 0:
            found.append(_line(wall, normal, faces[0] + offset, thickness, "right"))
        else:
            found.append(_line(wall, normal, faces[1] - offset, thickness, "left"))
    return tuple(found)


def _line(wall: Wall, normal: Point, shift: float, thickness: float, side: str) -> Wall:
    start, end = add(wall.start, normal, shift), add(wall.end, normal, shift)
    return replace(wall, start=start, end=end, thickness=thickness, side=side, shift=0.0, openings=())


def _widened(stems: tuple[Wall, ...], width: float) -> tuple[Wall, ...]:
    """Return lines centred on the stems with another width."""
    found = []
    for stem in stems:
        normal = left(unit(sub(stem.end, stem.start)))
        found.append(_line(stem, normal, sum(reach(stem)) / 2, width, "centre"))
    return tuple(found)


def pieces(lines: tuple[Wall, ...]) -> list[tuple[str, Ring]]:
    """Return plan pieces per line, each point of plan counted once: earlier pieces keep what they cover."""
    taken = Polygon()
    found: list[tuple[str, Ring]] = []
    for key, body in bodies(lines).items():
        rest = Polygon(body.ring).buffer(0).difference(taken)
        for part in sorted(getattr(rest, "geoms", [rest]), key=lambda g: -g.area):
            if part.area > SLIVER:
                ring = simplify([(round(x, 6), round(y, 6)) for x, y in part.exterior.coords[:-1]], 0.05)
                found.append((key, ring))
        taken = unary_union([taken, Polygon(body.ring).buffer(0)])
    return found


def butted(lines: tuple[Wall, ...]) -> list[tuple[str, Ring]]:
    """Return plan pieces cut square: at a corner the earlier piece runs through and the later one butts."""
    taken = Polygon()
    found: list[tuple[str, Ring]] = []
    shapes = bodies(lines)
    for line in lines:
        direction = unit(sub(line.end, line.start))
        normal = left(direction)
        along = [dot(sub(c, line.start), direction) for c in shapes[line.id].corners]
        low, high = reach(line)[::-1]
        corners = [(min(along), low), (max(along), low), (max(along), high), (min(along), high)]
        ring = tuple(add(add(line.start, direction, s), normal, t) for s, t in corners)
        rest = Polygon(ring).difference(taken)
        for part in getattr(rest, "geoms", [rest]):
            if part.area > SLIVER:
                cleaned = [(round(x, 6), round(y, 6)) for x, y in part.exterior.coords[:-1]]
                found.append((line.id, simplify(cleaned, 0.05)))
        taken = unary_union([taken, Polygon(ring)])
    return found


def frame_run(
    run: FoundationRun,
    walls: tuple[Wall, ...],
    heights: tuple[float, float, float],
    sill: Section | None,
    system: System,
    changes: tuple[Change, ...],
    memo: Memo | None = None,
) -> Framed:
    """Frame one foundation run.

    Args:
        run: the run.
        walls: the walls it stands under, in its order.
        heights: bottom of footing, top of footing, top of foundation, mm.
        sill: the sill plate's section, laid flat, or None.
        system: for the names of concrete sections.
        changes: changes by hand on members of this run.
        memo: what is remembered between edits.
    """
    memo = memo or Memo()
    bottom, base, top = heights
    outside = memo(outer_sides, walls, memo(storey_outline, walls, memo))
    stems = flush_lines(walls, run.stem_thickness, run.offset, outside)
    footings = _widened(stems, run.footing_width)
    host = f"run:{run.id}"
    size = f"{format_run(run.footing_width, system)} × {format_run(base - bottom, system)}"
    kept = _Namer(host, run, changes)
    members = [
        *kept.make("footing", "F", pieces(footings), bottom, base, run.bottom, size, "concrete", footings),
        *kept.make("stem", "S", pieces(stems), base, top, run.base, format_run(run.stem_thickness, system), "concrete",
                   stems),
    ]  # fmt: skip
    if sill:
        lines = flush_lines(walls, sill.depth, outside=outside)
        members += kept.make(
            "sill", "P", butted(lines), top, top + sill.breadth, run.top, sill.name, SILL_MATERIAL, lines
        )
    names = {c.member for c in changes}
    gone = names - {m.id for m in members} - kept.removed
    return Framed(tuple(members), tuple(sorted(gone)))


class _Namer:
    """Gives members of one run their lasting names: the wall above, since walls outlive layouts."""

    def __init__(self, host: str, run: FoundationRun, changes: tuple[Change, ...]) -> None:
        self.host, self.run = host, run
        self.changes = {c.member: c for c in changes}
        self.removed: set[str] = set()

    def make(
        self, role: MemberRole, letter: str, parts: list[tuple[str, Ring]], bottom: float, top: float, level: str,
        section: str, material: str, lines: tuple[Wall, ...],
    ) -> list[Member]:  # fmt: skip
        by_key = {w.id: w for w in lines}
        found = []
        counts: dict[str, int] = {}
        for key, ring in parts:
            counts[key] = counts.get(key, 0) + 1
            name = key if counts[key] == 1 else f"{key}.{counts[key]}"
            member_id = f"{self.host}/{role}:{name}"
            change = self.changes.get(member_id)
            if change and change.removed:
                self.removed.add(member_id)
                continue
            (a, b), length = _ends(by_key[key], ring)
            z = (bottom + top) / 2
            cuts = ("square", "square") if role == "sill" else ()
            found.append(
                Member(
                    member_id, f"{self.run.id}-{letter}-{name}", role, self.host, level, section, material,
                    upright(ring, bottom, top), (*a, z), (*b, z), length, length, cuts, touched=change is not None,
                )
            )  # fmt: skip
        return found


def _ends(line: Wall, ring: Ring) -> tuple[tuple[Point, Point], float]:
    direction = unit(sub(line.end, line.start))
    middle = sum(reach(line)) / 2
    along = [dot(sub(p, line.start), direction) for p in ring]
    origin = add(line.start, left(direction), middle)
    return (add(origin, direction, min(along)), add(origin, direction, max(along))), max(along) - min(along)
