"""Edits of holes and notches for services."""

from typing import Any

from balken.model.edits.common import checked, fresh, known, with_
from balken.model.names import MemberName
from balken.model.project import Bore, Project


def add_bore(project: Project, member: MemberName, **fields: Any) -> tuple[Project, str]:
    """Bore a hole or cut a notch in a piece; return the project and its key."""
    known(Bore, fields)
    key = fresh((b.id for b in project.bores), "V")
    made = Bore(**{"id": key, "member": member, "kind": "hole", **fields})
    return checked(project, bores=(*project.bores, made)), key


def set_bore(project: Project, key: str, **fields: Any) -> Project:
    """Change a hole or notch."""
    known(Bore, fields)
    return checked(project, bores=with_(project.bores, key, **fields))


def drop_bore(project: Project, key: str) -> Project:
    """Close a hole or notch."""
    return checked(project, bores=tuple(b for b in project.bores if b.id != key))
