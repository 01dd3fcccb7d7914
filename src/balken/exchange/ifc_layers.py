"""Layers of walls in an IFC file: material layer sets, by usage, by set or through the wall's
type."""

from collections.abc import Sequence
from typing import Any, Final

from msgspec.structs import replace

from balken.geometry.plane import TOUCH
from balken.model.names import whole
from balken.model.walls import (
    Layer,
    LayerRole,
    PlacedBy,
    Wall,
    WallBuildUp,
    from_outer,
    reach,
    straightened,
    thickness_of,
)
from balken.site.bodies import outer_sides, storey_outline

_WORDS: Final[tuple[tuple[LayerRole, tuple[str, ...]], ...]] = (
    ("insulation", ("insul", "wool", "air", "cavity", "foam", "void")),
    ("lining", ("gypsum", "plaster", "lining", "drywall", "wallboard", "tile")),
    ("sheathing", ("sheath", "osb", "plywood", "panel", "membrane")),
    ("cladding", ("clad", "siding", "render", "stucco", "facing", "veneer", "weatherboard")),
    (
        "core",
        (
            "stud",
            "frame",
            "framing",
            "timber",
            "block",
            "concrete",
            "masonry",
            "core",
            "structur",
            "brick",
            "log",
        ),
    ),
)
"""What a layer is by a word in its material's name or category, the surer ones first."""
_SETS: Final = ("IfcMaterialLayerSetUsage", "IfcMaterialLayerSet")


def layers_of(product: Any, scale: float) -> tuple[tuple[str, float, str], ...] | None:
    """A wall's layers from the right of its line to the left: material, thickness in mm,
    category; None for none."""
    from ifcopenshell.util.element import get_material

    material = get_material(product, should_skip_usage=False)
    if material is None or material.is_a() not in _SETS:
        return None
    usage = material if material.is_a("IfcMaterialLayerSetUsage") else None
    layers = (usage.ForLayerSet if usage else material).MaterialLayers or ()
    found = [_layer(layer, scale) for layer in layers]
    found = [one for one in found if one[1] > TOUCH / 100]
    if usage is not None and usage.DirectionSense == "NEGATIVE":
        found.reverse()
    return tuple(found) or None


def _layer(layer: Any, scale: float) -> tuple[str, float, str]:
    """A layer's material, thickness in mm, and category."""
    name = _text(layer.Material, "Name") or _text(layer, "Name") or "layer"
    category = _text(layer, "Category") or _text(layer.Material, "Category")
    return name[:80], round(float(layer.LayerThickness or 0.0) * scale, 6), category


def _text(entity: Any, attribute: str) -> str:
    return str(getattr(entity, attribute, None) or "")


def role_of(name: str, category: str) -> LayerRole | None:
    """What a layer is by its words; None where they do not tell."""
    for text in (category.lower(), name.lower()):
        if "loadbearing" in text.replace(" ", "").replace("-", ""):
            return "core"
        for role, words in _WORDS:
            if any(w in text for w in words):
                return role
    return None


def build_up_of(layers: Sequence[tuple[str, float, str]], key: str) -> WallBuildUp:
    """Layers as a build-up. Where no word says which layer stands, the thickest that is not
    insulation does; a brick skin outside another core is cladding."""
    roles = [role_of(name, category) for name, _, category in layers]
    for i in _skins(layers, roles):
        roles[i] = "cladding"
    if "core" not in roles:
        roles[_thickest(layers, roles)] = "core"
    first = roles.index("core")
    last = len(roles) - 1 - roles[::-1].index("core")
    made = []
    for i, (name, thickness, _) in enumerate(layers):
        between: LayerRole = "sheathing" if i < first else "lining" if i > last else "core"
        made.append(Layer(name, thickness, roles[i] or between))
    return WallBuildUp(key, tuple(made))


def _thickest(layers: Sequence[tuple[str, float, str]], roles: Sequence[LayerRole | None]) -> int:
    """The thickest layer that is not insulation, where there is one."""
    rest = [i for i, r in enumerate(roles) if r != "insulation"] or list(range(len(layers)))
    return max(rest, key=lambda i: (layers[i][1], -i))


def _skins(
    layers: Sequence[tuple[str, float, str]], roles: Sequence[LayerRole | None]
) -> list[int]:
    """The layers of brick among those that stand, where another one stands too."""
    cores = [i for i, r in enumerate(roles) if r == "core"]
    brick = [i for i in cores if "brick" in layers[i][0].lower()]
    return brick if len(brick) < len(cores) else []


def with_layers(
    walls: tuple[Wall, ...], layers: dict[str, tuple[tuple[str, float, str], ...]]
) -> tuple[tuple[Wall, ...], tuple[WallBuildUp, ...], dict[str, str]]:
    """Give walls their build-ups, from the outer face in; bodies stay where they are.

    Which side of a wall is outside follows from the outline of its storey; inside walls keep the
    order of the file.

    Returns:
        The walls, the build-ups, and why the layers of a wall were not taken, by its key.
    """
    outside = _outside(walls)
    build_ups: list[WallBuildUp] = []
    refused: dict[str, str] = {}
    made = []
    for wall in walls:
        mine = layers.get(wall.id, ())
        total = sum(t for _, t, _ in mine)
        if mine and abs(total - wall.thickness) <= TOUCH:
            left = outside.get(wall.id, -1) > 0
            body = _same_or_new(build_ups, mine[::-1] if left else mine)
            made.append(_placed(wall, body, left))
            continue
        made.append(wall)
        if mine:
            refused[wall.id] = (
                f"its layers add up to {total:.1f} mm and its body is {wall.thickness:.1f} mm thick"
            )
    return tuple(made), tuple(build_ups), refused


def _outside(walls: tuple[Wall, ...]) -> dict[str, int]:
    """Which side of each outside wall is outside: 1 left of its line, -1 right."""
    found: dict[str, int] = {}
    for base in dict.fromkeys(w.base for w in walls):
        storey = straightened(tuple(w for w in walls if w.base == base))
        sides = outer_sides(storey, storey_outline(storey))
        found |= {whole(key): side for key, side in sides.items()}
    return found


def _same_or_new(
    build_ups: list[WallBuildUp], layers: Sequence[tuple[str, float, str]]
) -> WallBuildUp:
    """The build-up of these layers: one that is there, or a new one added to them."""
    new = build_up_of(layers, f"X{len(build_ups) + 1}")
    known = next((b for b in build_ups if b.layers == new.layers), None)
    if known is None:
        build_ups.append(new)
    return known or new


def _placed(wall: Wall, body: WallBuildUp, left: bool) -> Wall:
    """Say a wall's body by its outer face, where it is."""
    far, near = reach(wall)
    inset = far if left else -near
    places: tuple[PlacedBy, ...] = (
        "outer face",
        "core outer",
        "core centre",
        "core inner",
        "inner face",
    )
    by: PlacedBy = next((p for p in places if abs(from_outer(body, p) - inset) < TOUCH / 2), "free")
    if by != "free":
        inset = from_outer(body, by)
    shift = round(inset if left else -inset, 6) + 0.0
    return replace(
        wall,
        build_up=body.id,
        by=by,
        thickness=thickness_of(body),
        side="right" if left else "left",
        shift=shift,
    )
