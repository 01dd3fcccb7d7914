"""A DXF drawing as a background to trace: its lines by layer. What is whole comes in; the rest is
listed with its reason.

Read are lines, polylines with their arcs, arcs, circles, ellipses and splines in the plan, and
blocks with what is in them (ezdxf, with its recovery of damaged files).
"""

import io
import math
from collections import Counter
from pathlib import Path
from typing import Any, Final

import msgspec

from balken.exchange.files import FileError, read_bytes
from balken.geometry.plane import EXACT, Point, distance
from balken.model.project import Background, TracedLayer

UNITS: Final = {1: 25.4, 2: 304.8, 4: 1.0, 5: 10.0, 6: 1000.0, 10: 914.4, 14: 100.0}
"""mm per drawing unit by the number in the header variable $INSUNITS (DXF reference)."""
UNIT_WORDS: Final = {
    "inches": 25.4,
    "feet": 304.8,
    "millimetres": 1.0,
    "centimetres": 10.0,
    "metres": 1000.0,
}
FLAT: Final = 2.0
"""Curves come in as pieces that miss them by no more than this, mm."""
MOST: Final = 50_000
"""Lines of one layer beyond this are left out."""
LONGEST: Final = 2000
FARTHEST: Final = 1e8
"""Places further from the origin are damage, mm."""
DEEPEST: Final = 8


class TracedFile(msgspec.Struct, frozen=True):
    """What a DXF file gave: its layers, and in words what did not come in. ``unit`` is None where
    it does not say."""

    layers: tuple[TracedLayer, ...]
    unit: float | None
    left_out: tuple[str, ...]


def read_dxf(path: Path, unit: float | None = None) -> TracedFile:
    """Read a DXF drawing.

    Args:
        path: the file.
        unit: mm per drawing unit; as the file says where None.

    Returns:
        The lines in mm. Where the file does not say its unit and none was given, they are in its
        own numbers.

    Raises:
        FileError: it cannot be read at all.
    """
    drawing, faults = _open(path)
    said = UNITS.get(int(drawing.header.get("$INSUNITS", 0) or 0))
    scale = unit or said or 1.0
    gone: Counter[str] = Counter()
    layers: dict[str, list[tuple[Point, ...]]] = {}
    for entity in drawing.modelspace():
        _take(entity, scale, layers, gone, 0)
    there = {name: lines for name, lines in layers.items() if lines}
    found = tuple(
        TracedLayer(name[:200], tuple(lines[:MOST])) for name, lines in sorted(there.items())
    )
    words = [f"{n} × {what}" for what, n in sorted(gone.items())]
    over = {name: len(lines) - MOST for name, lines in there.items() if len(lines) > MOST}
    words += [f"{n} lines of layer {name} over {MOST}" for name, n in over.items()]
    return TracedFile(found, unit or said, (*faults, *words))


def _open(path: Path) -> tuple[Any, list[str]]:
    from ezdxf import DXFError, readfile, recover

    data = read_bytes(path)
    if not data.strip():
        raise FileError(f"{path.name} is empty.")
    if data[:4] == b"AC10":
        raise FileError(f"{path.name} is a DWG file; save it as DXF first.")
    try:
        try:
            drawing = readfile(path)  # whole files, several times as fast
            auditor = drawing.audit()
        except Exception:  # damaged somewhere: piece by piece
            drawing, auditor = recover.read(io.BytesIO(data))
    except DXFError as error:
        raise FileError(f"{path.name} is damaged or no DXF drawing: {str(error)[:200]}.") from error
    except Exception as error:  # the parser raises many kinds
        raise FileError(f"{path.name} cannot be read as DXF: {type(error).__name__}.") from error
    errors = [f"fault: {e.message[:160]}" for e in auditor.errors[:50]]
    if len(auditor.errors) > 50:
        errors.append(f"and {len(auditor.errors) - 50} more faults")
    return drawing, errors


def _take(
    entity: Any,
    scale: float,
    layers: dict[str, list[tuple[Point, ...]]],
    gone: Counter[str],
    deep: int,
) -> None:
    kind = entity.dxftype()
    try:
        if kind == "INSERT":
            if deep >= DEEPEST:
                gone["block nested too deep"] += 1
                return
            for part in entity.virtual_entities():
                _take(part, scale, layers, gone, deep + 1)
            return
        points = _points(entity, kind, scale)
    except Exception as error:
        gone[f"{kind.lower()} that is damaged ({type(error).__name__})"] += 1
        return
    if points is None:
        gone[f"{kind.lower()}, which is not traced"] += 1
        return
    kept = _cleaned(points, scale)
    if kept is None:
        gone[f"{kind.lower()} with places beyond 100 km or no numbers"] += 1
    elif len(kept) < 2:
        gone[f"{kind.lower()} of no length"] += 1
    else:
        name = str(entity.dxf.layer or "0")
        for i in range(0, len(kept) - 1, LONGEST - 1):
            layers.setdefault(name, []).append(kept[i : i + LONGEST])


def _points(entity: Any, kind: str, scale: float) -> list[Any] | None:
    """A thing's points in drawing units; None where it is no line."""
    if kind == "LINE":
        return [entity.dxf.start, entity.dxf.end]
    if kind in ("ARC", "CIRCLE", "ELLIPSE", "SPLINE"):
        return list(entity.flattening(FLAT / scale))
    if kind in ("LWPOLYLINE", "POLYLINE"):
        if kind == "POLYLINE" and not (entity.is_2d_polyline or entity.is_3d_polyline):
            return None
        pieces = [_points(part, part.dxftype(), scale) or [] for part in entity.virtual_entities()]
        return _chained(pieces)
    return None


def _chained(pieces: list[list[Any]]) -> list[Any]:
    """Pieces end to end; an arc that was drawn the other way round is turned."""
    found: list[Any] = []
    there = [piece for piece in pieces if piece]
    for piece, follows in zip(there, [*there[1:], None]):
        if found:
            turned = found[-1].distance(piece[-1]) < found[-1].distance(piece[0])
        elif follows:
            first, last = (
                min(p.distance(q) for q in (follows[0], follows[-1])) for p in (piece[0], piece[-1])
            )
            turned = first < last
        else:
            turned = False
        found += piece[::-1] if turned else piece
    return found


def _cleaned(points: list[Any], scale: float) -> tuple[Point, ...] | None:
    found: list[Point] = []
    for p in points:
        x, y = float(p[0]) * scale, float(p[1]) * scale
        if not (math.isfinite(x) and math.isfinite(y)) or max(abs(x), abs(y)) > FARTHEST:
            return None
        q = (round(x, 4) + 0.0, round(y, 4) + 0.0)
        if not found or distance(found[-1], q) > EXACT:
            found.append(q)
    return tuple(found)


def background(traced: TracedFile, name: str) -> Background:
    """A traced file as a background; its key is chosen when it is added."""
    return Background("new", name[:200], traced.layers)
