"""The project file: one readable JSON text in a stable order, with a format version.

Older formats step up one version at a time through :data:`MIGRATIONS`; newer ones are refused,
unread.
"""

import json
import math
import re
from collections.abc import Callable
from pathlib import Path
from typing import Any, Final

import msgspec

from balken.errors import BalkenError
from balken.exchange.files import FileError, read_bytes, write_atomic
from balken.geometry.plane import box, rotate
from balken.model.names import NameTextError, host_name, member_name
from balken.model.project import FORMAT, Project
from balken.model.validity import ProjectError, validate
from balken.units import PSF

SUFFIX: Final = ".balken"
DEEPEST: Final = 40
"""Nesting beyond this is no project."""
Raw = dict[str, Any]
LARGEST: Final = 100_000_000
"""A project file is no larger, bytes: the largest buildings take a tenth of it."""
LONGEST_NAME: Final = 400
"""Characters of a member's name."""
MOST_VALUES: Final = 4_000_000
"""And holds no more values: what a parser makes of each is many times as large as its text."""
_TOKENS: Final = re.compile(rb'\\.|["\[\]{},]', re.DOTALL)
"""What settles how deep and how many: brackets, commas and quotes, with what a backslash protects
passed over. Each is looked at once, so that hostile text takes no longer than any other of its
length."""


class ReadError(FileError):
    """A project file that cannot be read; one sentence with the place of the fault."""


def _from_0(raw: Raw) -> Raw:
    """Format 0, before the first release, had no notes."""
    return {**raw, "format": 1, "notes": raw.get("notes", [])}


def _from_1(raw: Raw) -> Raw:
    """Format 1 knew no build-ups of walls, point supports, spot heights or backgrounds; all of them
    may be missing."""
    return {**raw, "format": 2}


def _from_2(raw: Raw) -> Raw:
    """Format 2 knew one kind of foundation under whole walls; what it says of it still holds, the
    rest may be missing."""
    return {**raw, "format": 3}


def _from_3(raw: Raw) -> Raw:
    """Format 3 knew joists over whole outlines only, no beams and no products; what is new may be
    missing."""
    return {**raw, "format": 4}


def _from_4(raw: Raw) -> Raw:
    """Format 4 knew gable roofs over rectangles only, by the way of their ridge."""
    walls = {w["id"]: w for w in raw.get("walls", []) if isinstance(w, dict) and "id" in w}
    roofs = [r for r in raw.get("roofs", []) if isinstance(r, dict)]
    renamed = dict(pair for r in roofs for pair in _rafters_of_4(r, walls, raw))
    changes = [_renamed_member(c, renamed) for c in raw.get("changes", [])]
    made = [_gable_of_4(r, walls) for r in roofs]
    return {**raw, "format": 5, "roofs": made, "changes": changes}


def _renamed_member(change: Any, renamed: dict[str, str]) -> Any:
    if not isinstance(change, dict):
        return change
    member = change.get("member")
    return {**change, "member": renamed.get(str(member), member)}


def _ends_of_4(roof: Raw, walls: dict[str, Raw]) -> tuple[list[str], list[str]]:
    """The walls under the gables of a roof of format 4, and those under its eaves."""
    mine = [walls[k] for k in roof.get("walls", []) if k in walls]
    mine = [w for w in mine if w.get("start") != w.get("end")]
    if not mine:
        return [], []
    ends = _square_to_longest([(w["start"], w["end"]) for w in mine])
    x0, y0, x1, y1 = box([p for pair in ends for p in pair])
    ridge = roof.get("ridge", "long")
    along_x = ridge == "x" or (ridge == "long" and x1 - x0 >= y1 - y0 - 1.0)
    gables: list[str] = []
    eaves: list[str] = []
    for wall, (a, b) in zip(mine, ends):
        is_along_x = abs(b[0] - a[0]) > abs(b[1] - a[1])
        (eaves if is_along_x == along_x else gables).append(wall["id"])
    return gables, eaves


def _square_to_longest(
    lines: list[tuple[list[float], list[float]]],
) -> list[tuple[tuple[float, float], tuple[float, float]]]:
    """Lines turned, by no more than an eighth either way, so that the longest is square."""
    (ax, ay), (bx, by) = max(lines, key=lambda s: math.dist(*s))
    turn = math.atan2(by - ay, bx - ax) % (math.pi / 2)
    turn -= math.pi / 2 if turn > math.pi / 4 else 0.0

    def local(p: list[float]) -> tuple[float, float]:
        return rotate((p[0], p[1]), -turn)

    return [(local(a), local(b)) for a, b in lines]


def _gable_of_4(roof: Raw, walls: dict[str, Raw]) -> Raw:
    gables, _ = _ends_of_4(roof, walls)
    rest = {k: v for k, v in roof.items() if k != "ridge"}
    return {**rest, "sides": [{"side": key, "kind": "gable"} for key in gables], "rake": 0.0}


