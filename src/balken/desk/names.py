"""What people call the thing behind a key: a wall, an opening, a grid line, a support, a member."""

from balken.model.project import Project
from balken.model.roofs import SIDE_WORDS, side_of
from balken.model.walls import called
from balken.units import format_run


def label_of(project: Project, key: str) -> str:
    """Return what a key is called by people."""
    kind, _, name = key.partition(":")
    if kind == "wall":
        found = next((w for w in project.walls if w.id == name), None)
        return f"{called(found)}, {format_run(found.thickness, project.system)}" if found else ""
    if kind == "opening":
        item = next((w for w in project.walls if w.id == name.partition("/")[0]), None)
        hole = next((o for o in item.openings if o.id == name.partition("/")[2]), None) if item else None
        return f"{hole.kind} in {called(item)}, {format_run(hole.width, project.system)} wide" if hole and item else ""
    if kind == "grid":
        g, _, line = name.partition("/")
        return next((f"grid line {x.label}" for y in project.grids if y.id == g for x in y.lines if x.id == line), "")
    if kind == "support":
        item_ = next((s for s in project.point_supports if s.id == name.split("/")[0]), None)
        return f"{item_.kind} {item_.id}" if item_ else ""
    if kind == "hole":
        key_, _, hole_ = name.partition("/")
        return next((f"{o.use} opening {o.id} of {f.name}" for f in project.floors if f.id == key_
                     for o in f.openings if o.id == hole_), "")  # fmt: skip
    if kind == "span":
        return f"direction of {name.replace(':', ' ')}"
    if kind == "step":
        return f"step of footing {name.partition('/')[0]}"
    if kind in ("side", "skylight"):
        return _of_roof(project, kind, *name.split("/", 1))
    if "/" in key:
        host, _, name = key.partition("/")
        role, _, number = name.partition(":")
        return f"{host.partition(':')[2]} {role} {number}".strip()
    return key.replace(":", " ")


def _of_roof(project: Project, kind: str, key: str, name: str) -> str:
    roof = next((r for r in project.roofs if r.id == key), None)
    if roof is None:
        return ""
    if kind == "skylight":
        return next((f"{o.use} {o.id} of roof {roof.name}" for o in roof.openings if o.id == name), "")
    wall = next((w for w in project.walls if w.id == name), None)
    return f"{SIDE_WORDS[side_of(roof, name).kind]}, {called(wall) if wall else f'side {name}'} of roof {roof.name}"
