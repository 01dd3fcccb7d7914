"""Concrete and formwork as CSV (RFC 4180): one line a member, volumes in m³ and areas in m², and as
the trade orders them."""

import csv
import io

from balken.exchange.cutlist_csv import plain_cell
from balken.takeoff.concrete import poured
from balken.units import format_volume
from balken.works.building import Checked

FACES = ("outer", "inner", "side", "end", "underside")
HEADER = ("mark", "use", "host", "volume", "volume_m3", *(f"form_{f}_m2" for f in FACES), "form_m2")


def concrete_csv(checked: Checked) -> str:
    """The concrete of a building as CSV text."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(HEADER)
    for p in poured(checked):
        forms = dict(p.forms)
        row = (
            p.mark,
            p.role,
            str(p.host),
            format_volume(p.volume, checked.project.system),
            f"{p.volume / 1e9:.4f}",
            *(f"{forms.get(face, 0.0) / 1e6:.3f}" for face in FACES),
            f"{p.formed / 1e6:.3f}",
        )
        writer.writerow([plain_cell(str(cell)) for cell in row])
    return out.getvalue()
