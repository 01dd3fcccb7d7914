"""A truss drawn: on the slip with the forces in its pieces and how it sags, on a sheet with its
geometry and lists."""

import math
from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from itertools import pairwise
from typing import Final, NamedTuple

import numpy as np

from balken.design.truss_checks import TrussCheck
from balken.design.truss_joints import Joint, joints_of, names_of
from balken.design.trusses import TrussRoof, row_of
from balken.drawing.marks import Disc, Drawing, Label, Mark, Patch, Stroke, readable
from balken.drawing.words import pretty
from balken.framing import kinds
from balken.framing.member import Member
from balken.framing.trusses.lines import Shaped, shaped
from balken.framing.trusses.placing import PlacedTruss
from balken.framing.trusses.shapes import Piece
from balken.geometry.plane import Point, add, left, middle_of, sub, unit
from balken.model.names import MemberName
from balken.units import System, format_force, format_length, format_run
from balken.units.pitch import format_pitch
from balken.works.building import Checked

WIDE: Final = 100.0
TALLEST: Final = 62.0
SAG_SHOWN: Final = 3.5
"""The deflected shape sags this much at its lowest, mm of the figure."""
UNPARTED: Final = "\u00a0"
"""A space at which no line ends."""


class Fitted(NamedTuple):
    """Turns a place of a truss into one of its figure, and back along it."""

    left: float
    low: float
    scale: float

    @classmethod
    def of(cls, t: PlacedTruss) -> "Fitted":
        """Fit a truss into the figure's width and height."""
        points = t.profile.points
        low, high = points[0][0], points[-1][0]
        tall = max(z for _, z in points) + (t.profile.hang or 0.0)
        scale = min((WIDE - 8) / (high - low), TALLEST / tall)
        return cls((WIDE - (high - low) * scale) / 2, low, scale)

    def place(self, p: Sequence[float]) -> Point:
        """Where a place of the truss lies in the figure."""
        return self.left + (p[0] - self.low) * self.scale, p[1] * self.scale

    def along(self, x: float) -> float:
        """How far along the truss a place of the figure lies, mm from the outer face of its
        left wall."""
        return self.low + (x - self.left) / self.scale


Place = Callable[[Sequence[float]], Point]
"""What turns a place of the truss into one of the figure."""
WOOD: Final = 5.5e-6
"""Weight of dry framing lumber, N/mm³ (35 lb/ft³; common practice)."""


def truss_of_member(checked: Checked, m: Member) -> tuple[TrussRoof, int] | None:
    """The roof and the place of the truss a member belongs to; None where it belongs to
    none."""
    roof, piece = checked.trusses.get(m.host), row_of(m)
    if roof is None or piece is None:
        return None
    found = next((i for i, t in enumerate(roof.placed) if t.row == piece[1]), None)
    return None if found is None else (roof, found)


def governing_case(check: TrussCheck) -> int:
    """The combination that uses the truss most."""
    return int(check.ratios.max(axis=1).argmax())


def truss_figure(checked: Checked, roof: TrussRoof, i: int, chosen: str = "") -> Drawing:
    """A truss for the slip: its pieces, the force in each under the worst combination, how
    it sags, its reactions.

    ``chosen`` names the piece that is drawn as selected, such as ``web 2``.
    """
    t, check, system = roof.placed[i], roof.checks[i], checked.project.system
    fit = Fitted.of(t)
    at = fit.place
    marks: list[Mark] = []
    counts: dict[str, int] = {}
    for piece in shaped(t.truss, t.profile, t.cut):
        counts[piece.role] = counts.get(piece.role, 0) + 1
        is_chosen = chosen == f"{piece.role} {counts[piece.role]}"
        marks.append(
            Patch(tuple(at(p) for p in piece.outline), "mark" if is_chosen else "timber", "seen")
        )
    case = governing_case(check)
    marks += _sagging(check, case, at)
    marks += _forces(check, case, at, system)
    base = -fit.scale * (t.profile.hang or 0.0)
    for n, r in zip(check.truss.bearings, check.forces.reactions[case, 0]):
        x, y = at((check.truss.joints[n][0], 0.0))
        marks += [
            Patch(((x - 1.6, y - 3.2), (x + 1.6, y - 3.2), (x, y - 0.3)), "paper", "seen"),
            Label(format_force(float(r), system), (x, base - 7.6), 3.2, bold=True),
        ]
    marks.append(Label(check.cases[case].name, (WIDE / 2, base - 9.4), 3.2, quiet=True))
    high = max(z for _, z in t.profile.points) + (t.profile.hang or 0.0)
    words = f"{format_length(t.profile.span, system)} span, {format_length(high, system)} high"
    marks.append(Label(words, (WIDE / 2, base - 14.4), 3.2, quiet=True))
    return tuple(marks)


