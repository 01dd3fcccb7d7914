"""Slips of what comes from others: what did not come in, drawings to trace, heights of the ground,
a new version."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

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
from balken.site.ground import contour_step
from balken.units import format_length, format_run, parse_length, parse_number

if TYPE_CHECKING:
    from balken.desk.window import Window

MOST_NOTES = 60


def unread(w: "Window") -> None:
    """List what of the architect's file did not come in, and why."""
    notes = w.building.project.notes
    w.slip.title("Not read", "in the architect’s file", str(len(notes)))
    w.slip.line(
        "Everything else came in. Ask the architect for these, or draw them here.", quiet=True
    )
    for note in notes[:MOST_NOTES]:
        w.slip.heading(note.what, note.source)
        w.slip.line(f"{note.why[:1].upper()}{note.why[1:]}.")
    if len(notes) > MOST_NOTES:
        w.slip.line(
            f"and {len(notes) - MOST_NOTES} more: ./balken check lists them all.", quiet=True
        )


def sources(w: "Window") -> None:
    """Show drawings to trace, heights of the ground and the architect's references."""
    slip, project, system = w.slip, w.building.project, w.building.project.system
    slip.title("Ground and drawings", "of others")
    slip.heading("Heights of the ground", str(len(project.spots)))
    if project.spots:
        heights = [s.height for s in project.spots]
        slip.line(
            f"From {format_length(min(heights), system)} to {format_length(max(heights), system)}"
        )
        slip.line(
            f"Contours every {format_run(contour_step(project.spots, system), system)}", quiet=True
        )
        slip.button("Take them away", lambda: w.edit("drop heights", partial(set_spots, spots=())))
    else:
        slip.line("None: the ground level alone is the ground.", quiet=True)
    slip.button("Read heights (CSV)", w.files.spots_dialog)
    slip.button("Survey with the simulated instrument", w.files.survey)

    def spot(text: str) -> object:
        parts = [p for p in text.replace(";", ",").split(",") if p.strip()]
        if len(parts) != 3:
            raise BalkenError(
                f"“{text}” is no height. Write east, north, height, such as 10', 4', -2'."
            )
        x, y, z = (parse_length(p, system, negative=True) for p in parts)
        return w.edit("add height", partial(add_spot, at=(x, y), height=z))

    slip.field("one more", "", spot)
    slip.heading("Drawings to trace", str(len(project.backgrounds)))
    slip.button("Lay a DXF drawing under the plan", w.files.background_dialog)
    for drawing in project.backgrounds:
        _background(w, drawing)
    if project.references:
        slip.heading("Architect’s slabs and roofs", str(len(project.references)))
        for item in project.references[:20]:
            slip.fact(
                item.kind,
                f"{item.name}, {format_length(item.bottom, system)} to"
                f" {format_length(item.top, system)}",
            )
        slip.button("Take them away", lambda: w.edit("drop references", remove_references))


def _background(w: "Window", drawing: Background) -> None:
    slip, project, system = w.slip, w.building.project, w.building.project.system
    slip.heading(drawing.name, f"{sum(len(x.lines) for x in drawing.layers)} lines")
    levels = [("every plan", "")] + [(x.name, x.id) for x in column(project)]
    slip.options(
        "lies under",
        levels,
        drawing.level,
        lambda v: w.edit("place background", partial(set_background, key=drawing.id, level=v)),
    )
    for layer in drawing.layers[:40]:
        word = "shown" if layer.shown else "hidden"
        slip.link(
            layer.name[:18],
            f"{word}, {len(layer.lines)} lines",
            partial(
                w.edit,
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
        return w.edit("move background", partial(move_background, key=drawing.id, by=(x, y)))

    def resize(text: str) -> object:
        factor = parse_number(text)
        return w.edit(
            "scale background",
            partial(move_background, key=drawing.id, by=(0.0, 0.0), scale=factor),
        )

    slip.field("move by", "0, 0", move)
    slip.field("times", "1", resize)
    slip.button(
        "Walls from its pairs of lines",
        lambda: w.edit(
            "walls from lines",
            partial(walls_from_pairs, key=drawing.id, base=w.tools.base, top=w.tools.top),
        ),
    )
    slip.button(
        "Take it away",
        lambda: w.edit("drop background", partial(remove_background, key=drawing.id)),
    )


def update(w: "Window") -> None:
    """List what moved, came or went in the new version of the architect's file, each to take or to
    leave."""
    slip, state = w.slip, w.files.update
    if state is None:
        slip.title("New version", "of the architect’s file")
        slip.line("None is being compared.", quiet=True)
        return
    slip.title("New version", "of the architect’s file", f"{len(state.open)} open")
    if not state.open:
        slip.line(
            "Nothing differs any more."
            if state.seen
            else "Nothing differs: both versions are the same."
        )
    else:
        slip.line(
            "Take what is right; what you leave stays as it is here. Structure on what is taken"
            " follows.",
            quiet=True,
        )
        slip.button("Take everything", w.files.take_all)
    for item in state.open[:80]:
        slip.heading(item.what, item.sort)
        slip.line(item.words)
        acts: list[tuple[str, Callable[[], object]]] = [
            ("take", partial(w.files.take_one, item)),
            ("leave", partial(w.files.leave_one, item)),
        ]
        slip.links([*acts, ("look at it", partial(w.files.look_at, item))] if item.name else acts)
    slip.button("Done", w.files.end_update)