def _rafters_of_4(roof: Raw, walls: dict[str, Raw], raw: Raw) -> list[tuple[str, str]]:
    """The old and new names of rafters changed by hand: the side was a letter, ``a`` the
    lower in the plan."""
    _, eaves = _ends_of_4(roof, walls)
    if len(eaves) < 2:
        return []

    def low(key: str) -> tuple[float, float]:
        a, b = walls[key]["start"], walls[key]["end"]
        return round(a[1] + b[1], 3), -round(a[0] + b[0], 3)

    first, last = min(eaves, key=low), max(eaves, key=low)
    prefix = f"roof:{roof.get('id')}/rafter:"
    found = []
    for change in raw.get("changes", []):
        name = change.get("member", "") if isinstance(change, dict) else ""
        if isinstance(name, str) and name.startswith(prefix) and name[-1] in "ab":
            row = name[len(prefix) : -1]
            found.append((name, f"{prefix}{first if name[-1] == 'a' else last}.{row}"))
    return found


USUAL_WALL_OF_5: Final = 12 * PSF
"""What format 5 wrote for every wall, whatever it was built of, where nobody typed another
weight."""


def _from_5(raw: Raw) -> Raw:
    """Format 5 had one weight for all walls and always wrote it; the usual one now gives way to
    that of their layers."""
    site = raw.get("site")
    if isinstance(site, dict) and _nearly(site.get("wall_dead"), USUAL_WALL_OF_5):
        site = {**site, "wall_dead": None}
    return {**raw, "format": 6, **({"site": site} if site is not None else {})}


def _nearly(value: object, usual: float) -> bool:
    return isinstance(value, (int, float)) and abs(value - usual) <= 1e-9 * usual


CASES_OF_6: Final = ("dead", "live", "roof_live", "snow")
"""What format 6 wrote by position."""


def _from_6(raw: Raw) -> Raw:
    """Format 6 wrote typed loads as four numbers; now each says what it is."""
    found = {**raw, "format": 7}
    for field in ("runs", "beams", "point_supports"):
        if isinstance(items := raw.get(field), list):
            found[field] = [_loads_named(item) for item in items]
    return found


def _loads_named(item: Any) -> Any:
    loads = item.get("loads") if isinstance(item, dict) else None
    if not isinstance(loads, list) or len(loads) != len(CASES_OF_6):
        return item
    return {**item, "loads": dict(zip(CASES_OF_6, loads))}


def _from_7(raw: Raw) -> Raw:
    """Format 7 had no code: the measure of length decided it."""
    return {**raw, "format": 8, "code": "us" if raw.get("system") == "us" else "eu"}


MIGRATIONS: Final[dict[int, Callable[[Raw], Raw]]] = {
    0: _from_0,
    1: _from_1,
    2: _from_2,
    3: _from_3,
    4: _from_4,
    5: _from_5,
    6: _from_6,
    7: _from_7,
}


NAMED: Final[tuple[tuple[str, tuple[str, ...], Callable[[str], Any]], ...]] = (
    ("changes", ("member",), member_name),
    ("added", ("host",), host_name),
    ("bores", ("member",), member_name),
    ("roofs", ("rafters", "line_up"), host_name),
)
"""Where records of a project hold a name, and what reads it: written as text, and read from it,
here alone."""


def plain(project: Project, field: str) -> Any:
    """One field of a project as plain data, with names as text."""
    return _with_text(field, msgspec.to_builtins(getattr(project, field)), getattr(project, field))


def _with_text(field: str, data: Any, records: Any) -> Any:
    for of, way, _ in NAMED:
        if of == field:
            return [_put(raw, way, _written(record, way)) for raw, record in zip(data, records)]
    return data


def _written(record: Any, way: tuple[str, ...]) -> str | None:
    for step in way:
        record = getattr(record, step)
    return None if record is None else str(record)


def _put(raw: Any, way: tuple[str, ...], value: Any) -> Any:
    """Plain data with another value at the end of a way into it; as it is where the way leads
    nowhere."""
    first, *rest = way
    if not isinstance(raw, dict) or first not in raw:
        return raw
    return {**raw, first: _put(raw[first], tuple(rest), value) if rest else value}


def to_text(project: Project) -> bytes:
    """The project as it is saved: the same project always gives the same bytes."""
    raw = {field: plain(project, field) for field in Project.__struct_fields__}
    return msgspec.json.format(msgspec.json.encode(raw), indent=1) + b"\n"


def _with_names(raw: Raw) -> Raw:
    """A project's plain data with the names in it read from their text.

    Raises:
        msgspec.ValidationError: a text is no name; says where.
    """
    found = dict(raw)
    for field, way, read in NAMED:
        if isinstance(items := raw.get(field), list):
            found[field] = [
                _named(item, way, read, f"$.{field}[{n}].{'.'.join(way)}")
                for n, item in enumerate(items)
            ]
    return found


