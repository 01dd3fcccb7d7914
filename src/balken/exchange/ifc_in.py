"""An architect's IFC file to levels, grids, walls and openings. Nothing is guessed silently: what
cannot be read is listed with its GlobalId and why, and the rest comes in."""

import math
import re
from collections import Counter
from pathlib import Path
from typing import Any, Final

import numpy as np

from balken.exchange.files import FileError, read_bytes
from balken.exchange.ifc_grid import read_grid
from balken.exchange.ifc_layers import layers_of, with_layers
from balken.exchange.ifc_notes import guid_of, note
from balken.exchange.ifc_reference import references
from balken.exchange.ifc_shape import placement
from balken.exchange.ifc_walls import RawWall, read_wall_or_note, rounded, zero
from balken.model.foundations import first_site
from balken.model.grids import Grid
from balken.model.project import FORMAT, Level, Project, ReadNote
from balken.model.usual import USUAL
from balken.model.validity import ProjectError, validate
from balken.model.walls import Opening, Wall, WallBuildUp
from balken.site.proposals import SAME_HEIGHT
from balken.units import System

SCHEMAS: Final = ("IFC2X3", "IFC4", "IFC4X3", "IFC4X3_ADD2")
NESTED: Final = 400
"""Brackets in one STEP record beyond this are damage."""
_OPEN_CLOSE: Final = re.compile(rb"'(?:[^']|'')*'|[();]")
MOST_WALLS: Final = 5000


def take(path: Path, building: str = "") -> Project:
    """Read an architect's file.

    Args:
        path: the file.
        building: the name of the building to read, where the file holds several; that with most
            walls where empty.

    Returns:
        A project with levels, grids, walls and notes of what did not come in, but no structure yet.

    Raises:
        FileError: the file cannot be read at all.
    """
    model = _open(path)
    try:
        with np.errstate(all="ignore"):  # what is not finite is refused where it is used
            return _taken(model, path, building)
    except FileError:
        raise
    except Exception as error:  # damage that no single thing could be blamed for
        raise FileError(
            f"{path.name} is damaged and cannot be read: {type(error).__name__}."
        ) from error


def _taken(model: Any, path: Path, building: str) -> Project:
    scale = _scale(model, path.name)
    notes: list[ReadNote] = []
    system: System = "us" if _is_us(model) else "metric"
    chosen, others = _buildings(model, building, path.name)
    notes += others

    def wanted(product: Any) -> bool:
        return chosen is None or _building_of(product) in (None, chosen)

    read = (
        read_wall_or_note(p, scale, notes) for p in _products(model, "IfcWall", notes) if wanted(p)
    )
    raw = [w for w in read if w]
    products = [p for p in model.by_type("IfcBuildingStorey") if wanted(p)]
    storeys = _storeys(products, scale, raw, notes)
    if not storeys:
        raise FileError(
            f"{path.name} has no building storeys, so there are no levels to work between."
        )
    levels, walls = _levels_and_walls(storeys, raw, notes)
    walls, build_ups = _layered(walls, raw, scale, notes)
    grids = _grids([p for p in model.by_type("IfcGrid") if wanted(p)], scale, notes)
    _loose_fillings(model, notes)
    for product in model.by_type("IfcCurtainWall"):
        note(notes, product, "curtain walls are not read yet")
    shown = references(model, scale, notes, wanted)
    project = Project(
        FORMAT,
        _name(model, path, chosen),
        system,
        USUAL[system].code,
        levels,
        grids,
        walls,
        notes=tuple(notes[:20000]),
        wall_build_ups=build_ups,
        references=shown,
        site=first_site(system),
    )
    try:
        return validate(project)
    except ProjectError as error:
        raise FileError(f"{path.name} does not hold together: {error}") from error


def _grids(products: list[Any], scale: float, notes: list[ReadNote]) -> tuple[Grid, ...]:
    found = [g for i, p in enumerate(products, 1) for g in read_grid(p, i, scale, notes)]
    return tuple(found[:50])


