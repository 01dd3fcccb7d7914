"""What the desk shows at a moment: the building as it is, or as a mend would leave it."""

from typing import NamedTuple

from balken.fit.finding import Finding
from balken.model.project import Project
from balken.session.building import Building
from balken.works.building import Checked


class Shown(NamedTuple):
    """A project with what follows from it."""

    project: Project
    checked: Checked
    findings: tuple[Finding, ...]


def as_it_is(building: Building, told: tuple[Finding, ...] = ()) -> Shown:
    """A building as it stands, with what else is told in the fit list."""
    return Shown(building.project, building.checked, (*told, *building.findings))
