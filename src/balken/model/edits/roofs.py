"""Edits of roofs: placing them, how each side rises, skylights."""

from collections.abc import Sequence
from typing import Any, Final

from msgspec.structs import replace

from balken.geometry.plane import Point
from balken.model.catalogue import catalogue_of
from balken.model.edits.common import EditError, checked, fresh, known, with_
from balken.model.named import named
from balken.model.project import Project
from balken.model.roofs import RafterPart, RoofArea, RoofOpening, RoofSide, SideKind
from balken.model.usual import USUAL, WOOD, limits

AT_PLACE: Final = 0.05
"""A joint no further from where its shape has it stands there, mm."""


def usual_roof(
    project: Project, key: str, plate: str, walls: Sequence[str] = (), **fields: Any
) -> RoofArea:
    """A roof with what is usual: 6 in 12, a foot (300 mm) of overhang, what sizing may
    choose from, loads."""
    begins, wood = USUAL[project.system], WOOD[project.code]
    usual: dict[str, Any] = {
        "rise": 6.0,
        "overhang": begins.overhang,
        **wood.cut_from(),
        **limits(wood.roof),
        "sizes": begins.small,
        "spacings": catalogue_of(project.system).spacings[1:],
        **begins.roof._asdict(),
    }
    return RoofArea(key, fields.pop("name", key), plate, tuple(walls), **{**usual, **fields})


def add_roof(
    project: Project, plate: str, walls: Sequence[str] = (), **fields: Any
) -> tuple[Project, str]:
    """Add a roof over walls, or over its own ``corners``; return the project and the roof's key.

    Raises:
        EditError: it has neither walls nor corners.
    """
    known(RoofArea, fields)
    if not walls and len(fields.get("corners", ())) < 3:
        raise EditError("A roof needs walls to lie on, or an outline of at least three corners.")
    key = fresh((r.id for r in project.roofs), "R")
    return checked(
        project, roofs=(*project.roofs, usual_roof(project, key, plate, walls, **fields))
    ), key


def set_roof(project: Project, key: str, **fields: Any) -> Project:
    """Change fields of a roof; ``section=None`` and ``spacing=None`` give them back to the
    calculation."""
    known(RoofArea, fields)
    return checked(project, roofs=with_(project.roofs, key, **fields))


def set_rafters(project: Project, key: str, **fields: Any) -> Project:
    """Give the rafters of a roof another rule: fields of :class:`Rafters`."""
    roof = named(project.roofs, key, "roof")
    return set_roof(project, key, rafters=replace(roof.rafters, **fields))


def set_side(project: Project, key: str, side: str, **fields: Any) -> Project:
    """Change how one side of a roof differs from the rest; a side that differs in nothing is no
    longer told."""
    known(RoofSide, fields)
    roof = named(project.roofs, key, "roof")
    old = next((s for s in roof.sides if s.side == side), RoofSide(side))
    new = replace(old, **fields)
    others = tuple(s for s in roof.sides if s.side != side)
    kept = () if new == RoofSide(side) else (new,)
    sides = tuple(sorted(others + kept, key=lambda s: s.side))
    return checked(project, roofs=with_(project.roofs, key, sides=sides))


def hip_or_gable(project: Project, key: str, side: str) -> Project:
    """Turn a side that slopes into a gable, and any other into one that slopes."""
    roof = named(project.roofs, key, "roof")
    now = next((s.kind for s in roof.sides if s.side == side), "slope")
    kind: SideKind = "gable" if now == "slope" else "slope"
    return set_side(project, key, side, kind=kind)


