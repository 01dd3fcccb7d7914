"""Joist floors and ceilings: joists between bearings, round openings and under walls; rims,
blocking, subfloor."""

from collections.abc import Iterable
from itertools import chain
from typing import NamedTuple

from balken.framing import kinds
from balken.framing.floors import openings as floor_openings
from balken.framing.floors.bands import Band, Cutter, Doubled, frame_bands, in_bands
from balken.framing.floors.blocking import Blocks, block_rows, squash_blocks
from balken.framing.floors.bridging import BOARD, Bridging, bridging_rows
from balken.framing.floors.joist_rows import bearings_along, beneath, met_by
from balken.framing.floors.openings import Framed as Opening
from balken.framing.layout import (
    Layout,
    Row,
    Stand,
    lost_changes,
    row_changes,
    row_names,
    run_angle,
    to_local,
    to_plan,
)
from balken.framing.member import Bearings, Framed, Member, Part, Size, Support, on_supports
from balken.framing.pieces import HANGER_SEAT, Cut, level_piece
from balken.geometry.plane import (
    ANGLE,
    TOUCH,
    Point,
    Ring,
    box,
    crossings,
    distance,
    edges,
    signed_area,
)
from balken.geometry.solid import upright
from balken.model.floors import BuildUp, FloorArea
from balken.model.names import HostName, MemberName, added_row
from balken.model.project import AddedMember, Change
from balken.model.sections import Section

ALONGSIDE = 3 * ANGLE
"""A wall nearer to the joists' direction than this runs along them."""


class Frame(NamedTuple):
    """What every part of one floor's framing shares."""

    floor: FloorArea
    build_up: BuildUp
    section: Section
    sections: dict[str, Section]
    angle: float
    rings: tuple[Ring, ...]
    """The local outline, and the openings with their headers."""
    holes: tuple[Ring, ...]
    """The openings themselves, in the local plan."""
    bearing: float
    changes: dict[MemberName, Change]

    @property
    def host(self) -> HostName:
        """The floor's name among hosts."""
        return HostName("floor", self.floor.id)

    @property
    def top(self) -> float:
        """Top of the joists, mm."""
        return self.bearing + self.section.depth

    @property
    def board(self) -> Section | None:
        """What bridging is cut from."""
        return next((s for s in self.sections.values() if s.nominal == BOARD), None)

    def cut(self, section: Section) -> Cut:
        """What a piece of a section is cut from."""
        material = (
            section.product.id
            if section.product
            else f"{self.build_up.species} {self.build_up.grade}"
        )
        return Cut(section.name, material, section.breadth)

    def plies(self, count: int) -> Section:
        """So many joists side by side as one section; a single one where there is no such
        section."""
        return (
            self.sections.get(f"{count}-{self.section.name}", self.section)
            if count > 1
            else self.section
        )


def frame_floor(
    floor: FloorArea,
    build_up: BuildUp,
    bearings: Bearings,
    size: Size,
    sections: dict[str, Section],
    changes: tuple[Change, ...],
    added: tuple[AddedMember, ...] = (),
    *,
    telling: bool = False,
) -> Framed:
    """Frame one floor or ceiling.

    Args:
        floor: the floor area.
        build_up: its build-up.
        bearings: what it lies on.
        size: section and spacing of the joists.
        sections: every section there is.
        changes: changes by hand on members of this floor.
        added: pieces added by hand; those that run along with the joists take their share of the
            floor.
        telling: leave out rows that are just like the one before, all but the last: what a choice
            of size needs.

    Raises:
        LayoutError: more joists than any building has, or a spacing of nothing.
    """
    section = sections[size.section]
    angle = run_angle(bearings.outline, floor.span, floor.turn)
    local = tuple(to_local(p, angle) for p in bearings.outline)
    wanted = dict(size.plies)
    openings = floor_openings.framed(bearings.holes, local, angle, section.breadth, wanted)
    rings = (local, *(o.cleared(section.breadth) for o in openings))
    holes = tuple(tuple(to_local(p, angle) for p in h.ring) for h in bearings.holes)
    frame = Frame(
        floor,
        build_up,
        section,
        sections,
        angle,
        rings,
        holes,
        bearings.height,
        {c.member: c for c in changes},
    )
    taken = floor_openings.trimmer_stands(openings, local, section.breadth)
    taken += _double_stands(frame, bearings, wanted) + _added_stands(frame, added)
    layout = Layout(
        section.breadth,
        size.spacing,
        build_up.rule,
        floor.start,
        build_up.end_gap,
        build_up.least_clear,
        tuple(taken),
    )
    bands = _joists(
        frame, layout, _doubled(frame, bearings, openings, wanted), bearings, telling=telling
    )
    if telling:
        return Framed(tuple(band.part for band in bands))
    return _whole(
        frame,
        bearings,
        openings,
        bands,
        changes,
        row_names(rings, layout) if changes else frozenset(),
    )