def _buildings(model: Any, name: str, file: str) -> tuple[int | None, list[ReadNote]]:
    """The number of the building to read, None where the file holds one only; the others are
    listed."""
    counts = dict.fromkeys((product.id() for product in model.by_type("IfcBuilding")), 0)
    if len(counts) < 2:
        return None, []
    for product in model.by_type("IfcWall"):
        holder = _building_of(product)
        if holder in counts:
            counts[holder] += 1
    words = {i: _title(model.by_id(i)) for i in counts}
    best = (
        _building_named(words, name, file) if name else max(counts, key=lambda i: (counts[i], -i))
    )
    others = [
        ReadNote(
            guid_of(model.by_id(i)),
            f"building {words[i]}"[:200],
            f"one building is read at a time; it has {n} walls",
        )
        for i, n in counts.items()
        if i != best and n
    ]
    return best, others


def _building_named(words: dict[int, str], name: str, file: str) -> int:
    for number, word in words.items():
        if word == name:
            return number
    there = ", ".join(sorted(words.values()))
    raise FileError(f"{file} holds no building “{name}”; it holds {there}.")


def _title(product: Any) -> str:
    return str(product.LongName or product.Name or f"#{product.id()}").strip()[:150]


def _building_of(product: Any) -> int | None:
    """The building that holds a product, by its number in the file; None where nothing says
    so."""
    try:
        for _ in range(20):
            if product.is_a("IfcBuilding"):
                return int(product.id())
            up = [r.RelatingStructure for r in getattr(product, "ContainedInStructure", None) or ()]
            up += [r.RelatingObject for r in getattr(product, "Decomposes", None) or ()]
            if not up:
                return None
            product = up[0]
    except Exception:  # a damaged relation says nothing
        return None
    return None


def other_buildings(project: Project) -> tuple[str, ...]:
    """The names of the buildings of a file that were not read."""
    return tuple(
        n.what.removeprefix("building ") for n in project.notes if n.what.startswith("building ")
    )


def _layered(
    walls: tuple[Wall, ...], raw: list["RawWall"], scale: float, notes: list[ReadNote]
) -> tuple[tuple[Wall, ...], tuple[WallBuildUp, ...]]:
    """Give walls the layers the file says they have; a wall whose layers do not fit its body keeps
    its body."""
    products = {guid_of(r.product): r.product for r in raw}
    layers: dict[str, tuple[tuple[str, float, str], ...]] = {}
    for wall in walls:
        product = products.get(wall.source)
        try:
            found = layers_of(product, scale) if product is not None else None
        except Exception as error:
            note(notes, product, f"its layers are damaged ({type(error).__name__})")
            continue
        if found:
            layers[wall.id] = found
    made, build_ups, refused = with_layers(walls, layers)
    for wall in walls:
        if wall.id in refused:
            notes.append(ReadNote(wall.source, "layers of a wall", refused[wall.id]))
    return made, build_ups


def _open(path: Path) -> Any:
    data = read_bytes(path)
    _refuse_other_files(data, path.name)
    _refuse_schema(data, path.name)
    _refuse_nested(data, path.name)
    import ifcopenshell

    try:
        return ifcopenshell.open(str(path))
    except Exception as error:  # the parser raises many kinds
        raise FileError(
            f"{path.name} is damaged and cannot be read: {str(error).splitlines()[0][:200]}."
        ) from error


def _refuse_other_files(data: bytes, name: str) -> None:
    if not data.strip():
        raise FileError(f"{name} is empty.")
    if data[:2] == b"PK":
        raise FileError(f"{name} is a zip archive; unpack the IFC file in it first.")
    if not data.lstrip(b"\xef\xbb\xbf \r\n\t").startswith(b"ISO-10303-21"):
        raise FileError(f"{name} is no IFC file: it does not begin with ISO-10303-21.")
    if b"ENDSEC" not in data or b"END-ISO-10303-21" not in data:
        raise FileError(f"{name} is cut off: its end is missing.")


def _refuse_schema(data: bytes, name: str) -> None:
    schema = re.search(rb"FILE_SCHEMA\s*\(\s*\(\s*'([^']*)'", data[:20000], re.IGNORECASE)
    if not schema:
        raise FileError(f"{name} does not say its IFC schema.")
    word = schema[1].decode("ascii", "replace").upper()
    if word not in SCHEMAS:
        raise FileError(f"{name} is written in {word[:40]}; IFC2X3, IFC4 and IFC4X3 are read.")


