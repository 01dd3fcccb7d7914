"""What joists hand on of their own strip of floor, part by part: the same for as long as a part
stays as it is."""

from typing import Any

import msgspec
import numpy as np

from balken.framing import kinds
from balken.framing.member import Member, Part
from balken.geometry.plane import TOUCH
from balken.loads.parcels import OpenEnd, Parcel, rows_of
from balken.loads.statics import lever_more
from balken.model.cases import Cases
from balken.model.names import MemberName, Rest
from balken.recall import remembered_piece


class Handed(msgspec.Struct, frozen=True):
    """What a part hands on where nothing else lies on it."""

    plain: bool
    """Whether it is nothing but joists that lie on two bearings: no two of them carry or hold each
    other."""
    names: frozenset[MemberName]
    """Its members, where it is plain."""
    height: float
    """The lowest underside of a plain part, mm."""
    reactions: dict[MemberName, tuple[Cases, ...]]
    """By member, at its two supports."""
    onto: tuple[tuple[Rest, tuple[Parcel, ...]], ...]
    """By the name of what they bear on, of a plain part."""
    ends: tuple[OpenEnd, ...]
    """What finds nothing to bear on, of a plain part."""


@remembered_piece
def handed_on(part: Part, area: Cases) -> Handed:
    """What a part hands on of its own loads.

    Args:
        part: members of one host.
        area: the load per plan area of their host, N/mm² per case.
    """
    spanning = [m for m in part.members if _spans_simply(m)]
    reactions = own_shares([m for m in spanning if not m.carrier.hinges], area)
    if not _lie_alike(spanning) or len(reactions) != len(part.members):
        return Handed(False, frozenset(), 0.0, reactions, (), ())
    low = min(_lowest(m) for m in spanning)
    onto, ends = _onto(spanning, reactions, area)
    carried = tuple((on, tuple(p)) for on, p in onto.items())
    return Handed(True, frozenset(reactions), low, reactions, carried, tuple(ends))


def _lowest(m: Member) -> float:
    return min(z for _, z in m.solid.outline)


def _lie_alike(spanning: list[Member]) -> bool:
    """Whether members lie at one height, and none of them hangs."""
    low = [_lowest(m) for m in spanning]
    hung = any(s.hung for m in spanning for s in m.carrier.supports)
    return bool(low) and max(low) - min(low) < TOUCH and not hung


def _spans_simply(m: Member) -> bool:
    """Whether a piece spans between two supports; a rafter may lean on what it meets."""
    return m.kind.spans and m.kind is not kinds.RAFTER and len(m.carrier.supports) == 2


def _onto(
    spanning: list[Member], reactions: dict[MemberName, tuple[Cases, ...]], area: Cases
) -> tuple[dict[Rest, list[Parcel]], list[OpenEnd]]:
    """What members bring to each thing they lie on, and what finds nothing."""
    onto: dict[Rest, list[Parcel]] = {}
    ends: list[OpenEnd] = []
    for m in spanning:
        for s, forces, more in zip(m.carrier.supports, reactions[m.id], lever_more(m, area, ())):
            if forces and s.on:
                onto.setdefault(s.on, []).append(Parcel(*s.point, forces, m.id, more))
            elif forces:
                ends.append(OpenEnd(m.id, *s.point, forces))
    return onto, ends


def own_shares(members: list[Member], area: Cases) -> dict[MemberName, tuple[Cases, ...]]:
    """What members on two supports hand on of their own loads by the lever, all of them side
    by side."""
    if not members:
        return {}
    whole = np.array([m.carrier.area for m in members])[:, None] * rows_of([area])
    line = np.array([m.carrier.length for m in members])[:, None] * rows_of(
        [m.carrier.line for m in members]
    )
    first = np.array([m.carrier.supports[0].at for m in members])
    between = np.array([m.carrier.supports[1].at for m in members]) - first
    safe = np.where(between < TOUCH, 1.0, between)

    def far(middle: Any) -> Any:
        return np.where(between < TOUCH, 0.5, (middle - first) / safe)[:, None]

    t_area = far(np.array([sum(m.carrier.carries) / 2 for m in members]))
    t_line = far(np.array([m.carrier.length / 2 for m in members]))
    ends = np.stack(
        [whole * (1 - t_area) + line * (1 - t_line), whole * t_area + line * t_line], axis=1
    )
    return {m.id: (Cases(*a), Cases(*b)) for m, (a, b) in zip(members, ends.tolist())}
