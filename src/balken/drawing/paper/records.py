"""A sheet with the views that lie on it."""

import msgspec

from balken.drawing.marks import Drawing


class Placed(msgspec.Struct, frozen=True):
    """A view on a sheet: its drawing in mm of building, its scale, and where its origin lies on the paper."""

    key: str
    """Its lasting name, as ``plan:F1``."""
    number: str
    """On its sheet."""
    title: str
    scale: float
    scale_text: str
    origin: tuple[float, float]
    drawing: Drawing
    box: tuple[float, float, float, float] = (0.0, 0.0, 0.0, 0.0)
    """What of the paper it takes, its title with it, mm."""


class Sheet(msgspec.Struct, frozen=True):
    """A page: size in mm, its views, and marks in mm of paper."""

    number: str
    title: str
    paper: str
    width: float
    height: float
    views: tuple[Placed, ...]
    block: Drawing
    colour: bool = False
    """Fills in the colours of materials; in greys where not."""

    @property
    def scale_text(self) -> str:
        """The scales of its views in words."""
        return ", ".join(dict.fromkeys(v.scale_text for v in self.views if v.scale_text))