def _refuse_nested(data: bytes, name: str) -> None:
    """Refuse brackets within brackets so deep that the parser would run out of stack."""
    depth = 0
    for found in _OPEN_CLOSE.finditer(data):
        depth = 0 if found[0] == b";" else depth + (1 if found[0] == b"(" else -1)
        if depth > NESTED:
            raise FileError(f"{name} is nested more than {NESTED} deep near byte {found.start()}.")


def _scale(model: Any, name: str) -> float:
    from ifcopenshell.util.unit import calculate_unit_scale

    try:
        scale = float(calculate_unit_scale(model)) * 1000.0
    except Exception as error:
        raise FileError(
            f"{name} does not say its length unit in a way that can be read."
        ) from error
    if not math.isfinite(scale) or not 1e-6 <= scale <= 1e7:
        raise FileError(f"{name} has a length unit of {scale:g} mm, which cannot be.")
    return scale


def _is_us(model: Any) -> bool:
    for assignment in model.by_type("IfcUnitAssignment"):
        for item in assignment.Units:
            if item.is_a("IfcConversionBasedUnit") and item.UnitType == "LENGTHUNIT":
                return True
    return False


def _name(model: Any, path: Path, chosen: int | None) -> str:
    if chosen is not None:
        return _title(model.by_id(chosen))
    for kind in ("IfcBuilding", "IfcProject"):
        for item in model.by_type(kind):
            for text in (item.LongName, item.Name):
                if text and text.strip():
                    return str(text).strip()[:200]
    return path.stem[:200]


def _products(model: Any, kind: str, notes: list[ReadNote]) -> list[Any]:
    found, seen = [], set()
    for product in sorted(model.by_type(kind), key=lambda p: p.id()):
        key = guid_of(product)
        if key in seen:
            note(notes, product, "its GlobalId is used twice; the first one came in")
            continue
        seen.add(key)
        found.append(product)
    if len(found) > MOST_WALLS:
        for product in found[MOST_WALLS:]:
            note(notes, product, f"the file has more than {MOST_WALLS} of them")
        del found[MOST_WALLS:]
    return found


class _Storey:
    def __init__(self, product: Any, elevation: float) -> None:
        self.product = product
        self.elevation = elevation
        self.name = str(product.Name or product.LongName or "Storey").strip()[:200] or "Storey"
        self.walls: list[RawWall] = []


def _storeys(
    products: list[Any], scale: float, raw: list[RawWall], notes: list[ReadNote]
) -> list[_Storey]:
    """Storeys from the lowest up, each with its walls."""
    found: dict[int, _Storey] = {}
    for product in products:
        feet = [w.bottom for w in raw if _holder(w.product) == product.id()]
        height = _storey_height(product, scale, feet)
        if height is None:
            note(notes, product, "it says no height")
        else:
            found[product.id()] = _Storey(product, height)
    ordered = sorted(found.values(), key=lambda s: (s.elevation, s.product.id()))
    for wall in raw if ordered else ():
        below = [s for s in ordered if s.elevation <= wall.bottom + 500]
        nearest = below[-1] if below else ordered[0]
        found.get(_holder(wall.product) or -1, nearest).walls.append(wall)
    return ordered


def _storey_height(product: Any, scale: float, feet: list[float]) -> float | None:
    """A storey says its height twice, by its placement and by an attribute; where they differ, the
    one that the feet of its walls lie on counts."""
    try:
        placed = float(placement(product.ObjectPlacement, scale)[2, 3])
    except Exception:
        placed = math.nan
    try:
        stated = float(product.Elevation) * scale
    except (TypeError, ValueError):
        stated = math.nan
    options = [v for v in (placed, stated) if math.isfinite(v) and abs(v) < 1e6]
    if not options:
        return None
    middle = float(np.median(feet)) if feet else options[0]
    return min(options, key=lambda v: abs(v - middle))


def _holder(product: Any) -> int | None:
    """The storey that holds a product, by its number in the file; None where nothing says
    so."""
    try:
        return _climb(product)
    except Exception:  # a damaged relation says nothing
        return None


def _climb(product: Any) -> int | None:
    for _ in range(10):
        for relation in getattr(product, "ContainedInStructure", None) or ():
            if relation.RelatingStructure.is_a("IfcBuildingStorey"):
                return int(relation.RelatingStructure.id())
        parents = [r.RelatingObject for r in getattr(product, "Decomposes", None) or ()]
        if not parents:
            return None
        product = parents[0]
    return None


