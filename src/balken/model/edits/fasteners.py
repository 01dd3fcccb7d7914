"""Edits of what holds pieces to one another."""

from balken.model.edits.common import checked
from balken.model.fasteners import Fastener, Use
from balken.model.project import Project


def choose_fastener(project: Project, use: Use, name: str, holds: float | None) -> Project:
    """Choose what is used for a use and what one of them holds, N; none where ``holds`` is None."""
    rest = tuple(f for f in project.fasteners if f.use != use)
    made = () if holds is None else (Fastener(use, name, holds),)
    return checked(project, fasteners=(*rest, *made))
