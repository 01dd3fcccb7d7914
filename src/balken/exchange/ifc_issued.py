"""Our own structure file read back: its pieces as they were issued."""

from pathlib import Path
from typing import Any, Final

from balken.exchange.files import FileError
from balken.exchange.ifc_curve import ShapeError
from balken.exchange.ifc_pieces import CHECKS, MAKING
from balken.exchange.ifc_shape import body_of
from balken.takeoff.issued import Issued

LARGEST: Final = 400_000_000
"""Larger files are not read, bytes."""


def read_issued(path: Path) -> list[Issued]:
    """The pieces of a structure file that this program wrote.

    Raises:
        FileError: it cannot be read, is no IFC file, or holds no pieces of ours.
    """
    import ifcopenshell

    try:
        if path.stat().st_size > LARGEST:
            raise FileError(f"{path} is larger than {LARGEST // 1_000_000} MB.")
        model = ifcopenshell.open(str(path))
    except (OSError, RuntimeError, ifcopenshell.Error) as error:
        raise FileError(f"{path} cannot be read as an IFC file: {error}") from error
    found = []
    for product in model.by_type("IfcBuildingElement"):
        told = _told(product)
        if MAKING in told:
            try:
                found.append(_piece(product, told))
            except (ShapeError, KeyError, TypeError, ValueError) as error:
                raise FileError(
                    f"{path}: the piece {product.Name} cannot be read back: {error}"
                ) from error
    if not found:
        raise FileError(
            f"{path} holds no pieces of a structure written here; compare with a file that"
            " “issue” wrote."
        )
    return found


def _told(product: Any) -> dict[str, dict[str, Any]]:
    from ifcopenshell.util.element import get_psets

    return dict(get_psets(product))


def _piece(product: Any, told: dict[str, dict[str, Any]]) -> Issued:
    making, checks = told[MAKING], told.get(CHECKS, {})
    quantities = next(v for k, v in told.items() if k.startswith("Qto_"))
    body = body_of(product, 1.0)
    if body is None:
        raise ShapeError("it has no body")
    points = body.points
    low, high = (
        (float(p[0]), float(p[1]), float(p[2])) for p in (points.min(axis=0), points.max(axis=0))
    )
    length = quantities.get("Length")
    return Issued(
        str(product.Description),
        str(product.Name),
        making["Role"],
        making["Host"],
        making.get("Section", ""),
        making.get("Material", ""),
        None if length is None else float(length),
        float(quantities["NetVolume"]) * 1e9,
        float(making["CutFrom"]),
        making.get("Cuts", ""),
        low,
        high,
        checks.get("Utilisation"),
    )
