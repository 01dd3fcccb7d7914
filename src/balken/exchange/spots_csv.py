"""Spot heights of the ground as CSV: ``x, y, z`` a line, with a header or none, columns in any
order where it has one."""

import csv
import math
from pathlib import Path
from typing import Final

import msgspec

from balken.exchange.files import FileError, read_bytes
from balken.model.project import Spot
from balken.units import LengthError, System, parse_length

MOST: Final = 20_000
_NAMES: Final = {
    "x": ("x", "e", "east", "easting"),
    "y": ("y", "n", "north", "northing"),
    "z": ("z", "h", "height", "elevation", "level", "rl"),
}


class SpotsFile(msgspec.Struct, frozen=True):
    """Measured heights, and in words which lines did not come in."""

    spots: tuple[Spot, ...]
    left_out: tuple[str, ...]


def read_spots(path: Path, system: System, unit: str = "") -> SpotsFile:
    """Read a file of spot heights.

    Args:
        path: the file.
        system: what a bare number means: inches or millimetres, unless ``unit`` says otherwise.
        unit: ``mm``, ``m``, ``ft`` or ``in`` for bare numbers; a header such as ``x [m]`` says it
            too.

    Raises:
        FileError: nothing in it can be read.
    """
    text = read_bytes(path).decode("utf-8-sig", "replace")
    rows = [row for row in _rows(text) if "".join(row).strip()]
    if not rows:
        raise FileError(f"{path.name} is empty.")
    order, said = _header(rows[0])
    numbered = list(enumerate(rows, 1))[1 if order else 0 :]
    spots, gone = _heights(numbered, order or {"x": 0, "y": 1, "z": 2}, system, unit or said)
    if not spots:
        why = gone[0] if gone else ""
        words = f"{path.name} holds no heights. Write a line a place: x, y, z. {why}"
        raise FileError(words.strip())
    if len(spots) > MOST:
        gone.append(f"{len(spots) - MOST} heights over {MOST}")
    return SpotsFile(tuple(spots[:MOST]), tuple(gone))


def _heights(
    rows: list[tuple[int, list[str]]], places: dict[str, int], system: System, unit: str
) -> tuple[list[Spot], list[str]]:
    """The heights in rows of a file, and what is wrong with the rows that hold none."""
    spots: list[Spot] = []
    gone: list[str] = []
    for number, row in rows:
        try:
            x, y, z = (_length(row, places[name], system, unit) for name in ("x", "y", "z"))
            spots.append(Spot((x, y), z))
        except IndexError:
            gone.append(f"line {number}: fewer than three columns")
        except LengthError as error:
            gone.append(f"line {number}: {error}")
    return spots, gone


def _rows(text: str) -> list[list[str]]:
    head = text[:4000]
    counts = {d: head.count(d) for d in (";", "\t", ",")}
    sign = next((d for d in (";", "\t") if counts[d]), "," if counts[","] else " ")
    if sign == " ":
        return [line.split() for line in text.splitlines()]
    try:
        return list(csv.reader(text.splitlines(), delimiter=sign))
    except csv.Error as error:
        raise FileError(f"The file of heights cannot be read as columns: {error}.") from error


def _header(row: list[str]) -> tuple[dict[str, int] | None, str]:
    """Which column is which, and the unit the header says; None where the first line is no
    header."""
    words = [cell.strip().lower() for cell in row]
    if any(_is_number(w) for w in words[:3]):
        return None, ""
    found: dict[str, int] = {}
    for i, word in enumerate(words):
        plain = word.split("[")[0].split("(")[0].split("_")[0].strip()
        name = next((name for name, names in _NAMES.items() if plain in names), None)
        if name is not None:
            found.setdefault(name, i)
    if len(found) < 3:
        raise FileError(f"The header “{', '.join(row)[:80]}” does not name x, y and z.")
    return found, _unit_of(words)


def _unit_of(words: list[str]) -> str:
    """The unit that the words of a header end in; empty where they say none."""
    for unit in ("mm", "ft", "in", "m"):
        if any(w.endswith((f"[{unit}]", f"({unit})", f"_{unit}")) for w in words):
            return unit
    return ""


def _is_number(word: str) -> bool:
    try:
        return math.isfinite(float(word.replace(",", ".")))
    except ValueError:
        return bool(word) and word[0].isdigit()


def _length(row: list[str], i: int, system: System, unit: str) -> float:
    cell = row[i].strip()
    bare = cell.replace(",", ".").lstrip("+-").replace(".", "", 1).isdigit()
    value = parse_length(f"{cell}{unit}" if bare and unit else cell, system, negative=True)
    if not math.isfinite(value):
        raise LengthError(f"“{cell}” is no height.")
    return value


def spots_csv(spots: tuple[Spot, ...]) -> str:
    """Heights as CSV in mm, to a tenth."""
    lines = ["x [mm],y [mm],z [mm]"]
    lines += [f"{s.at[0]:.1f},{s.at[1]:.1f},{s.height:.1f}" for s in spots]
    return "\n".join(lines) + "\n"
