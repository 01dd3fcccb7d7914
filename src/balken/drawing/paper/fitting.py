"""A view at a scale: drawn for paper, and the room it takes there with its title. mm of paper."""

from typing import Final, NamedTuple

from balken.drawing.clearing import with_words
from balken.drawing.marks import Drawing, enlarged, extent
from balken.drawing.paper.sizes import Scale, scales_from
from balken.drawing.paper.views import Drawn
from balken.works.building import Checked

LARGER: Final = 1.4
"""Words, heads and distances of strings are so much larger on paper than on the screen: capitals of 2.5 mm,
as ISO 3098 counts the height of letters (those of the font are 0.7 of its size)."""
GAP: Final = 8.0
"""Between views, mm of paper."""
UNDER: Final = 17.0
"""For the title of a view, under it."""
PAD: Final = 5.0
"""Round lines, for heads and ends of strings, mm of paper."""


class Fitted(NamedTuple):
    """A view drawn at its scale: what of the paper it takes, from its origin, mm."""

    view: Drawn
    scale: Scale
    drawing: Drawing
    box: tuple[float, float, float, float]

    @property
    def width(self) -> float:
        """mm of paper; a title may be wider than what it stands under."""
        return max(self.box[2] - self.box[0], len(self.view.title) * 2.5 + 30.0)

    @property
    def height(self) -> float:
        """With its title, mm of paper."""
        return self.box[3] - self.box[1] + UNDER


def fitted(view: Drawn, scale: Scale) -> Fitted:
    """A view drawn at a scale, with the room it takes."""
    drawn = view.draw(scale.ratio * LARGER)
    lines = view.lines() if view.lines is not None else ()
    rest = enlarged(drawn[len(lines) :], LARGER)
    boxes = [b for b in (view.lines and view.lines.box, extent(rest)) if b] or [
        (0.0, 0.0, 1.0, 1.0)
    ]
    words = with_words(rest, scale.ratio)
    pad, beside = PAD * scale.ratio, scale.ratio
    box = (
        min(*(b[0] - pad for b in boxes), words[0] - beside) / scale.ratio,
        min(*(b[1] - pad for b in boxes), words[1] - beside) / scale.ratio,
        max(*(b[2] + pad for b in boxes), words[2] + beside) / scale.ratio,
        max(*(b[3] + pad for b in boxes), words[3] + beside) / scale.ratio,
    )
    return Fitted(view, scale, lines + rest, box)


def scale_of(checked: Checked, view: Drawn, wanted: Scale) -> Scale:
    """The scale of a view: as a person said, else that of its group."""
    laid = next((v for v in checked.project.paper.views if v.key == view.key and v.scale), None)
    if laid is None:
        return wanted
    words = {s.ratio: s.words for s in scales_from(checked.project.system, 0.0)}
    return Scale(laid.scale, words.get(laid.scale, f"1 : {laid.scale:g}"))
