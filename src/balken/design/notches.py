"""What holes, notches and birdsmouths leave of a bending member (statics of the net section; what
they leave of shear is the code's)."""

import math
from collections.abc import Sequence
from typing import Final

import msgspec
import numpy as np

from balken.design.effects import AtPlaces, Effects, Loaded, at_some_places
from balken.design.lines import Check, Line
from balken.design.strength import Cut, Strength
from balken.framing import kinds
from balken.framing.member import Member, apart
from balken.loads.cases import Combination
from balken.model.project import Bore


class Neck(msgspec.Struct, frozen=True, gc=False, cache_hash=True):
    """What the birdsmouth of a rafter leaves of its depth over the plate, mm, and how far the tail
    reaches past it in plan."""

    depth: float
    tail: float


def net_modulus(breadth: float, depth: float, bore: Bore) -> float:
    """Section modulus that a hole or notch leaves, mm³: a notch leaves a shallower piece, a hole
    the whole less its strip."""
    if bore.kind == "notch":
        left = max(0.0, depth - bore.size)
        return breadth * left**2 / 6
    # A hole off the middle is taken where it is: second moments about the middle of the whole.
    off = abs(bore.up - depth / 2)
    lost = breadth * (bore.size**3 / 12 + bore.size * off**2)
    return max(0.0, breadth * depth**3 / 12 - lost) / (depth / 2)


def bored_check(
    bores: Sequence[Bore], loaded: Loaded, strength: Strength, effects: Effects
) -> Check | None:
    """Check of the worst hole or notch of a member: bending on the net section and shear past it;
    None where none lies on it."""
    carrier = loaded.member.carrier
    inside = sorted((b for b in bores if 0 <= b.at <= carrier.reach), key=lambda b: (b.at, b.id))
    if not inside or not strength.fb:
        return None
    at = at_some_places(loaded, [b.at for b in inside], effects.combinations)
    if at is None:
        return None
    marks = [s.at for s in apart(carrier.supports)]
    found: list[Check] = []
    for p, bore in enumerate(inside):
        to_end = min(abs(m - bore.at) for m in marks)
        found += _of_one(bore, to_end, at, p, strength, effects.combinations)
    return max(found, key=lambda c: c.ratio, default=None)


def _of_one(
    bore: Bore,
    to_end: float,
    at: AtPlaces,
    p: int,
    s: Strength,
    combinations: Sequence[Combination],
) -> list[Check]:
    modulus = net_modulus(s.breadth, s.depth, bore)
    share = s.rules.net_shear(s, Cut(bore.kind == "notch", bore.size, to_end, s.depth))
    rules = s.rules
    duration = rules.duration_symbol, rules.duration_clause
    durations = np.array([c.duration for c in combinations])
    bent = np.maximum(at.sagging[:, p] / s.fb, at.hogging[:, p] / s.fb_hogging) / durations
    k = int(bent.argmax())
    ratio = float(bent[k]) / modulus if modulus > 0 else math.inf
    moment = float(max(at.sagging[k, p], at.hogging[k, p]))
    word = f"{bore.kind} {bore.id}"
    lines = (
        Line("M", moment, "moment", how=f"at {word}"),
        Line("S net", modulus, "modulus", rules.net_clauses[0]),
        Line("Fb", s.fb, "stress"),
        Line(duration[0], combinations[k].duration, "factor", duration[1]),
    )
    found = [Check("Notches and holes", ratio, combinations[k].name, rules.net_clauses[0], lines)]
    cut = at.shear[:, p] / durations
    k = int(cut.argmax())
    ratio = float(cut[k]) / (s.shear * share) if share > 0 else math.inf
    lines = (
        Line("V", float(at.shear[k, p]), "force", how=f"at {word}"),
        Line("V whole", s.shear, "force"),
        Line("left", share, "factor", rules.net_clauses[1], "of the whole shear"),
        Line(duration[0], combinations[k].duration, "factor", duration[1]),
    )
    return [
        *found,
        Check("Notches and holes", ratio, combinations[k].name, rules.net_clauses[1], lines),
    ]


def neck_of(member: Member, depth: float) -> Neck | None:
    """What the birdsmouth leaves of a rafter over its plate; None where it has no tail past the
    plate.

    The seat is cut level: square to the rafter it takes seat · sin θ of its depth.
    """
    if (
        member.kind not in (kinds.RAFTER, kinds.HIP, kinds.VALLEY)
        or not member.carrier.supports
        or member.slope <= 0
    ):
        return None
    rest = member.carrier.supports[0]
    tail = rest.at - rest.length / 2
    if tail < SHORTEST or rest.hung:
        return None
    cut = rest.length * math.sin(math.atan(member.slope))
    return Neck(max(0.0, depth - cut), tail)


SHORTEST: Final = 25.0
"""A tail shorter than this is no cantilever, mm."""


def neck_check(neck: Neck, strength: Strength, effects: Effects) -> Check | None:
    """Check of a tail as a cantilever over the birdsmouth: the section that the seat leaves
    (NDS-2018 3.2.3.1, 3.3)."""
    if not strength.fb or not effects.cantilever[0]:
        return None
    modulus, rules = strength.breadth * neck.depth**2 / 6, strength.rules
    found = []
    for k, combo in enumerate(effects.combinations):
        moment = float(effects.ends[k, 0, 1])
        fb = strength.fb_hogging * combo.duration
        found.append((moment / (modulus * fb) if modulus > 0 else math.inf, k, moment))
    ratio, k, moment = max(found)
    lines = (
        Line("a", neck.tail, "length", how="tail past the plate, in plan"),
        Line("M", moment, "moment", how="over the plate"),
        Line("d net", neck.depth, "run", how="d − seat · sin θ"),
        Line("Fb", strength.fb_hogging, "stress"),
        Line(
            rules.duration_symbol,
            effects.combinations[k].duration,
            "factor",
            rules.duration_clause,
        ),
    )
    return Check(
        "Tail over the birdsmouth", ratio, effects.combinations[k].name, rules.neck_clause, lines
    )
