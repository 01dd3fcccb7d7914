"""Fields that slips of several kinds share: a choice of levels, and a value that several things have
in common."""

from collections.abc import Callable, Iterable
from typing import TypeVar

from balken.errors import BalkenError
from balken.model.project import Project, column
from balken.session.rows import Options
from balken.units import System, parse_length

_T = TypeVar("_T")


def various(values: Iterable[_T]) -> _T | None:
    """The value all share; None where they differ."""
    found = list(values)
    return found[0] if found and all(v == found[0] for v in found) else None


def level_options(
    project: Project, name: str, now: str | None, change: Callable[[str], object]
) -> Options:
    """Offer the levels."""
    values = [(x.name, x.id) for x in reversed(column(project))]
    return Options(
        name,
        values if now else [("various", ""), *values],
        now or "",
        lambda v: change(v) if v else None,
    )


def positive(text: str, system: System) -> float:
    """Read a size that must be there.

    Raises:
        BalkenError: it is no length, or nothing.
    """
    size = parse_length(text, system)
    if size <= 0:
        raise BalkenError("A part of no size is not there; type more than zero.")
    return size


def two_sizes(text: str, system: System) -> tuple[float, float]:
    """Read a width and a thickness with an x between.

    Raises:
        BalkenError: they are not two sizes.
    """
    first, _, second = text.lower().replace("×", "x").partition("x")
    if not second.strip():
        example = '20" x 10"' if system == "us" else "500 x 250"
        raise BalkenError(f"Write both sizes, such as {example}.")
    return positive(first, system), positive(second, system)


def length_or_none(text: str, system: str) -> float | None:
    """A length, or None where the field is emptied or says what it follows from."""
    bare = text.split(",")[0].strip()
    return parse_length(bare, system) if bare and "by the" not in text else None  # type: ignore[arg-type]
