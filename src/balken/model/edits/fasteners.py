"""Edits of what holds pieces to one another."""

from typing import Any

from msgspec.structs import replace

from balken.model.edits.common import checked, known
from balken.model.fasteners import Dowels, Fastener, Use
from balken.model.project import Project


def choose_fastener(project: Project, use: Use, name: str, holds: float | None) -> Project:
    """Choose what is used for a use and what one of them holds, N; none where ``holds`` is None."""
    return _with(project, use, None if holds is None else Fastener(use, name, holds))


def choose_dowels(project: Project, use: Use, name: str, dowels: Dowels) -> Project:
    """Choose nails, screws or bolts for a use, which are reckoned by the code."""
    now = next((f for f in project.fasteners if f.use == use), Fastener(use, name))
    return _with(project, use, replace(now, name=name, holds=None, dowels=dowels))


def set_fastener(project: Project, use: Use, **fields: Any) -> Project:
    """Change what was chosen for a use."""
    known(Fastener, fields)
    now = next(f for f in project.fasteners if f.use == use)
    return _with(project, use, replace(now, **fields))


def _with(project: Project, use: Use, made: Fastener | None) -> Project:
    rest = tuple(f for f in project.fasteners if f.use != use)
    return checked(project, fasteners=rest if made is None else (*rest, made))
