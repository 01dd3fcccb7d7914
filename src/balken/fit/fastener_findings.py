"""Findings on fasteners: what is asked of more than the chosen one holds, and what the code has no
answer for."""

from collections.abc import Iterable

from balken.fit.finding import Finding
from balken.fit.places import place_name
from balken.loads.path import place_of
from balken.model.fasteners import IN_ROWS, USE_WORDS, Use
from balken.units import format_force, format_line_load
from balken.works.building import Checked
from balken.works.fasteners import Used, demands_of, over


def fastener_findings(checked: Checked) -> Iterable[Finding]:
    """One line for each use whose fastener is asked for more than it holds."""
    if not checked.project.fasteners:
        return
    found: dict[Use, list[Used]] = {}
    for used in over(checked, demands_of(checked)):
        found.setdefault(used.demand.use, []).append(used)
    for use, too_much in found.items():
        yield _of_use(checked, use, too_much)


def _of_use(checked: Checked, use: Use, too_much: list[Used]) -> Finding:
    worst = max(too_much, key=lambda u: u.check.ratio)
    m = next(x for x in checked.structure.members if x.id == worst.demand.what)
    where, more = place_name(checked.project, place_of(m)), len(too_much) - 1
    marks = m.mark if not more else f"{m.mark} and {more} more"
    head = f"{USE_WORDS[use].capitalize()}: {marks}, {where}"
    at = (m.host, tuple(u.demand.what for u in too_much), place_of(m))
    if worst.why:
        text = f"{head}: what was chosen cannot be reckoned: {worst.why}."
        return Finding("unchecked", f"{marks}, {where}", float(len(too_much)), "count", text, *at)
    ratio, name = worst.check.ratio, _chosen(checked, use)
    holds = format_force(worst.check.lines[-1].value, checked.project.system)
    text = (
        f"{head}, ask for {_asked(checked, worst)} ({worst.demand.combination}); {name} holds"
        f" {holds}, used to {ratio:.2f} of 1.00. Choose a stronger one, or more of them."
    )
    return Finding("over", f"{marks}, {where}", ratio, "ratio", text, *at)


def _asked(checked: Checked, used: Used) -> str:
    demand, system = used.demand, checked.project.system
    if demand.use in IN_ROWS:
        return format_line_load(demand.force, system)
    return format_force(demand.force, system)


def _chosen(checked: Checked, use: Use) -> str:
    return next(f.name for f in checked.project.fasteners if f.use == use)
