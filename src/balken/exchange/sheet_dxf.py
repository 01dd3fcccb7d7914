"""Sheets as DXF (R2010): views as blocks at their true size, one paper layout a sheet; layers named after
ISO 13567-2: agent S for structure, the element, and what is shown of it, lines, words or fills."""

import math
from typing import Any, Final

from balken.drawing.dimensions import TICK
from balken.drawing.marks import PEN_WIDTH, Disc, Drawing, Label, Mark, Patch, Stroke
from balken.drawing.paper.records import Sheet
from balken.exchange.inks import ONE_COLOUR
from balken.geometry.plane import Point

LAYERS: Final[dict[str, tuple[str, str]]] = {
    "cut": ("S-CUT---E-", "CONTINUOUS"),
    "seen": ("S-SEEN--E-", "CONTINUOUS"),
    "beyond": ("S-BEYONDE-", "CONTINUOUS"),
    "hidden": ("S-HIDDENE-", "DASHED"),
    "centre": ("S-CENTREE-", "CENTER"),
    "hair": ("S-DIMENSD-", "CONTINUOUS"),
    "mark": ("S-MARKS-E-", "CONTINUOUS"),
}
"""By pen: layer and line type."""
WORDS: Final = "S-WORDS-T-"
FILLED: Final = "S-FILLS-H-"
BETWEEN: Final = 5000.0
"""Between views in the model, mm."""
WEIGHTS: Final = (9, 13, 15, 18, 20, 25, 30, 35, 40, 50, 70)
"""Line weights that DXF knows, hundredths of a mm."""


def sheets_dxf(sheets: tuple[Sheet, ...]) -> str:
    """All sheets as the text of one DXF file, in mm."""
    import io

    import ezdxf
    from ezdxf import units

    before = ezdxf.options.write_fixed_meta_data_for_testing
    ezdxf.options.write_fixed_meta_data_for_testing = True  # the same input gives the same text
    try:
        doc = ezdxf.new("R2010", setup=["linetypes"])
        doc.units = units.MM
        _layers(doc)
        _style(doc)
        x = 0.0
        for sheet in sheets:
            x = _sheet(doc, sheet, x)
        out = io.StringIO()
        doc.write(out)
        return out.getvalue()
    finally:
        ezdxf.options.write_fixed_meta_data_for_testing = before


def _layers(doc: Any) -> None:
    for pen, (name, linetype) in LAYERS.items():
        weight = min(WEIGHTS, key=lambda w: abs(w - 100 * PEN_WIDTH[pen]))
        doc.layers.add(name, linetype=linetype, lineweight=weight)
    doc.layers.add(WORDS)
    doc.layers.add(FILLED, color=254)


def _sheet(doc: Any, sheet: Sheet, x: float) -> float:
    """A layout with its views; they lie in the model too, one after the other. Returns where the next may
    lie."""
    layout = doc.layouts.new(f"{sheet.number} {sheet.title}"[:60].replace("/", "-"))
    layout.page_setup(size=(sheet.width, sheet.height), margins=(0, 0, 0, 0), units="mm")
    for view in sheet.views:
        block = doc.blocks.new(f"{sheet.number}-{view.number}")
        _draw(block, view.drawing, view.scale)
        scale = 1.0 / view.scale
        layout.add_blockref(
            block.name, view.origin, dxfattribs={"xscale": scale, "yscale": scale, "zscale": scale}
        )
        low, _, high, _ = view.box
        doc.modelspace().add_blockref(block.name, (x, 0.0))
        x += (high - low) * view.scale + BETWEEN
    _draw(layout, sheet.block, 1.0)
    return x


def _draw(space: Any, drawing: Drawing, scale: float) -> None:
    for mark in drawing:
        _one(space, mark, scale)


def _one(space: Any, mark: Mark, scale: float) -> None:
    if isinstance(mark, Label):
        if mark.measures is not None:
            _dimension(space, mark, mark.measures, scale)
        elif mark.text:
            _words(space, mark, scale)
        return
    if isinstance(mark, Stroke) and mark.of_string:
        return  # the dimension has its own
    if isinstance(mark, Disc):
        space.add_circle(mark.centre, mark.radius * scale, dxfattribs=_on(mark.pen))
        return
    places = mark.ring if isinstance(mark, Patch) else mark.points
    if len(places) < 2:
        return
    closed = isinstance(mark, Patch)
    if isinstance(mark, Patch) and mark.fill not in ("none", "paper") and len(places) > 2:
        hatch = space.add_hatch(dxfattribs={"layer": FILLED})
        level = round(255 * ONE_COLOUR.fill(mark.fill)[0])
        hatch.rgb = (level, level, level)
        hatch.paths.add_polyline_path(places, is_closed=True)
    if mark.pen != "none":
        space.add_lwpolyline(places, close=closed, dxfattribs=_on(mark.pen))


def _dimension(
    space: Any, label: Label, measures: tuple[Point, Point, Point], scale: float
) -> None:
    """A dimension with its words where the sheet has them: it measures what it says."""
    start, end, line = measures
    lift = math.radians(label.angle + 90.0)
    up = label.size * CAPITALS * scale / 2
    middle = (label.at[0] + up * math.cos(lift), label.at[1] + up * math.sin(lift))
    space.add_linear_dim(
        base=line,
        p1=start,
        p2=end,
        location=middle,
        text=label.text,
        angle=label.angle,
        dimstyle=STYLE,
        override={"dimscale": scale, "dimtxt": label.size * CAPITALS},
        dxfattribs={"layer": LAYERS["hair"][0]},
    ).render()


STYLE: Final = "STRING"
"""Of dimensions: ticks and gaps as chains of the sheets have them."""


def _style(doc: Any) -> None:
    style = doc.dimstyles.new(STYLE)
    style.dxf.dimtsz = TICK
    style.dxf.dimexo, style.dxf.dimexe = 1.5, 1.2
    style.dxf.dimdle = 0.0
    style.dxf.dimtad = 0


def _on(pen: str) -> dict[str, Any]:
    return {"layer": LAYERS.get(pen, LAYERS["seen"])[0]}


def _words(space: Any, label: Label, scale: float) -> None:
    from ezdxf.enums import TextEntityAlignment

    align = {
        "start": TextEntityAlignment.LEFT,
        "middle": TextEntityAlignment.CENTER,
        "end": TextEntityAlignment.RIGHT,
    }[label.anchor]
    text = space.add_text(
        label.text,
        height=label.size * CAPITALS * scale,
        rotation=label.angle,
        dxfattribs={"layer": WORDS},
    )
    text.set_placement(label.at, align=align)


CAPITALS: Final = 0.7
"""Height of capitals over the size of the font: DXF counts letters by their capitals."""
