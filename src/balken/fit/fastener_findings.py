"""Findings on fasteners: what is asked of more than the chosen one holds."""

from collections.abc import Iterable

from balken.fit.finding import Finding
from balken.fit.places import place_name
from balken.loads.path import place_of
from balken.model.fasteners import USE_WORDS, Use
from balken.units import format_force
from balken.works.building import Checked
from balken.works.fasteners import Demand, demands_of, over


def fastener_findings(checked: Checked) -> Iterable[Finding]:
    """One line for each use whose fastener is asked for more than it holds."""
    if not checked.project.fasteners:
        return
    found: dict[Use, list[tuple[Demand, float]]] = {}
    for demand, ratio in over(checked, demands_of(checked)):
        found.setdefault(demand.use, []).append((demand, ratio))
    members = {m.id: m for m in checked.structure.members}
    chosen = {f.use: f for f in checked.project.fasteners}
    for use, too_much in found.items():
        demand, ratio = max(too_much, key=lambda t: t[1])
        m, system = members[demand.what], checked.project.system
        where, more = place_name(checked.project, place_of(m)), len(too_much) - 1
        marks = m.mark if not more else f"{m.mark} and {more} more"
        holds = format_force(chosen[use].holds, system)
        yield Finding(
            "over",
            f"{marks}, {where}",
            ratio,
            "ratio",
            f"{USE_WORDS[use].capitalize()}: {marks}, {where}, ask for"
            f" {format_force(demand.force, system)} ({demand.combination}); {chosen[use].name} holds"
            f" {holds}, used to {ratio:.2f} of 1.00. Choose a stronger one, or two.",
            m.host,
            tuple(d.what for d, _ in too_much),
            place_of(m),
        )
