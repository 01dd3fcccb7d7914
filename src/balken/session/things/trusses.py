"""Trusses: their shape, what they bear on, their joints."""

from functools import partial
from typing import Any

from msgspec.structs import replace

from balken.drawing.truss_figure import truss_of_member
from balken.errors import BalkenError
from balken.framing.member import Member
from balken.framing.trusses.placing import movable
from balken.model.edits.roofs import set_roof
from balken.model.roofs import TRUSS_KINDS, RoofArea
from balken.session.desk import Desk
from balken.session.rows import Button, Field, Heading, Options, Rows
from balken.session.things.fields import length_or_none
from balken.session.things.figures import put_joint
from balken.units import format_area_load, format_length, format_run, parse_length
from balken.units.quantity import parse_area_load


def joints(desk: Desk, m: Member) -> Rows:
    """Add where the joints stand that can be moved."""
    found = truss_of_member(desk.checked, m)
    if found is None:
        return
    placed, system = found[0].placed[found[1]], desk.system
    key = m.host.key
    numbers = movable(placed)
    if numbers:
        yield Heading("Joints", "from the wall's face")
    for n in numbers:

        def change(text: str, number: int = n + 1) -> object:
            return put_joint(desk, key, placed, number, parse_length(text, system))

        yield Field(f"joint {n + 1}", format_length(placed.truss.joints[n][0], system), change)
    rule = next(r for r in desk.project.roofs if r.id == key).trusses
    if rule.moved:
        back = partial(set_roof, key=key, trusses=replace(rule, moved=()))
        yield Button(
            "Back to the joints of the shape", lambda: desk.edit("joints of the trusses", back)
        )


def fields(desk: Desk, roof: RoofArea) -> Rows:
    """Add how the trusses of a roof are made."""
    system = desk.system
    rule = roof.trusses

    def put(words: str, **what: Any) -> object:
        return desk.edit(words, partial(set_roof, key=roof.id, trusses=replace(rule, **what)))

    yield Options(
        "shape",
        [(k, k) for k in TRUSS_KINDS],
        rule.kind,
        lambda v: put("shape of the trusses", kind=v, moved=()),
    )
    yield Field(
        "panels on a slope",
        str(rule.panels) if rule.panels else "as the shape has them",
        lambda t: put("panels", panels=_count(t), moved=()),
    )
    yield Field(
        "bottom chord rises",
        format_run(rule.bottom_rise, system),
        lambda t: put("scissors", bottom_rise=parse_length(t, system)),
    )
    yield Field(
        "girder from hip end",
        format_run(rule.hip_setback, system) if rule.hip_setback else "by the span",
        lambda t: put("girder", hip_setback=length_or_none(t, system) or 0.0),
    )
    yield Options(
        "on the plate",
        [("bottom chord", "bottom chord"), ("top chord", "top chord")],
        rule.bearing,
        lambda v: put("bearing of the trusses", bearing=v),
    )
    if rule.bearing == "top chord":
        yield Field(
            "hangs under the plate",
            format_run(rule.hang, system),
            lambda t: put("hang of the trusses", hang=parse_length(t, system)),
        )
    yield Field(
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

        yield Field(words, format_area_load(getattr(rule, field), system), change)


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
