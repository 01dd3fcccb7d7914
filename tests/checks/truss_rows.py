"""Check values of pinned trusses and rafter ties: from a row's words to a shape, its loads and one
of its pieces."""

import re
from typing import Any

from balken.design.truss_forces import pinned_forces, tie_force
from balken.framing import kinds
from balken.framing.trusses.shapes import Kind, Truss, truss_of

KINDS: tuple[tuple[str, Kind], ...] = (
    ("Fink", "Fink"),
    ("Howe", "Howe"),
    ("Pratt", "Pratt"),
    ("king post with two struts", "king post with struts"),
    ("king post", "king post"),
    ("queen post", "queen post"),
)
# Words for pieces, by kind: role, and number from the left.
WEBS = {
    "Fink": {
        "web from top-chord quarter point to bottom node": 0,
        "web from bottom node to apex": 1,
        "web from the right bottom node to the apex": 2,
        "web from the right bottom node to the right quarter point": 3,
        "web from the left bottom node to the apex": 1,
        "web from the left bottom node to the left quarter point": 0,
    },
    "Howe": {"vertical at the quarter point": 0, "diagonal": 1, "middle vertical": 2},
    "Pratt": {"vertical at the quarter point": 0, "diagonal": 1, "middle vertical": 2},
    "king post": {"post": 0},
    "king post with struts": {"strut": 0, "king post": 1},
    "queen post": {"post": 0},
}
CHORDS = {
    "lower top chord": ("top chord", 0),
    "upper top chord": ("top chord", 1),
    "right lower top chord": ("top chord", -1),
    "right upper top chord": ("top chord", -2),
    "left lower top chord": ("top chord", 0),
    "outer bottom chord": ("bottom chord", 0),
    "middle bottom chord": ("bottom chord", 1),
    "bottom chord": ("bottom chord", 0),
    "right outer bottom chord": ("bottom chord", -1),
    "tie": ("bottom chord", 0),
    "rafter": ("top chord", 0),
    "lower half of the rafter": ("top chord", 0),
    "upper half of the rafter": ("top chord", 1),
}


def _piece(truss: Truss, quantity: str) -> int | None:
    name = quantity.removeprefix("force in the ")
    if name in CHORDS:
        role, n = CHORDS[name]
        return truss.pieces.index(truss.chord(kinds.KINDS[role])[n])
    n = WEBS.get(truss.kind, {}).get(name, -1)
    return truss.pieces.index(truss.chord(kinds.WEB)[n]) if n >= 0 else None


def _loads(truss: Truss, x: dict[str, Any]) -> list[float] | None:
    down = [0.0] * len(truss.joints)
    tops = [p.end for p in truss.chord(kinds.TOP_CHORD)][:-1]
    bottoms = [p.end for p in truss.chord(kinds.BOTTOM_CHORD)][:-1]
    for key, value in x.items():
        if not key.startswith("load"):
            continue
        if key == "load":
            found = re.fullmatch(
                r"([\d.]+) kN at the (left|right) top-chord quarter point only", value
            )
            if found is None:
                return None
            down[tops[0] if found[2] == "left" else tops[-1]] += float(found[1])
        elif "inner_top_nodes" in key or key == "load_at_each_rafter_midpoint_and_apex_kN":
            for i in tops:
                down[i] += value
        elif "inner_bottom_nodes" in key or key == "load_at_post_foot_kN":
            for i in bottoms:
                down[i] += value
        elif key == "load_at_apex_kN":
            down[max(tops, key=lambda i: truss.joints[i][1])] += value
        else:
            return None
    return down


def truss_forces(x: dict[str, Any]) -> float | None:
    if x["quantity"].startswith("tension in the rafter tie per foot"):
        rise = x["rise_ft"]
        return tie_force(
            x["load_per_horizontal_area_psf"],
            x["span_ft"],
            rise,
            x["tie_height_above_plate_over_rise"] * rise,
        )
    kind = next((k for words, k in KINDS if x["truss"].startswith(words)), None)
    if kind is None:
        return None
    truss = truss_of(kind, x["span_m"] * 1000, x["rise_m"] * 1000)
    piece, down = _piece(truss, x["quantity"]), _loads(truss, x)
    if piece is None or down is None:
        return None
    return float(pinned_forces([truss], [down]).pieces[0, piece])
