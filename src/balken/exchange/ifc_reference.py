"""The architect's slabs and roofs: shown with outline and heights, never built on without being
asked."""

from typing import Any, Final, Literal

import numpy as np

from balken.exchange.ifc_curve import ShapeError
from balken.exchange.ifc_shape import body_of, parts_of
from balken.geometry.plane import Point, Ring, signed_area, simplify
from balken.geometry.solid import hull
from balken.model.project import ReadNote, Reference

MOST: Final = 2000


def references(
    model: Any, scale: float, notes: list[ReadNote], wanted: Any
) -> tuple[Reference, ...]:
    """Slabs and roofs; ``wanted`` tells whether a product belongs to the building that is
    read."""
    found: list[Reference] = []
    for kind in ("IfcSlab", "IfcRoof"):
        for product in sorted(model.by_type(kind), key=lambda p: p.id()):
            if not wanted(product) or len(found) >= MOST:
                continue
            guid = str(getattr(product, "GlobalId", "") or "")[:200]
            try:
                made = _one(product, kind, scale, f"R{len(found) + 1}", guid)
            except ShapeError as error:
                notes.append(ReadNote(guid, kind.removeprefix("Ifc").lower(), str(error)[:500]))
                continue
            except Exception as error:  # damaged references surface as many kinds
                notes.append(
                    ReadNote(
                        guid,
                        kind.removeprefix("Ifc").lower(),
                        f"it is damaged ({type(error).__name__})",
                    )
                )
                continue
            if made:
                found.append(made)
    return tuple(found)


def _one(product: Any, kind: str, scale: float, key: str, guid: str) -> Reference | None:
    found = (body_of(p, scale) for p in _shaped(product))
    bodies = [b for b in found if b is not None]
    if not bodies:
        return None
    plain = np.concatenate([b.plain for b in bodies])
    ring = _outline(bodies[0].plain) if len(bodies) == 1 else None
    outline = ring or hull(list(map(tuple, plain[:, :2].tolist())))
    if len(outline) < 3 or abs(signed_area(outline)) < 1.0:
        raise ShapeError("it has no area in plan")
    low, high = float(plain[:, 2].min()), float(plain[:, 2].max())
    sort, name = _sort(product, kind), _name(product, kind)
    return Reference(key, name, sort, outline, round(low, 6), round(high, 6), guid)


def _sort(product: Any, kind: str) -> Literal["roof", "slab"]:
    is_roof = kind == "IfcRoof" or getattr(product, "PredefinedType", None) == "ROOF"
    return "roof" if is_roof else "slab"


def _name(product: Any, kind: str) -> str:
    return str(product.Name or "").strip()[:200] or kind.removeprefix("Ifc").lower()


def _shaped(product: Any) -> list[Any]:
    """What has the shape of a product: itself, or its parts. A roof is often made of slabs, which
    come in by themselves."""
    if product.Representation is not None:
        return [product]
    parts = parts_of(product)
    if not parts:
        raise ShapeError("it has no shape")
    return [p for p in parts if not p.is_a("IfcSlab")]


def _outline(plain: Any) -> Ring | None:
    """The outline of an upright extrusion: the points of its lower face, in order."""
    half = len(plain) // 2
    low, high = plain[:half], plain[half:]
    if (
        half < 3
        or len(plain) % 2
        or np.ptp(low[:, 2]) > 1e-3
        or np.abs(low[:, :2] - high[:, :2]).max() > 1e-3
    ):
        return None
    ring: list[Point] = [(round(float(x), 6), round(float(y), 6)) for x, y, _ in low.tolist()]
    return simplify(ring)