def _sagging(check: TrussCheck, case: int, at: Place) -> list[Mark]:
    """Draw the deflected chords, many times as large as they are."""
    moved = check.forces.sag[case, 0]
    most = float(np.abs(moved).max())
    if most < 1e-9:
        return []
    marks: list[Mark] = []
    for p in check.truss.pieces:
        if p.kind is not kinds.WEB:
            ends = [at(check.truss.joints[n]) for n in (p.start, p.end)]
            drop = [float(moved[n]) / most * SAG_SHOWN for n in (p.start, p.end)]
            marks.append(Stroke(tuple((x, y - d) for (x, y), d in zip(ends, drop)), "hidden"))
    return marks


def _forces(check: TrussCheck, case: int, at: Place, system: System) -> list[Mark]:
    """Write the force in every piece along it, pull positive; in the chords only the greatest of
    each side."""
    truss = check.truss
    shown: dict[str, list[tuple[float, int]]] = {}
    middle = truss.joints[truss.apex][0]
    for i, p in enumerate(truss.pieces):
        along = check.forces.axial[case, 0, i]
        here = (truss.joints[p.start][0] + truss.joints[p.end][0]) / 2
        side = p.role if p.kind is kinds.BOTTOM_CHORD else f"{p.role}{here < middle}"
        key = f"{i}" if p.kind is kinds.WEB else side
        shown.setdefault(key, []).append((float(along[int(np.abs(along).argmax())]), i))
    marks: list[Mark] = []
    for found in shown.values():
        force, i = max(found, key=lambda f: abs(f[0]))
        piece = truss.pieces[i]
        a, b = (at(truss.joints[n]) for n in (piece.start, piece.end))
        if abs(force) >= 1.0 and (piece.kind is not kinds.WEB or math.dist(a, b) >= 9.0):
            marks.append(_force(piece, force, a, b, system))
    return marks


LIFTS: Final = {kinds.TOP_CHORD: 3.0, kinds.BOTTOM_CHORD: -1.0}
"""How far beside a chord its force is written; all but the top chord are broken by their words."""


def _force(piece: Piece, force: float, a: Point, b: Point, system: System) -> Label:
    way = readable(unit(sub(b, a)))
    text = ("+" if force > 0 else "−") + format_force(abs(force), system)
    over = piece.kind is kinds.TOP_CHORD
    spot = add(middle_of(a, b), left(way), LIFTS.get(piece.kind, 0.0))
    angle = math.degrees(math.atan2(way[1], way[0]))
    return Label(text, spot, 3.0 if over else 2.6, angle=angle, boxed=not over)


def truss_drawing(checked: Checked, roof: TrussRoof, i: int, paper: float) -> Drawing:
    """A truss for a sheet, in mm of building: its pieces with their marks, joints, panel
    dimensions, heel, height, pitch, reactions and uplift."""
    t, check, system = roof.placed[i], roof.checks[i], checked.project.system
    marks: list[Mark] = [
        Patch(p.outline, "timber", "seen") for p in shaped(t.truss, t.profile, t.cut)
    ]
    names = names_of(check)
    for n, p in enumerate(check.truss.pieces):
        a, b = check.truss.joints[p.start], check.truss.joints[p.end]
        marks.append(Label(names[n], ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2), 2.5, boxed=True))
    for n, (x, z) in enumerate(check.truss.joints, 1):
        marks += [Disc((x, z), 2.4, "hair"), Label(str(n), (x, z - 0.9 * paper), 2.5, boxed=False)]
    marks += _measures(t, check, system, paper)
    for n, r in zip(check.truss.bearings, check.forces.reactions[:, 0].T):
        x = check.truss.joints[n][0]
        lift = max(0.0, float(-r.min()))
        words = format_force(float(r.max()), system) + (
            f", lifts {format_force(lift, system)}" if lift > 1.0 else ""
        )
        y = -24 * paper - (t.profile.hang or 0.0)
        marks.append(Label(words, (x, y - 6 * paper), 2.6, bold=True))
        marks.append(
            Patch(
                ((x - 2 * paper, y - 3 * paper), (x + 2 * paper, y - 3 * paper), (x, y)),
                "paper",
                "seen",
            )
        )
    return tuple(marks)


def _measures(t: PlacedTruss, check: TrussCheck, system: System, paper: float) -> list[Mark]:
    joints = check.truss.joints
    marks: list[Mark] = []
    under = -(t.profile.hang or 0.0)
    for kind, y in (
        (kinds.BOTTOM_CHORD, under - 8 * paper),
        (kinds.TOP_CHORD, max(z for _, z in t.profile.points) + 8 * paper),
    ):
        stops = sorted(
            {
                round(joints[n][0], 1)
                for p in check.truss.pieces
                if p.kind is kind
                for n in (p.start, p.end)
            }
        )
        marks += _string(stops, y, paper, system)
    marks += _string([0.0, t.profile.span], under - 17 * paper, paper, system)
    x = t.profile.points[-1][0] + 10 * paper
    heights = [0.0, t.profile.height(t.profile.span), max(z for _, z in t.profile.points)]
    marks += _upright(heights, x, paper, system)
    (a, za), (b, zb) = t.profile.points[:2]
    slope = (zb - za) / (b - a)
    spot = (a + (b - a) * 0.45, za + (zb - za) * 0.45 + 7 * paper)
    run = 12 * paper
    marks += [
        Stroke(
            (spot, (spot[0] - run, spot[1]), (spot[0] - run, spot[1] - run * slope), spot), "hair"
        ),
        Label(format_pitch(slope * 12, system), (spot[0] - run / 2, spot[1] + 1.2 * paper), 2.5),
    ]
    return marks


