"""The cutting list as CSV (RFC 4180), with lengths in mm and as a tape reads."""

import csv
import io

from balken.takeoff.cutting import cutting_list
from balken.units import format_length
from balken.works.building import Checked

HEADER = (
    "section",
    "material",
    "use",
    "host",
    "count",
    "length",
    "length_mm",
    "bought_mm",
    "cuts",
    "material_cost",
    "marks",
)
FORMULA = ("=", "+", "-", "@", "\t", "\r")
"""A cell beginning so would be run as a formula by a spreadsheet."""


def cutting_list_csv(checked: Checked) -> str:
    """The cutting list as CSV text."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(HEADER)
    system = checked.project.system
    for line in cutting_list(checked):
        row = (
            line.section,
            line.material,
            line.role,
            str(line.host),
            line.count,
            format_length(line.length, system),
            f"{line.length:.1f}",
            f"{line.bought:.1f}" if line.bought else "none is so long",
            "; ".join(line.cuts),
            f"{line.cost:.2f}",
            " ".join(line.marks),
        )
        writer.writerow([plain_cell(str(cell)) for cell in row])
    return out.getvalue()


def plain_cell(cell: str) -> str:
    """A cell that no spreadsheet runs as a formula."""
    return f"'{cell}" if cell.startswith(FORMULA) else cell
