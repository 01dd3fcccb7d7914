"""Rows on the statics of beams: from their words to a beam of the program's own analysis."""

from typing import Any

from balken.analysis.beams import Diagrams, Floats, greatest_moment, greatest_sag
from balken.analysis.one_beam import Beam, LineLoad, PointLoad, Rest, at_places, work

M, KN, KNM, KNM2 = 1e3, 1e3, 1e6, 1e9


def _beam(x: dict[str, Any]) -> Beam:
    system = x["system"]
    ei = x.get("EI_kNm2", 2000.0) * KNM2
    w = x.get("load_kN_m", x.get("w_kN_m", 0.0)) * 1.0
    spans = [s * M for s in x.get("spans_m", [x.get("span_m", x.get("length_m", 0.0))])]
    if system == "three equal spans, uniform load on all" and len(spans) == 1:
        spans *= 3
    places = [sum(spans[:k]) for k in range(len(spans) + 1)]
    length = places[-1] + x.get("overhang_m", 0.0) * M
    low, high = x.get("load_from_m", 0.0) * M, x.get("load_to_m", length / M) * M
    if "on one only" in system:
        high = spans[0]
    grows = "growing from 0" in system
    lines = (LineLoad(0, low, high, 0.0 if grows else w, w),) if w else ()
    points = tuple(PointLoad(0, at, x[key] * KN) for key, at in _points(x, length))
    rests = (Rest(0.0, "fix"),) if system.startswith("cantilever") else tuple(Rest(p) for p in places)
    return Beam(length, ei, rests, lines, points)


def _points(x: dict[str, Any], length: float) -> list[tuple[str, float]]:
    if "each_load_kN" in x:
        return [("each_load_kN", length / 3), ("each_load_kN", 2 * length / 3)]
    if "load_kN" not in x:
        return []
    return [("load_kN", x["load_at_m"] * M if "load_at_m" in x else length)]


def statics(x: dict[str, Any]) -> float | None:
    beam = _beam(x)
    (worked,) = work([beam], 1)
    drawn, reactions = worked.drawn, worked.solved.reaction[0, 0] / KN
    quantity = x["quantity"]
    rests = [i for i, hold in enumerate(worked.batch.holds) if hold != "free"]
    over = next((r.at for r in beam.rests[1:2]), 0.0)
    if "deflection" in quantity:
        if quantity.startswith("tip"):
            return float(drawn.sag[0, 0, -1])
        return float(greatest_sag(drawn)[0, 0])
    if "moment over" in quantity:
        return _over(drawn, over) / KNM
    if "greatest sagging moment" in quantity and len(x.get("spans_m", [])) > 1 and "on both" in x["system"]:
        long = max(range(len(x["spans_m"])), key=lambda k: x["spans_m"][k])
        inside = [beam.rests[long].at, beam.rests[long + 1].at]
        return _within(worked, inside) / KNM
    if "moment" in quantity:
        sign = -1.0 if "hogging" in quantity and "sagging" not in quantity else 1.0
        return float(sign * greatest_moment(drawn, sign)[0, 0] / KNM)
    if "reaction" in quantity:
        if "longer span" in quantity:
            first = x["spans_m"][0] >= x["spans_m"][-1]
            return float(reactions[rests[0 if first else -1]])
        at = {"left": 0, "inner": 1, "middle": 1, "next to the overhang": -1, "far end": -1}
        place = next((k for word, k in at.items() if word in quantity), None)
        return None if place is None else float(reactions[rests[place]])
    return None


def _over(drawn: Diagrams, place: float) -> float:
    s = int(abs(drawn.x[0] - place).argmin())
    return float(drawn.moment[0][0, 0, s])


def _within(worked: Any, inside: list[float]) -> float:
    import numpy as np

    places: Floats = np.linspace(*inside, 400)[None, :]
    return float(greatest_moment(at_places(worked, places))[0, 0])
