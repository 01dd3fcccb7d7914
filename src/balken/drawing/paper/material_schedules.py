"""Schedules of what is brought to the site besides lumber: bars, concrete, sheets, fasteners."""

from collections.abc import Iterator

from balken.drawing.paper.tables import Table
from balken.drawing.words import shortened
from balken.model.fasteners import IN_ROWS, USE_WORDS
from balken.takeoff.bars import bars_of
from balken.takeoff.concrete import poured
from balken.takeoff.sheets import deck_panels, sheets_of
from balken.units import System, format_force, format_length, format_run
from balken.units.quantity import format_area, format_volume
from balken.works.building import Checked
from balken.works.fasteners import demands_of


def material_schedules(checked: Checked) -> Iterator[Table]:
    """Those that have rows."""
    for table in (_bars(checked), _concrete(checked), _sheets(checked), _fasteners(checked)):
        if table.rows:
            yield table


def _bars(checked: Checked) -> Table:
    """Bars bent and cut alike in one row, with the marks of what they lie in."""
    system = checked.project.system
    alike: dict[tuple[str, str, str], tuple[list[str], list[tuple[int, float]]]] = {}
    for x in bars_of(checked):
        key = (x.bar.name, x.shape, format_length(x.length, system))
        marks, counts = alike.setdefault(key, ([], []))
        marks.append(x.member.mark)
        counts.append((x.number, x.weight))
    rows = [
        (
            bar,
            shape,
            f"{sum(n for n, _ in counts)}",
            length,
            format_force(sum(w for _, w in counts), system),
            shortened(list(dict.fromkeys(marks))),
        )
        for (bar, shape, length), (marks, counts) in alike.items()
    ]
    return Table("Bars", ("bar", "shape", "count", "length", "weight", "in"), tuple(rows))


def _concrete(checked: Checked) -> Table:
    system = checked.project.system
    sums: dict[str, tuple[float, float]] = {}
    for p in poured(checked):
        volume, forms = sums.get(p.role, (0.0, 0.0))
        sums[p.role] = (volume + p.volume, forms + p.formed)
    rows = [
        (role, format_volume(volume, system), format_area(forms, system) if forms else "")
        for role, (volume, forms) in sums.items()
    ]
    return Table("Concrete", ("of", "volume", "formwork"), tuple(rows))


def _sheets(checked: Checked) -> Table:
    """Sheets of one stuff and size together."""
    system = checked.project.system
    counts: dict[tuple[str, str, str], int] = {}
    for x in sheets_of(checked):
        if x.layer >= 0:
            size = _size(x.size.width, x.size.length, system)
            key = (x.material, format_run(x.thickness, system), size)
            counts[key] = counts.get(key, 0) + x.sheets
    for d in deck_panels(checked):
        size = _size(d.size.width, d.size.length, system)
        key = ("subfloor", format_run(d.member.solid.depth, system), size)
        counts[key] = counts.get(key, 0) + d.sheets
    rows = [(*key, f"{count}") for key, count in counts.items()]
    return Table("Sheets", ("of", "thick", "size", "sheets"), tuple(rows))


def _size(width: float, length: float, system: System) -> str:
    return f"{format_length(width, system)} × {format_length(length, system)}"


def _fasteners(checked: Checked) -> Table:
    """What each use asks of its fasteners at most, and what is chosen."""
    system = checked.project.system
    chosen = {f.use: f.name for f in checked.project.fasteners}
    most: dict[str, tuple[int, float]] = {}
    for d in demands_of(checked):
        count, force = most.get(d.use, (0, 0.0))
        most[d.use] = (count + 1, max(force, d.force))
    rows = []
    for use, words in USE_WORDS.items():
        if use not in most:
            continue
        count, force = most[use]
        per = f" a {'metre' if system == 'metric' else 'foot'}" if use in IN_ROWS else ""
        amount = force * (1000.0 if system == "metric" else 304.8) if use in IN_ROWS else force
        told = f"{format_force(amount, system)}{per}"
        rows.append((words, f"{count}", told, chosen.get(use, "not chosen")))
    return Table("Fasteners", ("use", "count", "must hold at most", "chosen"), tuple(rows))
