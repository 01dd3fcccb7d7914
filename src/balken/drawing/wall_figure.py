"""Figures of walls for the slip: a build-up cut through with its layers, and a wall seen from
outside with its openings.

1 unit is 1 mm of a figure 100 mm wide.
"""

from typing import Final

from balken.drawing.marks import Drawing, Fill, Label, Mark, Patch, Stroke, rectangle
from balken.model.project import Project, wall_base, wall_top
from balken.model.walls import Wall, WallBuildUp, outside_of, thickness_of, wall_length
from balken.units import System, format_length, format_run

LAYER_FILLS: Final[dict[str, Fill]] = {
    "core": "wall",
    "sheathing": "panel",
    "insulation": "insulation",
    "cladding": "board",
    "lining": "board",
}
"""How each kind of layer is filled in plan, section and figure."""
TEXT: Final = 3.4


def build_up_figure(build_up: WallBuildUp, system: System) -> Drawing:
    """A build-up cut through, outer face at the left, with the thickness of each layer."""
    whole = thickness_of(build_up)
    # Thin layers are drawn no thinner than can be seen; the words say how thick they are.
    shares = [max(layer.thickness / whole, 0.05) for layer in build_up.layers]
    scale = 70.0 / sum(shares)
    marks: list[Mark] = []
    x = 15.0
    for i, (layer, share) in enumerate(zip(build_up.layers, shares)):
        fill: Fill = (
            "block" if build_up.module and layer.role == "core" else LAYER_FILLS[layer.role]
        )
        marks.append(
            Patch(
                rectangle(x, 0.0, x + share * scale, 20.0),
                fill,
                "cut" if layer.role == "core" else "seen",
            )
        )
        row = 22.0 + 4.6 * (i % 2)
        marks.append(Label(format_run(layer.thickness, system), (x + share * scale / 2, row), TEXT))
        x += share * scale
    marks += [
        Label("out", (8.0, 8.5), TEXT, quiet=True),
        Label("in", (92.0, 8.5), TEXT, quiet=True),
    ]
    marks.append(Label(format_run(whole, system), (50.0, -6.5), TEXT + 0.4, bold=True))
    marks += [Stroke(((15.0, -2.0), (85.0, -2.0)), "hair")]
    return tuple(marks)


def wall_figure(project: Project, item: Wall) -> Drawing:
    """A wall seen from its outer side, with its openings, length and height."""
    length, height = wall_length(item), wall_top(project, item) - wall_base(project, item)
    scale = min(92.0 / length, 42.0 / height)
    mirrored = outside_of(item) == "left"
    x0 = 50.0 - length * scale / 2
    marks: list[Mark] = [
        Patch(rectangle(x0, 0.0, x0 + length * scale, height * scale), "wall", "cut")
    ]
    for hole in item.openings:
        at = length - hole.at - hole.width if mirrored else hole.at
        left, right = x0 + at * scale, x0 + (at + hole.width) * scale
        low, high = hole.sill * scale, (hole.sill + hole.height) * scale
        marks.append(Patch(rectangle(left, low, right, high), "paper", "seen"))
        if hole.kind == "window":
            marks.append(Stroke(((left, (low + high) / 2), (right, (low + high) / 2)), "beyond"))
    marks.append(Label(format_length(length, project.system), (50.0, -6.0), TEXT, bold=True))
    marks.append(
        Label(
            format_length(height, project.system), (x0 - 1.5, height * scale / 2), TEXT, angle=90.0
        )
    )
    return tuple(marks)


def opening_figure(project: Project, item: Wall, name: str) -> Drawing:
    """One opening in its wall: distances to the wall's ends, sill and head."""
    hole = next(o for o in item.openings if o.id == name)
    length, height = wall_length(item), wall_top(project, item) - wall_base(project, item)
    scale = min(92.0 / length, 40.0 / height)
    x0 = 50.0 - length * scale / 2
    left, right = x0 + hole.at * scale, x0 + (hole.at + hole.width) * scale
    low, high = hole.sill * scale, (hole.sill + hole.height) * scale
    system = project.system
    marks: list[Mark] = [
        Patch(rectangle(x0, 0.0, x0 + length * scale, height * scale), "wall", "cut"),
        Patch(rectangle(left, low, right, high), "paper", "mark"),
        Label(format_length(hole.at, system), ((x0 + left) / 2, -5.5), TEXT, quiet=True),
        Label(format_length(hole.width, system), ((left + right) / 2, -10.0), TEXT, bold=True),
        Label(
            format_length(length - hole.at - hole.width, system),
            ((right + x0 + length * scale) / 2, -5.5),
            TEXT,
            quiet=True,
        ),
    ]
    return tuple(marks)
