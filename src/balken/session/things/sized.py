"""What is sized as one: the most used of its members, and other choices for all of them."""

from functools import partial

from balken.design.sizing import Choice
from balken.drawing.figure import figure
from balken.drawing.words import pretty
from balken.framing import kinds
from balken.model.edits import set_floor
from balken.model.edits.beams import set_beams
from balken.model.edits.roofs import set_roof
from balken.model.names import HostName, in_words
from balken.session.desk import Desk
from balken.session.rows import Checks, Fact, Figure, Heading, Line, Rows, Sizes
from balken.session.things.compared import compare_button
from balken.session.things.cost import cost_of_here
from balken.session.things.figures import carrying_row
from balken.units import format_length, format_run
from balken.units.quantity import format_volume
from balken.works.building import checks_of, is_over
from balken.works.second_opinion import opinion_of


def hold(desk: Desk, host: HostName, choice: Choice) -> None:
    """Hold a section and spacing for everything that is sized as one."""
    if host.kind in ("beam", "bay"):
        section = partial(set_beams, hosts=(host,), section=choice.section)
        desk.edit(f"hold {pretty(choice.section)}", section)
        return
    edit = set_floor if host.kind == "floor" else set_roof
    words = f"hold {pretty(choice.section)} at {format_run(choice.spacing, desk.system)}"
    desk.edit(words, partial(edit, key=host.key, section=choice.section, spacing=choice.spacing))


def host_called(desk: Desk, host: HostName) -> str:
    """What is sized as one, in words."""
    if host.kind in ("beam", "bay"):
        return in_words(host)
    roof = next((r for r in desk.project.roofs if HostName("roof", r.id) == host), None)
    if roof is not None:
        return f"roof {roof.name}"
    tier = next((t for t in desk.tiers if t.id == host), None)
    return tier.name.replace(" joists", "") if tier else in_words(host)


def _by_table(desk: Desk, host: HostName) -> Rows:
    """The span table beside the calculation, and why they differ."""
    found = opinion_of(desk.checked, host)
    if found is None:
        return
    system = desk.system
    yield Heading("Second opinion")
    if found.allowed is None:
        yield Line(f"No span table applies: {found.words}.", quiet=True, small=True)
        return
    yield Fact("table allows", f"{format_length(found.allowed, system)}, {found.words}")
    if found.by_calculation is not None:
        long = format_length(found.by_calculation, system)
        yield Fact("calculation", f"{long}, {found.governing.lower()}")
    yield Line(
        "The table holds bending and live deflection to the nearest inch; the calculation shear,"
        " bearing and total deflection too, under the loads that are here.",
        quiet=True,
        small=True,
    )


def summary(desk: Desk, host: HostName) -> Rows:
    """What a floor or roof is framed of, its most used member, and other choices."""
    checked, system = desk.checked, desk.system
    mine = desk.members_of(host)
    sized = checked.sizes.get(host)
    slab = next((m for m in mine if m.kind is kinds.FLOOR_SLAB), None)
    if slab is not None:
        yield Line(
            f"{slab.section} of concrete, {format_volume(checked.structure.volume(slab), system)}",
            bold=True,
        )
        checks = checks_of(checked, slab)
        if checks:
            yield Heading("Checks", slab.mark)
            yield Checks(checks)
        return
    if sized is None:
        yield Line("Not framed: the walls it stands on enclose nothing.", quiet=True)
        return
    why = next((text for h, text in checked.structure.unframed if h == host), None)
    if why is not None:
        yield Line(f"Not framed: {why}.", quiet=True)
        return
    spanning = [m for m in mine if m.carrier.area > 0]
    yield Line(
        f"{pretty(sized.size.section)} at {format_run(sized.size.spacing, system)} ·"
        f" {len(spanning)} pieces",
        bold=True,
    )
    # A ridge board carries nothing: only how deep it must be is checked, which tells little of a
    # roof.
    shown = [
        m.id
        for m in mine
        if m.id in checked.used and (m.kind is not kinds.RIDGE or is_over(checked.used[m.id][0]))
    ]
    name = max(shown, key=lambda x: checked.used[x], default=None)
    cost = cost_of_here(desk, mine)
    yield Line(f"span {format_length(sized.span, system)} · cost {cost:,.0f}", quiet=True)
    worst = next((m for m in mine if m.id == name), None)
    if worst:
        yield carrying_row(desk, worst) or Figure(figure(checked, worst))
        yield Heading("Checks of the most used", worst.mark)
        yield Checks(checks_of(checked, worst))
    yield from _by_table(desk, host)
    if sized.choices:
        yield Heading(
            "Other choices",
            "" if sized.allowed > 1e6 else f"depth allowed {format_run(sized.allowed, system)}",
        )
        yield Sizes(sized, lambda c: hold(desk, host, c))
        yield from compare_button(desk, host)
