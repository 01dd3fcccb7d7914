"""Pieces as they were issued in a structure file, held against the building as it is now."""

import math
from collections.abc import Iterator, Sequence
from typing import NamedTuple

from balken.geometry.solid import Vector
from balken.model.catalogue import sections_of
from balken.model.names import Name
from balken.takeoff.compared import MOVED, USED, columns_of_changes
from balken.takeoff.listing import Listing, Row
from balken.takeoff.weights import net_volume
from balken.works.building import Checked


class Issued(NamedTuple):
    """A piece as others have it. Lengths mm, volume mm³."""

    name: str
    mark: str
    role: str
    host: str
    section: str
    material: str
    length: float | None
    """Along the piece; None of panels, which are measured by their area."""
    volume: float
    cut_from: float
    cuts: str
    low: Vector
    """Its least corner."""
    high: Vector
    """Its greatest corner."""
    used: float | None


def issued_of(checked: Checked) -> list[Issued]:
    """The pieces of a building, as they would be issued now."""
    sections = sections_of(checked.project.system, checked.project.products)
    found = []
    for m in checked.structure.members:
        mesh = checked.structure.concrete.meshes.get(m.id)
        low, high = m.solid.bounds()
        if mesh is not None:
            low, high = (
                (float(p[0]), float(p[1]), float(p[2]))
                for p in (mesh.points.min(axis=0), mesh.points.max(axis=0))
            )
        used = checked.used.get(m.id)
        found.append(
            Issued(
                str(m.id),
                m.mark,
                m.role,
                str(m.host),
                m.section,
                m.material,
                m.length,
                net_volume(checked, m, sections),
                m.blank,
                "; ".join(m.cuts),
                low,
                high,
                None if used is None or not math.isfinite(used[0]) else used[0],
            )
        )
    return found


def since_issued(before: Sequence[Issued], checked: Checked) -> Listing:
    """What came, went and changed since pieces were issued, as a list."""
    old = {x.name: x for x in before}
    new = {x.name: x for x in issued_of(checked)}
    names = {str(m.id): m.id for m in checked.structure.members}
    rows = [_row("went", x, None, "", ()) for name, x in old.items() if name not in new]
    for name, x in new.items():
        was = old.get(name)
        if was is None:
            rows.append(_row("came", None, x, "", (names[name],)))
        elif words := ", ".join(_changes(was, x)):
            rows.append(_row("changed", was, x, words, (names[name],)))
    return Listing("issued", "Since it was issued", columns_of_changes("issued"), tuple(rows))


def _row(
    state: str, was: Issued | None, now: Issued | None, words: str, names: tuple[Name, ...]
) -> Row:
    shown = now or was
    assert shown is not None, "a piece is in one of the two"
    cells = (
        state,
        shown.mark,
        shown.role,
        was.section if was else "",
        now.section if now else "",
        was.length if was else None,
        now.length if now else None,
        words,
    )
    return Row(cells, names)


def _changes(a: Issued, b: Issued) -> Iterator[str]:
    """What is other of a piece, in words."""
    if a.section != b.section:
        yield f"{a.section or 'nothing'} → {b.section or 'nothing'}"
    if a.material != b.material:
        yield f"{a.material} → {b.material}"
    if a.length is not None and b.length is not None and abs(a.length - b.length) > MOVED:
        longer = "longer" if b.length > a.length else "shorter"
        yield f"{abs(b.length - a.length):.0f} mm {longer}"
    off = max(abs(p - q) for p, q in zip((*a.low, *a.high), (*b.low, *b.high)))
    if off > MOVED:
        yield f"corners off by {off:.0f} mm"
    if a.cuts != b.cuts:
        yield "cut otherwise"
    if abs((a.used or 0.0) - (b.used or 0.0)) > USED:
        yield f"used to {b.used or 0.0:.2f} where it was {a.used or 0.0:.2f}"