def _named(item: Any, way: tuple[str, ...], read: Callable[[str], Any], place: str) -> Any:
    text = item
    for step in way:
        text = text.get(step) if isinstance(text, dict) else None
    if text is None:
        return item
    if not isinstance(text, str) or len(text) > LONGEST_NAME:
        raise msgspec.ValidationError(
            f"Expected a name of at most {LONGEST_NAME} characters - at `{place}`"
        )
    try:
        return _put(item, way, msgspec.to_builtins(read(text)))
    except NameTextError as error:
        raise msgspec.ValidationError(f"{error} - at `{place}`") from error


def from_text(data: bytes, name: str = "The file") -> Project:
    """Read a project from its saved bytes.

    Raises:
        ReadError: it is no project of this program, or contradicts itself.
    """
    raw = _raw(data, name)
    version = raw.get("format")
    if not isinstance(version, int) or isinstance(version, bool):
        raise ReadError(f"{name} is JSON but no Balken project: it does not say its format.")
    if version > FORMAT:
        raise ReadError(
            f"{name} is of format {version}; this program reads up to format {FORMAT}. Use a newer"
            " one."
        )
    while version < FORMAT:
        if version not in MIGRATIONS:
            raise ReadError(f"{name} is of format {version}, which never was.")
        raw = _stepped_up(raw, version, name)
        version = raw["format"]
    try:
        return validate(msgspec.convert(_with_names(raw), Project))
    except (msgspec.ValidationError, ProjectError) as error:
        raise ReadError(f"{name}: {error}") from error
    except (RecursionError, OverflowError, StopIteration) as error:
        raise ReadError(f"{name} is damaged: {error}.") from error


def _stepped_up(raw: Raw, version: int, name: str) -> Raw:
    """Step a file of an older format up by one; nothing of it was validated yet, so that anything
    may stand anywhere in it."""
    try:
        return MIGRATIONS[version](raw)
    except (
        BalkenError,
        TypeError,
        KeyError,
        AttributeError,
        IndexError,
        ValueError,
        ArithmeticError,
    ) as error:
        raise ReadError(
            f"{name} is of format {version} and damaged: its walls, roofs or changes are not as"
            " that format has them."
        ) from error


def _raw(data: bytes, name: str) -> Raw:
    if not data.strip():
        raise ReadError(f"{name} is empty.")
    if data[:2] == b"PK":
        raise ReadError(f"{name} is a zip archive, not a Balken project.")
    if not data.lstrip().startswith(b"{"):
        raise ReadError(f"{name} is no Balken project: it does not begin as one.")
    _measure_depth(data, name)
    try:
        raw = json.loads(
            data, object_pairs_hook=_no_twins, parse_constant=_no_constant, parse_float=_finite
        )
    except _Twin as twin:
        raise ReadError(f"{name} says “{twin}” twice in one place.") from None
    except _NotFinite as constant:
        raise ReadError(f"{name} holds {constant}, which is no length and no load.") from None
    except json.JSONDecodeError as error:
        raise ReadError(
            f"{name} is damaged at line {error.lineno}, column {error.colno}: {error.msg}."
        ) from error
    except UnicodeDecodeError as error:
        raise ReadError(f"{name} is damaged at byte {error.start}: no readable text.") from error
    except (RecursionError, ValueError, BalkenError) as error:
        raise ReadError(f"{name} is damaged: {error}.") from error
    if not isinstance(raw, dict):
        raise ReadError(f"{name} is no Balken project.")
    return raw


def _measure_depth(data: bytes, name: str) -> None:
    """Refuse deep nesting, and more values than any building has, before any parser meets them;
    what stands inside strings does not count."""
    depth = values = 0
    inside = False
    for found in _TOKENS.finditer(data):
        token = found[0]
        if token == b'"':
            inside = not inside
        elif inside or len(token) > 1:
            continue
        elif token in b"[{":
            depth += 1
            values += 1
            if depth > DEEPEST:
                raise ReadError(f"{name} is nested more than {DEEPEST} deep; no project is.")
        elif token in b"]}":
            depth -= 1
        else:
            values += 1
        if values > MOST_VALUES:
            raise ReadError(f"{name} holds more than {MOST_VALUES:,} values; no project does.")


class _Twin(Exception):
    pass


class _NotFinite(Exception):
    pass


def _no_twins(pairs: list[tuple[str, Any]]) -> Raw:
    found: Raw = {}
    for key, value in pairs:
        if key in found:
            raise _Twin(key)
        found[key] = value
    return found


def _no_constant(word: str) -> float:
    raise _NotFinite(word)


def _finite(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise _NotFinite(text)
    return value


def load(path: Path) -> Project:
    """Open a project file.

    Raises:
        FileError: it cannot be read, or is no project.
    """
    return from_text(read_bytes(path, LARGEST), path.name)


def save(project: Project, path: Path) -> None:
    """Save a project file, whole or not at all.

    Raises:
        FileError: it cannot be written; what was there stays whole.
    """
    write_atomic(path, to_text(project))
