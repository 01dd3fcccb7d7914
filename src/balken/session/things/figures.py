"""The figure of a member on its slip: a beam with its diagrams, the truss it belongs to, or the
piece with its loads."""

from functools import partial

from balken.design.trusses import row_of
from balken.drawing.beam_figure import beam_figure
from balken.drawing.figure import figure
from balken.drawing.truss_figure import truss_figure, truss_of_member
from balken.framing.member import Member
from balken.framing.trusses.placing import PlacedTruss
from balken.model.edits.roofs import move_joint
from balken.session.desk import Desk
from balken.session.rows import BeamFigure, Figure, Row, TrussFigure


def figure_row(desk: Desk, m: Member) -> Row:
    """The figure of a member."""
    return carrying_row(desk, m) or truss_row(desk, m) or Figure(figure(desk.checked, m))


def carrying_row(desk: Desk, m: Member) -> Row | None:
    """The figure of a member that carries others, with the values along it; None of one that
    carries none."""
    if m.id not in desk.checked.carrying:
        return None
    drawing, diagram = beam_figure(desk.checked, m)
    return Figure(drawing) if diagram is None else BeamFigure(drawing, m, diagram)


def truss_row(desk: Desk, m: Member) -> Row | None:
    """The figure of the truss a member belongs to; None where it belongs to none."""
    found = truss_of_member(desk.checked, m)
    if found is None:
        return None
    roof, i = found
    piece = row_of(m)
    drawing = truss_figure(desk.checked, roof, i, f"{m.role} {piece[2] if piece else 1}")
    placed = roof.placed[i]
    return TrussFigure(drawing, placed, partial(put_joint, desk, m.host.key, placed))


def put_joint(desk: Desk, key: str, placed: PlacedTruss, number: int, to: float) -> bool:
    """Move a joint of the trusses of a roof along its chord to a place, mm."""
    by = to - placed.truss.joints[number - 1][0]
    return desk.edit("move a joint", partial(move_joint, key=key, number=number, by=by))
