"""What of an architect's file does not come in, by its GlobalId and why."""

from typing import Any

from balken.model.project import ReadNote


def guid_of(product: Any) -> str:
    """The GlobalId of a product; empty where it has none that can be read."""
    try:
        return str(product.GlobalId or "")[:200]
    except Exception:
        return ""


def note(notes: list[ReadNote], product: Any, why: str) -> None:
    """Note what does not come in, and why."""
    try:
        what = str(product.is_a()).removeprefix("Ifc").lower()
    except Exception:  # a reference that leads to no entity
        what = "reference"
    notes.append(ReadNote(guid_of(product), what[:200], why[:500]))