def _whole(
    frame: Frame,
    bearings: Bearings,
    openings: list[Opening],
    bands: list[Band],
    changes: tuple[Change, ...],
    names: frozenset[str],
) -> Framed:
    """Joists with everything between and round them, without what was taken away by hand."""
    by_place = bool(openings or bearings.stands_on)
    joists = [piece for band in bands for piece in band.pieces()] if by_place else []
    rest = [m for o in openings for m in _headers(frame, o, joists)]
    parts = _hang_tails([band.part for band in bands], rest, frame)
    if frame.build_up.use != "ceiling":
        between, round_them = _between_and_round(frame, bearings, bands, joists)
        parts += between
        rest += round_them
    parts = _without([*parts, Part(tuple(rest))], changes)
    members = list(chain.from_iterable(part.members for part in parts))
    return Framed(tuple(parts), lost_changes(members, changes, names))


def _without(parts: list[Part], changes: tuple[Change, ...]) -> list[Part]:
    """Parts without the members that were taken away by hand."""
    removed = {c.member for c in changes if c.removed}
    if not removed:
        return parts
    return [part.after([m for m in part.members if m.id not in removed]) for part in parts]


def _between_and_round(
    frame: Frame, bearings: Bearings, bands: list[Band], joists: list[tuple[Row, Member]]
) -> tuple[list[Part], list[Member]]:
    """What a floor has besides its joists: the blocks between them in parts; rims, ledgers, squash
    blocks and subfloor."""
    body = frame.build_up
    blocks = Blocks(
        frame.host,
        frame.floor.level,
        body.blocking,
        body.splice,
        frame.cut(frame.section),
        frame.angle,
        bearings.height,
        frame.top,
    )
    between = list(block_rows(blocks, bands))
    if body.bridging == "crossed" and frame.board is not None:
        between += bridging_rows(_bridging(frame, frame.board), bands)
    rest = _rims(frame, bearings) + _ledgers(frame, bearings)
    rest += squash_blocks(blocks, bearings, joists)
    return between, rest + _subfloor(frame, bearings)


def _bridging(frame: Frame, board: Section) -> Bridging:
    return Bridging(
        frame.host,
        frame.floor.level,
        board,
        f"{frame.build_up.species} {frame.build_up.grade}",
        frame.angle,
        frame.bearing,
        frame.top,
    )


def _double_stands(
    frame: Frame, bearings: Bearings, wanted: dict[str, int]
) -> list[tuple[Stand, float]]:
    """A double row under every wall that stands on the floor and runs along, where no wall
    lies beneath."""
    found: list[tuple[Stand, float]] = []
    along = bearings_along(bearings.strips, frame.angle) if bearings.doubles else []
    for name, a, b in bearings.doubles:
        wide = frame.plies(max(2, wanted.get(f"W{name}", 2))).breadth
        (xa, ya), (xb, yb) = to_local(a, frame.angle), to_local(b, frame.angle)
        if abs(xb - xa) > ALONGSIDE * distance(a, b):
            continue
        x, low, high = (xa + xb) / 2, min(ya, yb), max(ya, yb)
        if beneath(x, low, high, along):
            continue
        ys = crossings(frame.rings[0], x)
        for lo, hi in zip(ys[::2], ys[1::2]):
            inside = lo < (low + high) / 2 < hi and wide < x - box(frame.rings[0])[0]
            if inside and all(abs(x - s[1]) > (wide + w) / 2 for s, w in found):
                found.append(((f"W{name}", x, lo, hi), wide))
    return found


def _doubled(
    frame: Frame, bearings: Bearings, openings: list[Opening], wanted: dict[str, int]
) -> dict[str, Doubled]:
    """What the rows beside openings and under walls are doubled by."""
    found = {}
    for o in openings:
        for side, plies, out in (("L", o.left, -1.0), ("R", o.right, 1.0)):
            found[f"T{o.key}{side}"] = Doubled(o.box[1], o.box[3], plies, out, frame.plies(plies))
    for name, a, b in bearings.doubles:
        ya, yb = to_local(a, frame.angle)[1], to_local(b, frame.angle)[1]
        plies = max(2, wanted.get(f"W{name}", 2))
        found[f"W{name}"] = Doubled(min(ya, yb), max(ya, yb), plies, 0.0, frame.plies(plies))
    return found


