"""How the panels of a subfloor lie, on the slip: whole sheets plain, cut ones shaded, joists
running upwards."""

from balken.drawing.marks import Drawing, Mark, Patch
from balken.framing.floors.panels import Laid
from balken.geometry.plane import box, signed_area

WIDTH = 92.0
WHOLE = 0.999


def panel_figure(laid: Laid) -> Drawing:
    """The panels in the frame of figures, 100 wide."""
    corners = [p for piece in laid.pieces for p in piece]
    if not corners:
        return ()
    x0, y0, x1, y1 = box(corners)
    scale = min(WIDTH / (x1 - x0), 60.0 / (y1 - y0))
    left = 4.0 + (WIDTH - (x1 - x0) * scale) / 2
    largest = max(abs(signed_area(piece)) for piece in laid.pieces)
    marks: list[Mark] = []
    for piece in laid.pieces:
        ring = tuple((left + (x - x0) * scale, (y - y0) * scale) for x, y in piece)
        whole = abs(signed_area(piece)) >= WHOLE * largest
        marks.append(Patch(ring, "panel" if whole else "shade", "seen"))
    return tuple(marks)
