"""What comes from others: drawings to trace, heights of the ground, what did not come in."""

from functools import partial

from balken.errors import BalkenError
from balken.model.edits.others import (
    add_spot,
    move_background,
    remove_background,
    remove_references,
    set_background,
    set_spots,
    show_layer,
    walls_from_pairs,
)
from balken.model.project import Background, column
from balken.session.desk import Desk
from balken.session.others import ask_for_drawing, ask_for_heights, survey_ground
from balken.session.rows import Button, Fact, Field, Heading, Line, Link, Options, Rows, Title
from balken.site.ground import contour_step
from balken.units import format_length, format_run, parse_length
from balken.units.number import parse_number

MOST_NOTES = 60


def unread(desk: Desk) -> Rows:
    """List what of the architect's file did not come in, and why."""
    notes = desk.project.notes
    yield Title("Not read", "in the architect’s file", str(len(notes)))
    yield Line(
        "Everything else came in. Ask the architect for these, or draw them here.", quiet=True
    )
    for note in notes[:MOST_NOTES]:
        yield Heading(note.what, note.source)
        yield Line(f"{note.why[:1].upper()}{note.why[1:]}.")
    if len(notes) > MOST_NOTES:
        yield Line(
            f"and {len(notes) - MOST_NOTES} more: ./balken check lists them all.", quiet=True
        )


def sources(desk: Desk) -> Rows:
    """Show drawings to trace, heights of the ground and the architect's references."""
    project, system = desk.project, desk.system
    yield Title("Ground and drawings", "of others")
    yield Heading("Heights of the ground", str(len(project.spots)))
    if project.spots:
        heights = [s.height for s in project.spots]
        yield Line(
            f"From {format_length(min(heights), system)} to {format_length(max(heights), system)}"
        )
        yield Line(
            f"Contours every {format_run(contour_step(project.spots, system), system)}", quiet=True
        )
        yield Button(
            "Take them away", lambda: desk.edit("drop heights", partial(set_spots, spots=()))
        )
    else:
        yield Line("None: the ground level alone is the ground.", quiet=True)
    yield Button("Read heights (CSV)", partial(ask_for_heights, desk))
    yield Button("Survey with the simulated instrument", partial(survey_ground, desk))

    def spot(text: str) -> object:
        parts = [p for p in text.replace(";", ",").split(",") if p.strip()]
        if len(parts) != 3:
            raise BalkenError(
                f"“{text}” is no height. Write east, north, height, such as 10', 4', -2'."
            )
        x, y, z = (parse_length(p, system, negative=True) for p in parts)
        return desk.edit("add height", partial(add_spot, at=(x, y), height=z))

    yield Field("one more", "", spot)
    yield Heading("Drawings to trace", str(len(project.backgrounds)))
    yield Button("Lay a DXF drawing under the plan", partial(ask_for_drawing, desk))
    for drawing in project.backgrounds:
        yield from _background(desk, drawing)
    if project.references:
        yield Heading("Architect’s slabs and roofs", str(len(project.references)))
        for item in project.references[:20]:
            yield Fact(
                item.kind,
                f"{item.name}, {format_length(item.bottom, system)} to"
                f" {format_length(item.top, system)}",
            )
        yield Button("Take them away", lambda: desk.edit("drop references", remove_references))


def _background(desk: Desk, drawing: Background) -> Rows:
    project, system = desk.project, desk.system
    yield Heading(drawing.name, f"{sum(len(x.lines) for x in drawing.layers)} lines")
    levels = [("every plan", "")] + [(x.name, x.id) for x in column(project)]
    yield Options(
        "lies under",
        levels,
        drawing.level,
        lambda v: desk.edit("place background", partial(set_background, key=drawing.id, level=v)),
    )
    for layer in drawing.layers[:40]:
        word = "shown" if layer.shown else "hidden"
        yield Link(
            layer.name[:18],
            f"{word}, {len(layer.lines)} lines",
            partial(
                desk.edit,
                "show layer",
                partial(show_layer, key=drawing.id, layer=layer.name, shown=not layer.shown),
            ),
        )

    def move(text: str) -> object:
        parts = [p for p in text.replace(";", ",").split(",") if p.strip()]
        if len(parts) != 2:
            raise BalkenError(
                f"“{text}” is no move. Write how far east, how far north, such as 10', -4'."
            )
        x, y = (parse_length(p, system, negative=True) for p in parts)
        return desk.edit("move background", partial(move_background, key=drawing.id, by=(x, y)))

    def resize(text: str) -> object:
        factor = parse_number(text)
        return desk.edit(
            "scale background",
            partial(move_background, key=drawing.id, by=(0.0, 0.0), scale=factor),
        )

    yield Field("move by", "0, 0", move)
    yield Field("times", "1", resize)
    yield Button(
        "Walls from its pairs of lines",
        lambda: desk.edit(
            "walls from lines",
            partial(walls_from_pairs, key=drawing.id, base=desk.base, top=desk.top),
        ),
    )
    yield Button(
        "Take it away",
        lambda: desk.edit("drop background", partial(remove_background, key=drawing.id)),
    )