def _added_stands(frame: Frame, added: tuple[AddedMember, ...]) -> list[tuple[Stand, float]]:
    """The joists added by hand that run along with the others, as rows of their own."""
    found: list[tuple[Stand, float]] = []
    for item in added:
        (xa, ya), (xb, yb) = to_local(item.start, frame.angle), to_local(item.end, frame.angle)
        if abs(xb - xa) < ALONGSIDE * distance(item.start, item.end):
            found.append(
                (
                    (added_row(item.id), (xa + xb) / 2, min(ya, yb), max(ya, yb)),
                    frame.section.breadth,
                )
            )
    return found


def _joists(
    frame: Frame,
    layout: Layout,
    doubled: dict[str, Doubled],
    bearings: Bearings,
    *,
    telling: bool,
) -> list[Band]:
    ceiling = frame.build_up.use == "ceiling"
    shifts, removed = row_changes(frame.host, "joist", tuple(frame.changes.values()))
    bands = in_bands(frame.rings, layout, tuple(sorted(shifts.items())), removed)
    cutter = Cutter(
        frame.floor.id,
        frame.floor.level,
        frame.section,
        frame.cut(frame.section).material,
        frame.angle,
        frame.bearing,
        ceiling,
        0.0 if ceiling else frame.build_up.lap,
        (frame.rings[0], *frame.holes),
    )
    met = met_by(bands, bearings.strips, frame.angle)
    return frame_bands(cutter, bands, met, doubled, _changed_rows(frame), telling=telling)


def _changed_rows(frame: Frame) -> dict[str, tuple[tuple[MemberName, Section | None], ...]]:
    """The changes by hand on joists, by their row."""
    found: dict[str, tuple[tuple[MemberName, Section | None], ...]] = {}
    for name, change in frame.changes.items():
        if name.family == "joist":
            other = frame.sections[change.section] if change.section else None
            found[name.row] = (*found.get(name.row, ()), (name, other))
    return found


def _headers(frame: Frame, opening: Opening, joists: list[tuple[Row, Member]]) -> list[Member]:
    """The headers of an opening, each hung between what runs beside it."""
    x0, _, x1, _ = opening.box
    section = frame.plies(opening.plies)
    found = []
    for side, y in opening.header_lines(frame.section.breadth):
        name = MemberName(frame.host, "header", opening.key, side)
        change = frame.changes.get(name)
        piece = frame.sections[change.section] if change and change.section else section
        a, b = to_plan((x0, y), frame.angle), to_plan((x1, y), frame.angle)
        supports = []
        for x, at in ((x0, HANGER_SEAT / 2), (x1, x1 - x0 - HANGER_SEAT / 2)):
            beside = _beside(joists, x, y, frame)
            place = to_plan((x0 + at, y), frame.angle)
            supports.append(
                Support(at, HANGER_SEAT if beside else 0.0, beside, place, hung=bool(beside))
            )
        found.append(
            level_piece(
                name,
                f"{frame.floor.id}-H{opening.key}{side}",
                kinds.HEADER,
                frame.host,
                frame.floor.level,
                frame.cut(piece),
                a,
                b,
                frame.bearing,
                frame.bearing + piece.depth,
                tuple(supports),
                touched=change is not None,
            )
        )
    return found


def _beside(
    joists: Iterable[tuple[Row, Member]], x: float, y: float, frame: Frame
) -> MemberName | None:
    """The joist or trimmer at one end of a header: the one whose face lies there."""
    best, name = 40.0, None
    for _, m in joists:
        at, low = to_local((m.start[0], m.start[1]), frame.angle)
        away = abs(at - x) - m.solid.depth / 2
        if abs(away) < best and low - TOUCH < y < low + m.length + TOUCH:
            best, name = abs(away), m.id
    return name


Face = tuple[MemberName, float, float, float, str]
"""A side of a header: its name, from, to across the joists, where along them, and which end of a
joist hangs there."""


def _hang_tails(parts: list[Part], headers: list[Member], frame: Frame) -> list[Part]:
    """Hang the ends of joists that stop at a header on it."""
    if not headers:
        return parts
    faces = [face for h in headers for face in _faces(h, frame.angle)]
    low, high = min(f[1] for f in faces) - TOUCH, max(f[2] for f in faces) + TOUCH
    found = []
    for part in parts:
        if _stands_between(part, low, high, frame.angle):
            part = part.after([_hung_on(m, faces, frame) for m in part.members])
        found.append(part)
    return found


