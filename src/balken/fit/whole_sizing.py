"""The whole building sized at once, from the roof to the footings, until nothing is over any more or
nothing helps: what is chosen by calculation is chosen anew at every step, what was typed is made larger
where it is over, and what a person holds by hand is checked and left."""

from typing import Final, NamedTuple

from balken.errors import BalkenError
from balken.fit.finding import Finding
from balken.fit.findings import findings
from balken.model.names import Name
from balken.model.project import Project
from balken.progress import Tell, unheard
from balken.works.building import work_out
from balken.works.told_sizes import SizeChange, Sizes, changed_sizes

MOST_ROUNDS: Final = 12


class Whole(NamedTuple):
    """A building with its sizes settled."""

    project: Project
    changes: tuple[SizeChange, ...]
    left: tuple[Finding, ...]
    """What is still over, with nothing at hand that helps."""
    rounds: int


def size_whole(project: Project, was: Sizes, tell: Tell = unheard) -> Whole:
    """Size a whole building.

    Args:
        project: what is sized.
        was: the sizes that its report compares with.
        tell: told what is done.
    """
    rounds = 0
    while True:
        checked = work_out(project)
        over = [f for f in findings(checked) if f.kind == "over"]
        grown = _grown(project, over) if rounds < MOST_ROUNDS else project
        if grown is project:
            return Whole(project, changed_sizes(was, checked), tuple(over), rounds)
        rounds += 1
        tell(f"Round {rounds}: {len(over)} over …")
        project = grown


def _grown(project: Project, over: list[Finding]) -> Project:
    """A project whose sizes that are over are larger, one step for each thing; the same where no step
    is at hand."""
    done: set[Name | None] = set()
    for finding in over:
        mend = finding.mend
        if mend is None or not mend.sizes or finding.host in done:
            continue
        try:
            project = mend.apply(project)
        except BalkenError:
            continue  # it stays over, and is told
        done.add(finding.host)
    return project
