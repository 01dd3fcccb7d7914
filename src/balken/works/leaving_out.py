"""A valid project is always worked out: what cannot be is left out, found by leaving out less and
less, and named.

Faults of this kind are the program's own. They are told in the fit list beside everything else that
was worked out, instead of taking all of it away.
"""

from collections.abc import Callable, Iterator
from typing import Any, Final, NamedTuple, TypeVar

from msgspec.structs import replace

from balken.model.names import HostKind, HostName, Rest
from balken.model.project import Project

KINDS: Final[tuple[tuple[str, HostKind], ...]] = (
    ("roofs", "roof"),
    ("floors", "floor"),
    ("bays", "bay"),
    ("beams", "beam"),
    ("added", "floor"),
    ("bores", "floor"),
    ("changes", "floor"),
    ("loads", "load"),
    ("point_supports", "support"),
    ("runs", "run"),
)
"""Lists of a project whose records may be left out, and the kind of their hosts; the likeliest
first."""
MOST_TRIED: Final = 64
"""So often it is tried to leave out less."""

Result = TypeVar("Result")


class LeftOut(NamedTuple):
    """What was left out: the name of a host or member, and why; None for all that is placed."""

    host: Rest | None
    why: str


def worked_out_in_part(
    project: Project, work: Callable[[Project], Result], error: Exception
) -> tuple[Result, tuple[LeftOut, ...]]:
    """Work out as much of a project as can be.

    Args:
        project: a valid project that could not be worked out whole.
        work: works out a project, or raises.
        error: what was raised.

    Returns:
        What came out of the rest, and what was left out.
    """
    why = f"it could not be worked out ({type(error).__name__}: {str(error)[:160]})"
    for kind, of_host in KINDS:
        records = getattr(project, kind)
        if not records:
            continue
        bare = _try(work, replace(project, **{kind: ()}))
        if bare is None:
            continue
        for record, found in _singly(project, kind, work):
            return found, (LeftOut(_name(of_host, record), why),)
        return bare, tuple(LeftOut(_name(of_host, r), why) for r in records)
    nothing: dict[str, Any] = {kind: () for kind, _ in KINDS}
    return work(replace(project, **nothing)), (LeftOut(None, why),)


def _singly(
    project: Project, kind: str, work: Callable[[Project], Result]
) -> Iterator[tuple[Any, Result]]:
    """Try to leave out one record alone."""
    records = getattr(project, kind)
    for i, record in enumerate(records[:MOST_TRIED]):
        found = _try(work, replace(project, **{kind: (*records[:i], *records[i + 1 :])}))
        if found is not None:
            yield record, found


def _try(work: Callable[[Project], Result], project: Project) -> Result | None:
    try:
        return work(project)
    except Exception:
        return None


def _name(kind: HostKind, record: Any) -> Rest:
    """What a record is the record of: a change or a hole of its member, a piece added by hand of
    its host."""
    named: Rest | None = getattr(record, "member", None) or getattr(record, "host", None)
    return named or HostName(kind, record.id)
