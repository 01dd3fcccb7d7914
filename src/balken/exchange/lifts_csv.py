"""The panels that walls are lifted in as CSV (RFC 4180), in the order in which they are set."""

import csv
import io

from balken.exchange.cutlist_csv import plain_cell
from balken.takeoff.lifts import panels_of
from balken.works.building import Checked

HEADER = (
    "mark",
    "wall",
    "from_mm",
    "to_mm",
    "length_mm",
    "weight_N",
    "middle_along_mm",
    "middle_up_mm",
    "pieces",
)


def lifts_csv(checked: Checked) -> str:
    """The list as CSV text."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(HEADER)
    for p in panels_of(checked):
        numbers = (p.low, p.high, p.length, p.weight, p.middle[0] - p.low, p.middle[1])
        row = (p.mark, p.name, *(f"{x:.0f}" for x in numbers), len(p.pieces))
        writer.writerow([plain_cell(str(cell)) for cell in row])
    return out.getvalue()
