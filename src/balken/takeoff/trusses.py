"""Trusses that are made alike: one drawing, one line of a list, with a count."""

import math
from typing import Final, NamedTuple

from balken.design.trusses import TrussRoof
from balken.framing.trusses.placing import PlacedTruss
from balken.model.names import HostName
from balken.model.roofs import RoofArea
from balken.works.building import Checked


class TrussKind(NamedTuple):
    """Trusses of a roof that are made alike: the first of them, and the rows of all."""

    title: str
    record: RoofArea
    roof: TrussRoof
    first: int
    rows: tuple[str, ...]


def truss_kinds(checked: Checked) -> list[TrussKind]:
    """The kinds of trusses there are: each has a sheet of its own."""
    records = {HostName("roof", r.id): r for r in checked.built.roofs}
    return [
        TrussKind(
            f"Truss {roof.placed[i].row} of {records[host].name}",
            records[host],
            roof,
            i,
            tuple(rows),
        )
        for host, roof in checked.trusses.items()
        for i, rows in truss_groups(roof)
    ]


def truss_groups(roof: TrussRoof) -> list[tuple[int, list[str]]]:
    """One of each kind of truss, by its place, with the rows of all that are alike."""
    groups: list[list[PlacedTruss]] = []
    first: list[int] = []
    for i, t in enumerate(roof.placed):
        mine = next((g for g in groups if are_alike(g[0], t)), None)
        if mine is None:
            groups.append([t])
            first.append(i)
        else:
            mine.append(t)
    return [(i, [t.row for t in found]) for i, found in zip(first, groups)]


ALIKE: Final = 0.5
"""Trusses are made alike where no joint lies further off than this, mm: in a building that lies at an angle
each differs by what its numbers are rounded to."""


def are_alike(a: PlacedTruss, b: PlacedTruss) -> bool:
    """Whether two trusses are made alike."""
    if (a.truss.pieces, a.plies, a.use == "gable") != (b.truss.pieces, b.plies, b.use == "gable"):
        return False
    ends = [
        (*t.truss.joints, *t.profile.points, (t.profile.span, t.profile.hang or 0.0))
        for t in (a, b)
    ]
    return len(ends[0]) == len(ends[1]) and all(math.dist(p, q) <= ALIKE for p, q in zip(*ends))
