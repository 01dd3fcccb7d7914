"""The structure for analysis elsewhere as four CSV files (RFC 4180): nodes, bars, supports, and loads case by
case. Lengths mm, forces N, stiffness N/mm².

Loads act straight down. A bar is a line through its nodes; nodes of different bars are not joined: what one
bar hands to another stands among the loads of that other.
"""

import csv
import io
from collections.abc import Iterable, Sequence

from balken.exchange.cutlist_csv import plain_cell
from balken.works.analysis_model import AnalysisModel, Bar, bars_by_name

NODES = ("node", "bar", "x_mm", "y_mm", "z_mm")
BARS = (
    "bar",
    "mark",
    "is",
    "nodes",
    "hinges",
    "section",
    "material",
    "E_N_mm2",
    "A_mm2",
    "I_mm4",
    "shared",
)
SUPPORTS = ("node", "bar", "on", "held_up", "held_along")
LOADS = ("bar", "case", "from_mm", "to_mm", "N_per_mm", "N")


def analysis_csv(model: AnalysisModel) -> dict[str, str]:
    """The four files by what they hold: ``nodes``, ``bars``, ``supports``, ``loads``."""
    loads = [
        (str(x.bar), x.case, _exact(x.low), _exact(x.high), *_amount(x.low < x.high, x.amount))
        for _, _, mine in bars_by_name(model)
        for x in mine
    ]
    return {
        "nodes": _table(
            NODES,
            ((n.number, str(n.bar), *(repr(round(c, 9)) for c in n.place)) for n in model.nodes),
        ),
        "bars": _table(BARS, map(_bar, model.bars)),
        "supports": _table(
            SUPPORTS, ((h.node, str(h.bar), h.on, int(h.up), int(h.along)) for h in model.held)
        ),
        "loads": _table(LOADS, loads),
    }


def _bar(bar: Bar) -> tuple[object, ...]:
    m = bar.member
    sizes = ("" if x is None else f"{x:.9g}" for x in (bar.elastic, bar.area, bar.inertia))
    nodes, hinges = (" ".join(map(str, numbers)) for numbers in (bar.nodes, bar.hinges))
    return (str(m.id), m.mark, m.role, nodes, hinges, m.section, m.material, *sizes, bar.sharing)


def _exact(value: float) -> str:
    return f"{value:.9g}"


def _amount(spread: bool, amount: float) -> tuple[str, str]:
    return (f"{amount:.12g}", "") if spread else ("", f"{amount:.12g}")


def _table(header: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(header)
    writer.writerows([_plain(str(cell)) for cell in row] for row in rows)
    return out.getvalue()


def _plain(cell: str) -> str:
    """A cell no spreadsheet runs as a formula; a number below nothing stays one."""
    try:
        float(cell)
    except ValueError:
        return plain_cell(cell)
    return cell
