"""The bench of files for others: a structure file of 20,000 members against plain calls of the library that
write the same entities."""

from collections.abc import Callable
from typing import Any

from msgspec.structs import replace

from balken.exchange.ifc_out import structure_ifc
from balken.works.building import Checked, work_out
from balken.workshop.bench_beams import large_storey

MEMBERS = 20_000
WHEN = "2026-01-01T00:00:00"
Timing = tuple[float, float, float]


def structure_file(rounds: int, compare: Callable[..., Timing]) -> Timing:
    """Compare plain calls with the writer, which works out besides what it writes."""
    import ifcopenshell

    checked = holding(MEMBERS)
    entities = _entities(ifcopenshell.file.from_string(structure_ifc(checked, WHEN)))

    def by_calls() -> str:
        f = ifcopenshell.file(schema="IFC4")
        made: dict[int, Any] = {}
        for number, kind, values in entities:
            made[number] = f.create_entity(kind, *(_placed(f, v, made) for v in values))
        return str(f.to_string())

    return compare(by_calls, lambda: structure_ifc(checked, WHEN), rounds)


def holding(count: int) -> Checked:
    """A large storey whose members stand in it several times over, each by a name of its own."""
    storey = work_out(large_storey())
    mine = storey.structure.members
    members = tuple(
        replace(m, id=replace(m.id, row=f"{m.id.row}x{n // len(mine)}"))
        for n, m in ((n, mine[n % len(mine)]) for n in range(count))
    )
    return replace(storey, structure=replace(storey.structure, members=members))


def _entities(model: Any) -> list[tuple[int, str, list[Any]]]:
    """All entities, each after those it names."""
    numbers = sorted(e.id() for e in model)
    return [(n, model[n].is_a(), [_told(v) for v in model[n]]) for n in numbers]


def _told(value: Any) -> Any:
    """A value without the file it is of: entities by their number, values that say their type by both."""
    if isinstance(value, tuple):
        return [_told(v) for v in value]
    if hasattr(value, "is_a"):
        return _Named(value.id()) if value.id() else (value.is_a(), value[0])
    return value


class _Named(int):
    """An entity by its number."""


def _placed(f: Any, value: Any, made: dict[int, Any]) -> Any:
    if isinstance(value, list):
        return [_placed(f, v, made) for v in value]
    if isinstance(value, tuple):
        return f.create_entity(*value)
    return made[value] if isinstance(value, _Named) else value