def _string(stops: Sequence[float], y: float, paper: float, system: System) -> list[Mark]:
    """A level dimension string."""
    marks: list[Mark] = []
    tick = 1.1 * paper
    for x in stops:
        marks.append(Stroke(((x - tick, y - tick), (x + tick, y + tick)), "seen", of_string=True))
    for a, b in pairwise(stops):
        told = b - a > 7 * paper
        marks.append(Stroke(((a, y), (b, y)), "hair", of_string=told))
        if told:
            words, at = format_length(b - a, system), ((a + b) / 2, y + 1.0 * paper)
            marks.append(Label(words, at, 2.5, measures=((a, y), (b, y), (a, y))))
    return marks


def _upright(heights: Sequence[float], x: float, paper: float, system: System) -> list[Mark]:
    marks: list[Mark] = [Stroke(((x, heights[0]), (x, heights[-1])), "hair")]
    for z in heights:
        tick = 1.1 * paper
        marks.append(Stroke(((x - tick, z - tick), (x + tick, z + tick)), "seen"))
    words = (("heel", heights[0], heights[1]), ("", heights[1], heights[2]))
    for word, low, high in words:
        if high - low > 1.0:
            text = f"{word} {format_run(high - low, system)}".strip()
            marks.append(
                Label(text, (x + 2.0 * paper, (low + high) / 2 - 0.8 * paper), 2.5, "start")
            )
    return marks


def truss_notes(
    checked: Checked, roof: TrussRoof, i: int, rows: Sequence[str], strength: float
) -> list[str]:
    """What is listed beside a truss: pieces with cuts, joints with forces and plates, weight
    and count."""
    t, check, system = roof.placed[i], roof.checks[i], checked.project.system
    pieces = shaped(t.truss, t.profile, t.cut)
    volume = sum(_area(p.outline) for p in pieces) * roof.lumber.sections[0].breadth * t.plies
    plies = "one ply" if t.plies == 1 else f"{t.plies} plies"
    notes = [
        "",
        f"{len(rows)} alike: {', '.join(rows)}",
        f"  {t.truss.kind}, {t.use}, {plies}, {format_force(volume * WOOD, system)} each",
        f"  used to {check.worst[0]:.2f}, {check.worst[1].lower()}",
        "",
        "Pieces",
        *_piece_notes(checked, roof, t, pieces),
        "",
        "Joints: pull, push; plate, an estimate",
        *(_joint_note(joint, system) for joint in joints_of(check, strength)),
    ]
    braces = [n for n, b in zip(names_of(check), check.braces) if b]
    if braces:
        notes += ["", f"Hold sideways at mid length: {', '.join(braces)}"]
    return notes


def _piece_notes(
    checked: Checked, roof: TrussRoof, t: PlacedTruss, pieces: Sequence[Shaped]
) -> Iterator[str]:
    """A line for each piece of a truss: section, length and cuts."""
    host = next(h for h, r in checked.trusses.items() if r is roof)
    by_id = {m.id: m for m in checked.structure.members if m.host == host}
    counts: Counter[str] = Counter()
    for p in pieces:
        counts[p.role] += 1
        number = counts[p.role]
        first = p.kind is kinds.BOTTOM_CHORD and number == 1
        m = by_id.get(MemberName(host, p.role, t.row, "" if first else str(number)))
        section = pretty(roof.lumber.sections[kinds.OF_TRUSS.index(p.kind)].name)
        cuts = f"  {', '.join(m.cuts)}" if m else ""
        length = format_length(p.length, checked.project.system)
        yield f"  {p.role} {number}: {section} {length}{cuts}"


def _joint_note(joint: Joint, system: System) -> str:
    forces = " ".join(f"{n} {_short(a, system)}/{_short(-b, system)}" for n, a, b in joint.pieces)
    return f"  {joint.number}: {forces}; {_plate_area(joint.plate, system)}"


def _plate_area(area: float, system: System) -> str:
    words = f"{area / 645.16:.1f} in²" if system == "us" else f"{area / 100:.0f} cm²"
    return words.replace(" ", UNPARTED)


def _short(force: float, system: System) -> str:
    return format_force(max(0.0, force), system).split(" ")[0]


def _area(ring: Sequence[Point]) -> float:
    return abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(ring, [*ring[1:], ring[0]]))) / 2
