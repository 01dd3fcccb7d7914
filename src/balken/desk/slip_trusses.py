"""The slip of trusses: their shape, what they bear on, their joints."""

from functools import partial
from typing import TYPE_CHECKING, Any

from msgspec.structs import replace

from balken.design.trusses import row_of
from balken.desk.truss_view import TrussFigure
from balken.drawing.truss_figure import truss_figure, truss_of_member
from balken.errors import BalkenError
from balken.framing.member import Member
from balken.framing.trusses.placing import PlacedTruss, movable
from balken.model.edits.roofs import move_joint, set_roof
from balken.model.roofs import TRUSS_KINDS, RoofArea
from balken.units import format_area_load, format_length, format_run, parse_area_load, parse_length

if TYPE_CHECKING:
    from balken.desk.window import Window


def add_figure(w: "Window", m: Member) -> bool:
    """Add the figure of the truss a member belongs to; tell whether it belongs to one."""
    found = truss_of_member(w.building.checked, m)
    if found is None:
        return False
    roof, i = found
    piece = row_of(m)
    drawing = truss_figure(w.building.checked, roof, i, f"{m.role} {piece[2] if piece else 1}")
    w.slip.column.addSpacing(6)
    placed = roof.placed[i]
    move = partial(_move, w, m.host.key, placed)
    w.slip.column.addWidget(
        TrussFigure(w.slip.theme, drawing, placed, move, w.building.project.system)
    )
    return True


def joints(w: "Window", m: Member) -> None:
    """Add where the joints stand that can be moved."""
    found = truss_of_member(w.building.checked, m)
    if found is None:
        return
    placed, system = found[0].placed[found[1]], w.building.project.system
    key = m.host.key
    numbers = movable(placed)
    if numbers:
        w.slip.heading("Joints", "from the wall's face")
    for n in numbers:

        def change(text: str, number: int = n + 1) -> object:
            return _move(w, key, placed, number, parse_length(text, system))

        w.slip.field(f"joint {n + 1}", format_length(placed.truss.joints[n][0], system), change)
    rule = next(r for r in w.building.project.roofs if r.id == key).trusses
    if rule.moved:
        back = partial(set_roof, key=key, trusses=replace(rule, moved=()))
        w.slip.button(
            "Back to the joints of the shape", lambda: w.edit("joints of the trusses", back)
        )


def _move(w: "Window", key: str, placed: PlacedTruss, number: int, to: float) -> object:
    by = to - placed.truss.joints[number - 1][0]
    return w.edit("move a joint", partial(move_joint, key=key, number=number, by=by))


def length_or_none(text: str, system: str) -> float | None:
    """A length, or None where the field is emptied or says what it follows from."""
    bare = text.split(",")[0].strip()
    return parse_length(bare, system) if bare and "by the" not in text else None  # type: ignore[arg-type]


def fields(w: "Window", roof: RoofArea) -> None:
    """Add how the trusses of a roof are made."""
    slip, system = w.slip, w.building.project.system
    rule = roof.trusses

    def put(words: str, **what: Any) -> object:
        return w.edit(words, partial(set_roof, key=roof.id, trusses=replace(rule, **what)))

    slip.options(
        "shape",
        [(k, k) for k in TRUSS_KINDS],
        rule.kind,
        lambda v: put("shape of the trusses", kind=v, moved=()),
    )
    slip.field(
        "panels on a slope",
        str(rule.panels) if rule.panels else "as the shape has them",
        lambda t: put("panels", panels=_count(t), moved=()),
    )
    slip.field(
        "bottom chord rises",
        format_run(rule.bottom_rise, system),
        lambda t: put("scissors", bottom_rise=parse_length(t, system)),
    )
    slip.field(
        "girder from hip end",
        format_run(rule.hip_setback, system) if rule.hip_setback else "by the span",
        lambda t: put("girder", hip_setback=length_or_none(t, system) or 0.0),
    )
    slip.options(
        "on the plate",
        [("bottom chord", "bottom chord"), ("top chord", "top chord")],
        rule.bearing,
        lambda v: put("bearing of the trusses", bearing=v),
    )
    if rule.bearing == "top chord":
        slip.field(
            "hangs under the plate",
            format_run(rule.hang, system),
            lambda t: put("hang of the trusses", hang=parse_length(t, system)),
        )
    slip.field(
        "camber",
        format_run(rule.camber, system),
        lambda t: put("camber", camber=parse_length(t, system)),
    )
    for words, field in (
        ("dead, bottom chord", "bottom_dead"),
        ("live, bottom chord", "bottom_live"),
        ("uplift", "uplift"),
    ):

        def change(text: str, name: str = field) -> object:
            return put("load on the trusses", **{name: parse_area_load(text, system)})

        slip.field(words, format_area_load(getattr(rule, field), system), change)


def _count(text: str) -> int:
    """A count; nothing where the field is emptied or says what it follows from.

    Raises:
        BalkenError: it is no whole number.
    """
    bare = text.strip()
    if not bare or bare.startswith("as "):
        return 0
    if not bare.isdigit():
        raise BalkenError(f"{bare} is no count: type a whole number, such as 3")
    return int(bare)