_ROLE_NAMES: Final = (
    ("footing_bottom", ("bottom of footing", "b.o. footing", "underside of footing")),
    ("footing_top", ("footing",)),
    ("foundation_top", ("foundation",)),
    ("ground", ("ground line", "grade", "terrain")),
    ("ridge", ("ridge",)),
    ("plate", ("plate", "top of wall", "t.o. wall", "roof", "eaves")),
)


def _role(storey: _Storey) -> str:
    if storey.walls:
        return "floor"
    name = storey.name.lower()
    return next((role for role, words in _ROLE_NAMES if any(w in name for w in words)), "floor")


def _is_top(storey: _Storey, storeys: list[_Storey]) -> bool:
    """Whether a storey without walls only says where the walls below it end."""
    if storey.walls:
        return False
    above = [s for s in storeys if s.elevation > storey.elevation and s.walls]
    tops = [w.top for s in storeys for w in s.walls]
    return not above and any(abs(t - storey.elevation) <= SAME_HEIGHT for t in tops)


def _levels_and_walls(
    storeys: list[_Storey], raw: list[RawWall], notes: list[ReadNote]
) -> tuple[tuple[Level, ...], tuple[Wall, ...]]:
    names: set[str] = set()
    levels: list[Level] = []
    for i, storey in enumerate(storeys, 1):
        name = storey.name
        if name in names:
            name = f"{storey.name} ({i})"[:200]
        names.add(name)
        role = "plate" if _is_top(storey, storeys) else _role(storey)
        levels.append(Level(f"L{i}", name, role, rounded(storey.elevation)))  # type: ignore[arg-type]
    walls: list[Wall] = []
    for i, storey in enumerate(storeys, 1):
        if not storey.walls:
            continue
        top = _top_level(storey, i, levels, names)
        for n, item in enumerate(storey.walls, 1):
            made = _hung(item, f"W{i}{n:02d}", levels[i - 1], top, notes)
            if made:
                walls.append(made)
    return tuple(levels), tuple(walls)


def _top_level(storey: _Storey, number: int, levels: list[Level], names: set[str]) -> Level:
    """The level most walls of a storey reach: one that is there, or a plate level made for
    it."""
    height = _usual_top(storey)
    for level in levels:
        if abs(level.elevation - height) <= SAME_HEIGHT and level.elevation > storey.elevation:
            return level
    floors = sum(x.role == "plate" for x in levels) + 1
    name = next(n for n in (f"Plate {k}" for k in range(floors, 10_000)) if n not in names)
    names.add(name)
    made = Level(f"P{number}", name, "plate", height)
    levels.append(made)
    return made


def _usual_top(storey: _Storey) -> float:
    """The top of most walls of a storey. Gable walls rise above the plate, so of two as frequent
    the lower one counts."""
    tops = Counter(round(w.top / SAME_HEIGHT) for w in storey.walls)
    most = max(tops, key=lambda k: (tops[k], -k))
    return float(np.median([w.top for w in storey.walls if round(w.top / SAME_HEIGHT) == most]))


def _hung(item: RawWall, key: str, base: Level, top: Level, notes: list[ReadNote]) -> Wall | None:
    base_offset, top_offset = item.bottom - base.elevation, item.top - top.elevation
    if max(abs(base_offset), abs(top_offset)) > 1e6:
        note(notes, item.product, "it lies more than a kilometre from its storey")
        return None
    holes = tuple(
        Opening(f"{key}-{i}", kind, *(float(v) for v in (at, width, height, sill)))  # type: ignore[arg-type]
        for i, (kind, at, width, height, sill) in enumerate(
            sorted(item.openings, key=lambda o: (o[1], o[4])), 1
        )
    )
    name = str(item.product.Name or "").strip()[:200] or key
    return Wall(
        key,
        name,
        item.start,
        item.end,
        item.thickness,
        item.side,  # type: ignore[arg-type]
        base.id,
        top.id,
        zero(base_offset),
        zero(top_offset),
        item.shift,
        holes,
        guid_of(item.product),
        bulge=item.bulge,
    )


def _loose_fillings(model: Any, notes: list[ReadNote]) -> None:
    for kind in ("IfcDoor", "IfcWindow"):
        for product in model.by_type(kind):
            if not (getattr(product, "FillsVoids", None) or ()):
                note(notes, product, "it fills no opening of a wall")
