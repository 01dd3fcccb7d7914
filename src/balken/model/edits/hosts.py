"""Edits of what is hosted: floors, roofs, foundation runs, the site, and changes by hand on single
members."""

from typing import Any

from msgspec.structs import replace

from balken.geometry.plane import TOUCH, Point, distance
from balken.model.catalogue import sections_of
from balken.model.edits.common import EditError, checked, fresh, known, with_
from balken.model.floors import FloorArea
from balken.model.foundations import FoundationRun, Site
from balken.model.names import HostName, MemberName, added_key
from balken.model.project import AddedMember, Change, Project, wall


def set_floor(project: Project, key: str, **fields: Any) -> Project:
    """Change fields of a floor area; ``section=None`` and ``spacing=None`` give them back to the
    calculation."""
    known(FloorArea, fields)
    return checked(project, floors=with_(project.floors, key, **fields))


def set_run(project: Project, key: str, **fields: Any) -> Project:
    """Change fields of a foundation run."""
    known(FoundationRun, fields)
    return checked(project, runs=with_(project.runs, key, **fields))


def set_site(project: Project, **fields: Any) -> Project:
    """Change what the place asks for."""
    known(Site, fields)
    return checked(project, site=replace(project.site, **fields))


def remove_host(project: Project, host: HostName) -> Project:
    """Take a foundation run, floor area or roof away, and the changes by hand on its members with
    it."""
    field = {"run": "runs", "floor": "floors", "roof": "roofs", "beam": "beams", "bay": "bays"}.get(
        host.kind
    )
    if field is None or all(r.id != host.key for r in getattr(project, field)):
        raise EditError(f"There is no “{host}” to take away.")
    rest = tuple(r for r in getattr(project, field) if r.id != host.key)
    changes = tuple(c for c in project.changes if c.member.host != host)
    added = tuple(a for a in project.added if a.host != host)
    return checked(project, **{field: rest, "changes": changes, "added": added})


def change_member(project: Project, member: MemberName, **fields: Any) -> Project:
    """Change a member by hand: any field of :class:`Change`. A change that changes nothing is
    dropped."""
    if fields.get("section") is not None and fields["section"] not in sections_of(
        project.system, project.products
    ):
        raise EditError(f"There is no section “{fields['section']}” in this catalogue.")
    old = next((c for c in project.changes if c.member == member), Change(member))
    new = replace(old, **fields)
    others = tuple(c for c in project.changes if c.member != member)
    kept = () if new == Change(member) else (new,)
    return checked(project, changes=tuple(sorted(others + kept, key=lambda c: c.member)))


def add_member(
    project: Project, host: HostName, start: Point, end: Point, section: str | None = None
) -> tuple[Project, str]:
    """Add a piece by hand to what a host makes; return the project and the piece's key.

    Raises:
        EditError: it has no length, or there is no such host.
    """
    if host.kind != "floor" or host.key not in {f.id for f in project.floors}:
        raise EditError("A piece is added to a floor; choose one first.")
    if distance(start, end) < TOUCH:
        raise EditError("A piece needs two ends that lie apart.")
    key = fresh((a.id for a in project.added), "K")
    return checked(
        project, added=(*project.added, AddedMember(key, host, start, end, section))
    ), key


def remove_member(project: Project, member: MemberName) -> Project:
    """Take a piece away by hand; one that was added by hand is simply gone."""
    if (key := added_key(member)) and member.host.kind == "wall":
        item = wall(project, member.host.key)
        studs = tuple(s for s in item.set_studs if s.id != key)
        return checked(project, walls=with_(project.walls, item.id, set_studs=studs))
    if key := added_key(member):
        rest = tuple(c for c in project.changes if c.member != member)
        return checked(project, added=tuple(a for a in project.added if a.id != key), changes=rest)
    return change_member(project, member, removed=True)


def drop_changes(project: Project, host: HostName | None = None) -> Project:
    """Forget everything changed and added by hand on a host, or on all."""
    if host is None:
        return checked(project, changes=(), added=())
    return checked(
        project,
        changes=tuple(c for c in project.changes if c.member.host != host),
        added=tuple(a for a in project.added if a.host != host),
    )


def drop_change(project: Project, member: MemberName) -> Project:
    """Forget what was changed by hand on a member."""
    return checked(project, changes=tuple(c for c in project.changes if c.member != member))


def take_back(project: Project, members: tuple[MemberName, ...]) -> Project:
    """Forget what was changed by hand on several members."""
    return checked(project, changes=tuple(c for c in project.changes if c.member not in members))
