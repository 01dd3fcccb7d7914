"""Findings on the frames of walls: what of an opening cannot be framed, and by how much."""

from collections.abc import Iterable

from balken.fit.finding import Finding, length_text
from balken.model.names import ThingName
from balken.model.project import wall
from balken.model.walls import arc_middle, called
from balken.works.building import Checked


def wall_findings(checked: Checked) -> Iterable[Finding]:
    """Openings that no frame goes round as they are."""
    project = checked.project
    for host, lacks in checked.structure.lacks.items():
        item = wall(project, host.key)
        for lack in lacks:
            by = length_text(project, lack.short)
            yield Finding(
                "not framed",
                f"{lack.hole}, {called(item)}",
                lack.short,
                "mm",
                f"{lack.hole} in {called(item)} {lack.words}: {by} are lacking. Move it, make it"
                " smaller, or change how the wall is framed.",
                ThingName("walls", item.base),
                at=arc_middle(item),
            )