def _stands_between(part: Part, low: float, high: float, angle: float) -> bool:
    xs = [to_local(m.start[:2], angle)[0] for m in part.members]
    return bool(xs) and min(xs) < high and max(xs) > low


def _faces(header: Member, angle: float) -> tuple[Face, Face]:
    """The faces of a header: where joists end at it, and where they start."""
    (x0, y), (x1, _) = to_local(header.start[:2], angle), to_local(header.end[:2], angle)
    half = header.solid.depth / 2
    return (header.id, x0, x1, y - half, "end"), (header.id, x0, x1, y + half, "start")


def _hung_on(m: Member, faces: list[Face], frame: Frame) -> Member:
    x, low = to_local(m.start[:2], frame.angle)
    ends = list(m.carrier.supports)
    for on, x0, x1, y, which in faces:
        if x0 - TOUCH < x < x1 + TOUCH and m.kind is kinds.JOIST:
            if which == "start" and abs(y - low) < TOUCH:
                ends[0] = _hung(on, HANGER_SEAT / 2, x, low, frame)
            if which == "end" and abs(y - low - m.length) < TOUCH:
                ends[-1] = _hung(on, m.length - HANGER_SEAT / 2, x, low, frame)
    return on_supports(m, tuple(ends)) if tuple(ends) != m.carrier.supports else m


def _hung(on: MemberName, at: float, x: float, low: float, frame: Frame) -> Support:
    return Support(at, HANGER_SEAT, on, to_plan((x, low + at), frame.angle), hung=True)


def rim_stretches(local: Ring, breadth: float) -> list[tuple[Point, Point]]:
    """The lines of the rims: along every side square to the joists, half a breadth
    inside."""
    found = []
    for a, b in edges(local):
        if abs(b[1] - a[1]) < ANGLE * distance(a, b):
            inward = breadth / 2 if b[0] > a[0] else -breadth / 2
            y = (a[1] + b[1]) / 2 + inward
            found.append(((min(a[0], b[0]), y), (max(a[0], b[0]), y)))
    return sorted(found, key=lambda e: (e[0][1], e[0][0]))


def _rims(frame: Frame, bearings: Bearings) -> list[Member]:
    found = []
    rim = frame.section
    for i, (la, lb) in enumerate(rim_stretches(frame.rings[0], rim.breadth), 1):
        name = MemberName(frame.host, "rim", f"{i:02d}")
        change = frame.changes.get(name)
        if change and change.removed:
            continue
        a, b = to_plan(la, frame.angle), to_plan(lb, frame.angle)
        found.append(
            level_piece(
                name,
                f"{frame.floor.id}-R{i:02d}",
                kinds.RIM,
                frame.host,
                frame.floor.level,
                frame.cut(rim),
                a,
                b,
                bearings.height,
                frame.top,
                touched=change is not None,
            )
        )
    return found


def _ledgers(frame: Frame, bearings: Bearings) -> list[Member]:
    found = []
    for i, (wall, a, b) in enumerate(bearings.ledgers, 1):
        name = MemberName(frame.host, "ledger", wall)
        length = distance(a, b)
        pieces = max(1, round(length / 600))
        places = [((k + 0.5) * length / pieces, length / pieces) for k in range(pieces)]
        way = ((b[0] - a[0]) / length, (b[1] - a[1]) / length)
        supports = tuple(
            Support(at, wide, HostName("wall", wall), (a[0] + at * way[0], a[1] + at * way[1]))
            for at, wide in places
        )
        found.append(
            level_piece(
                name,
                f"{frame.floor.id}-L{i:02d}",
                kinds.LEDGER,
                frame.host,
                frame.floor.level,
                frame.cut(frame.section),
                a,
                b,
                bearings.height,
                frame.top,
                supports,
            )
        )
    return found


def _subfloor(frame: Frame, bearings: Bearings) -> list[Member]:
    if frame.build_up.subfloor <= 0:
        return []
    thick = frame.build_up.subfloor
    ring = bearings.outline if signed_area(bearings.outline) > 0 else bearings.outline[::-1]
    x0, y0, x1, y1 = box(ring)
    z = frame.top + thick / 2
    return [
        Member(
            MemberName(frame.host, "subfloor", "01"),
            f"{frame.floor.id}-D01",
            kinds.SUBFLOOR,
            frame.host,
            frame.floor.level,
            f"{thick:g} mm",
            "wood structural panel",
            upright(ring, frame.top, frame.top + thick),
            (x0, y0, z),
            (x1, y1, z),
            x1 - x0,
            x1 - x0,
            voids=tuple(upright(h.ring, frame.top, frame.top + thick) for h in bearings.holes),
        )
    ]
