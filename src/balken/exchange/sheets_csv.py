"""Panels, boards and batts of walls as CSV (RFC 4180): by wall and layer, sheets bought, pieces, areas."""

import csv
import io

from balken.exchange.cutlist_csv import plain_cell
from balken.takeoff.sheets import sheets_of
from balken.works.building import Checked

HEADER = (
    "wall",
    "layer",
    "material",
    "thickness_mm",
    "sheet_width_mm",
    "sheet_length_mm",
    "laid",
    "sheets",
    "whole",
    "cut_pieces",
    "area_m2",
)
MM2_M2 = 1e6


def sheets_csv(checked: Checked) -> str:
    """The list as CSV text."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(HEADER)
    for x in sheets_of(checked):
        between = x.layer < 0
        row = (
            x.name,
            "between studs" if between else str(x.layer + 1),
            x.material,
            f"{x.thickness:.1f}",
            "" if between else f"{x.size.width:.0f}",
            "" if between else f"{x.size.length:.0f}",
            "" if between else x.laid,
            x.sheets,
            x.whole,
            len(x.pieces) - x.whole,
            f"{x.area / MM2_M2:.3f}",
        )
        writer.writerow([plain_cell(str(cell)) for cell in row])
    return out.getvalue()