def turn_ridge(project: Project, key: str, sides: Sequence[str]) -> Project:
    """Let a roof with two gables have them at its other sides.

    Args:
        project: with the roof.
        key: of the roof.
        sides: the names of all its sides, in order.

    Raises:
        EditError: it has no two gables that face each other over four sides.
    """
    roof = named(project.roofs, key, "roof")
    kinds = {s.side: s.kind for s in roof.sides}
    gables = [s for s in sides if kinds.get(s) == "gable"]
    if (
        len(sides) != 4
        or len(gables) != 2
        or (sides.index(gables[1]) - sides.index(gables[0])) != 2
    ):
        raise EditError(
            "Only the ridge of a gable roof over four sides is turned: give its sides hip or gable"
            " one by one."
        )
    for side in sides:
        project = set_side(project, key, side, kind="slope" if side in gables else "gable")
    return project


def add_roof_opening(
    project: Project, key: str, at: Point, size: tuple[float, float], use: str = "skylight"
) -> tuple[Project, str]:
    """Add a skylight by its middle in plan and its size across and up the slope; return the project
    and its key."""
    roof = named(project.roofs, key, "roof")
    name = fresh((o.id for o in roof.openings), "S")
    made = RoofOpening(name, at, size, use)  # type: ignore[arg-type]
    return checked(project, roofs=with_(project.roofs, key, openings=(*roof.openings, made))), name


def set_roof_opening(project: Project, key: str, opening: str, **fields: Any) -> Project:
    """Change fields of a skylight."""
    known(RoofOpening, fields)
    roof = named(project.roofs, key, "roof")
    named(roof.openings, opening, "opening")
    return checked(
        project, roofs=with_(project.roofs, key, openings=with_(roof.openings, opening, **fields))
    )


def remove_roof_opening(project: Project, key: str, opening: str) -> Project:
    """Take a skylight away."""
    roof = named(project.roofs, key, "roof")
    named(roof.openings, opening, "opening")
    rest = tuple(o for o in roof.openings if o.id != opening)
    return checked(project, roofs=with_(project.roofs, key, openings=rest))


def move_roof_opening(project: Project, key: str, opening: str, vector: Point) -> Project:
    """Move a skylight in plan."""
    item = named(named(project.roofs, key, "roof").openings, opening, "opening")
    at = (round(item.at[0] + vector[0], 3), round(item.at[1] + vector[1], 3))
    return set_roof_opening(project, key, opening, at=at)


def set_part(
    project: Project, key: str, part: RafterPart, *, section: str | None, there: bool = True
) -> Project:
    """Say what the pieces of a kind are cut from, as usual where nothing is said; or leave them
    out."""
    rule = named(project.roofs, key, "roof").rafters
    out = tuple(p for p in rule.left_out if p != part)
    typed = tuple((p, s) for p, s in rule.sections if p != part)
    made = replace(
        rule,
        left_out=out if there else (*out, part),
        sections=(*typed, (part, section)) if section else typed,
    )
    return set_roof(project, key, rafters=made)


def move_joint(project: Project, key: str, number: int, by: float) -> Project:
    """Move a joint of the trusses of a roof along its chord, by mm from where it is; back at its
    place it is no longer told."""
    rule = named(project.roofs, key, "roof").trusses
    moved = dict(rule.moved)
    moved[number] = round(moved.get(number, 0.0) + by, 3)
    kept = tuple(sorted((n, v) for n, v in moved.items() if abs(v) > AT_PLACE))
    return set_roof(project, key, trusses=replace(rule, moved=kept))


def add_court(project: Project, key: str, corners: Sequence[Point]) -> Project:
    """Leave a courtyard open in a roof; the walls that reach its plate carry it there.

    Raises:
        EditError: it has fewer than three corners.
    """
    if len(corners) < 3:
        raise EditError("A courtyard needs at least three corners.")
    roof = named(project.roofs, key, "roof")
    ring = tuple((round(x, 3), round(y, 3)) for x, y in corners)
    walls = (
        *roof.walls,
        *(
            w.id
            for w in project.walls
            if w.top == roof.plate and not w.bulge and w.id not in roof.walls
        ),
    )
    return checked(
        project, roofs=with_(project.roofs, key, courts=(*roof.courts, ring), walls=walls)
    )
