"""Plans as DXF (R2010) to be laid into others' drawings: one file a storey, in mm and in the building's own
place, with a layer for each kind of piece, for walls, grids and marks. Layers are named after ISO 13567-2:
agent, element, and what is shown of it."""

import io
import math
from collections.abc import Iterable
from typing import Any, Final

from balken.framing.member import Member
from balken.model.grids import grid_ends, line_points
from balken.model.project import Level, Project, column
from balken.site.bodies import bodies
from balken.works.building import Checked

WORDS: Final = 120.0
"""Height of marks, mm in the building: 2.4 mm at 1:50."""
HEADS: Final = 250.0


def plans_dxf(checked: Checked) -> dict[str, str]:
    """The text of a DXF file for each storey that has pieces, by the level's key."""
    by_level: dict[str, list[Member]] = {}
    for m in checked.structure.members:
        by_level.setdefault(m.level, []).append(m)
    return {
        item.id: _plan(checked.project, item, by_level[item.id])
        for item in column(checked.project)
        if item.id in by_level
    }


def layer_of(role: str) -> str:
    """The layer of a kind of piece: of the structure, elements."""
    letters = "".join(c for c in role.upper() if c.isalpha())
    return f"S-{letters[:6]:-<6}E-"


WALLS, GRID, MARKS = "A-WALL--E-", "S-GRID--E-", "S-MARKS-T-"


def _plan(project: Project, item: Level, members: list[Member]) -> str:
    import ezdxf
    from ezdxf import units

    before = ezdxf.options.write_fixed_meta_data_for_testing
    ezdxf.options.write_fixed_meta_data_for_testing = True  # the same input gives the same text
    try:
        doc = ezdxf.new("R2010", setup=["linetypes"])
        doc.units = units.MM
        space = doc.modelspace()
        _layers(doc, members)
        _grids(space, project)
        for body in bodies(tuple(w for w in project.walls if w.base == item.id)).values():
            space.add_lwpolyline(body.ring, close=True, dxfattribs={"layer": WALLS})
        for m in members:
            _piece(space, m)
        out = io.StringIO()
        doc.write(out)
        return out.getvalue()
    finally:
        ezdxf.options.write_fixed_meta_data_for_testing = before


def _layers(doc: Any, members: Iterable[Member]) -> None:
    for role in dict.fromkeys(m.role for m in members):
        name = layer_of(role)
        if name not in doc.layers:
            doc.layers.add(name, lineweight=35)
    doc.layers.add(WALLS, lineweight=13, color=8)
    doc.layers.add(GRID, lineweight=13, linetype="CENTER")
    doc.layers.add(MARKS)


def _grids(space: Any, project: Project) -> None:
    for grid in project.grids:
        for line in grid.lines:
            space.add_lwpolyline(line_points(grid, line), dxfattribs={"layer": GRID})
            _words(space, line.label, grid_ends(grid, line)[0], 0.0, GRID, HEADS)


def _piece(space: Any, m: Member) -> None:
    low, _ = m.solid.bounds()
    ring = m.solid.plan()
    if len(ring) < 3:
        return
    space.add_lwpolyline(
        ring, close=True, dxfattribs={"layer": layer_of(m.role), "elevation": low[2]}
    )
    middle = tuple((a + b) / 2 for a, b in zip(m.start[:2], m.end[:2]))
    _words(space, m.mark, middle, _turn(m), MARKS, WORDS)


def _turn(m: Member) -> float:
    """How a mark is turned along its piece, read from below or from the right, degrees."""
    dx, dy = m.end[0] - m.start[0], m.end[1] - m.start[1]
    if math.hypot(dx, dy) < 1.0:
        return 0.0
    angle = math.degrees(math.atan2(dy, dx))
    return (angle + 90.0 - 1e-6) % 180.0 - 90.0 + 1e-6


def _words(
    space: Any, text: str, at: Iterable[float], turn: float, layer: str, height: float
) -> None:
    from ezdxf.enums import TextEntityAlignment

    made = space.add_text(text, height=height, rotation=turn, dxfattribs={"layer": layer})
    made.set_placement(tuple(at), align=TextEntityAlignment.MIDDLE_CENTER)
