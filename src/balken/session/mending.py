"""The fit list at work: looking at a finding, seeing what its mend would do, and doing it."""

from collections.abc import Callable
from functools import partial

from balken.errors import BalkenError
from balken.fit.finding import Finding, Mend
from balken.model.project import Project
from balken.session.desk import Desk
from balken.session.face import LeftError
from balken.session.files import save_report
from balken.session.shown import Shown
from balken.takeoff.cost import whole_cost


def finding_at(desk: Desk, row: int) -> Finding:
    """What a line of the fit list tells."""
    return desk.as_it_is().findings[row]


def look(desk: Desk, row: int) -> None:
    """Show where a finding is."""
    finding = finding_at(desk, row)
    desk.row = row
    holder = desk.tier_of(finding.host)
    if holder:
        desk.tier_id = holder.id
    if desk.view == "paper":
        desk.view = "plan"
    desk.looked = finding.members
    desk.selection = finding.members[0] if len(finding.members) == 1 else None
    desk.refresh()
    if finding.at and not finding.members:
        desk.show_place(finding.at)
    desk.say(finding.text)


def next_finding(desk: Desk) -> None:
    """Look at the next finding."""
    count = len(desk.as_it_is().findings)
    if count:
        look(desk, (desk.row + 1) % count)
    else:
        desk.say("Everything fits.")


def mend(desk: Desk, row: int) -> None:
    """Show what a mend would do; when it is shown already, do it."""
    finding = finding_at(desk, row)
    if finding.mend is None:
        return
    if finding.kind == "fault":
        save_report(desk, desk.faults[row])
    elif desk.armed == row:
        if desk.edit(finding.mend.text, finding.mend.apply):
            desk.say(f"{finding.mend.text}: done. Ctrl+Z takes it back.")
    else:
        _preview_mend(desk, row, finding.mend)


def _preview_mend(desk: Desk, row: int, of: Mend) -> None:
    found = _as_it_would_be(desk, of.text, of.apply)
    if found is None:
        return
    desk.armed = row
    before, after = len(desk.building.findings), len(found.findings)
    more = whole_cost(found.checked) - whole_cost(desk.checked)
    desk.preview = f"{of.text}: leaves {after} of {before}{_costing(more, desk)}"
    desk.show(found)
    desk.say("Shown as it would be. “do it” makes it so, Esc leaves it.")


def _costing(more: float, desk: Desk) -> str:
    """What a mend costs more or less, by the estimate of the project, in words."""
    money = desk.project.estimate.currency
    if abs(more) < 0.5:
        return ""
    return f", costs {abs(more):,.0f} {money}".rstrip() + (" more" if more > 0 else " less")


def preview_edit(desk: Desk, words: str, change: Callable[[Project], Project]) -> None:
    """Show a building as an edit would leave it, without making the edit."""
    found = _as_it_would_be(desk, words, change)
    if found is not None:
        desk.show(found)
        desk.say(f"{words[:1].upper()}{words[1:]}: shown as it would be. Esc leaves it.")


def _as_it_would_be(desk: Desk, words: str, change: Callable[[Project], Project]) -> Shown | None:
    """The building as an edit would leave it; None, and why, where it cannot be made."""
    try:
        checked, left = desk.face.wait(partial(desk.building.preview, change), words)
    except LeftError:
        desk.say(f"Left: {words}.")
    except BalkenError as error:
        desk.say(str(error))
    except Exception as error:
        desk.tell_fault(error, words)
    else:
        return Shown(checked.project, checked, left)
    return None
