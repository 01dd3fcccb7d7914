"""What others bring: drawings to trace, heights of the ground, a new version of the architect's
file."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from msgspec.structs import replace

from balken.errors import BalkenError
from balken.exchange.files import FileError
from balken.model.edits.bring import Difference, differences
from balken.model.edits.others import add_background, set_spots
from balken.model.names import HostName, ThingName
from balken.model.project import Project
from balken.session.desk import Comparison, Desk, page
from balken.site.bodies import storey_outline, storey_walls

if TYPE_CHECKING:
    from balken.exchange.dxf_in import TracedFile


def ask_for_drawing(desk: Desk) -> None:
    """Ask for a DXF drawing and lay it under the plan."""
    path = desk.face.file_to_open("Drawing to trace", "DXF drawings (*.dxf)")
    if path:
        lay_under(desk, path)


def lay_under(desk: Desk, path: Path) -> None:
    """Lay a DXF drawing under the plan; where it does not say its unit, ask."""
    from balken.exchange.dxf_in import read_dxf

    desk.say(f"Reading {path.name} …  Esc leaves it.")
    desk.under_way = desk.face.apart(partial(read_dxf, path), partial(_laid, desk, path), desk.say)


def _laid(desk: Desk, path: Path, traced: "TracedFile") -> None:
    from balken.exchange.dxf_in import UNIT_WORDS

    if traced.unit is None:
        answers: list[tuple[str, Callable[[], object]]] = [
            (word, partial(_lay_in, desk, path, unit)) for word, unit in UNIT_WORDS.items()
        ]
        desk.say("")
        desk.ask(
            f"{path.name} does not say its unit. Its numbers are",
            [*answers, ("Leave it", lambda: None)],
        )
        return
    _add(desk, path, traced)


def _lay_in(desk: Desk, path: Path, unit: float) -> None:
    from balken.exchange.dxf_in import read_dxf

    desk.under_way = desk.face.apart(
        partial(read_dxf, path, unit), partial(_add, desk, path), desk.say
    )


def _add(desk: Desk, path: Path, traced: "TracedFile") -> None:
    from balken.exchange.dxf_in import background

    if not traced.layers:
        desk.say(f"{path.name} holds no lines to trace. {'; '.join(traced.left_out[:3])}")
        return
    if desk.edit(
        "lay a drawing under", partial(add_background, drawing=background(traced, path.name))
    ):
        desk.select(page("sources"))
        desk.face.fit()
        left = f" Left out: {'; '.join(traced.left_out[:4])}." if traced.left_out else ""
        desk.say(
            f"{path.name}: {sum(len(x.lines) for x in traced.layers)} lines on"
            f" {len(traced.layers)} layers.{left}"
        )


def ask_for_heights(desk: Desk) -> None:
    """Ask for a file of heights and read it."""
    path = desk.face.file_to_open("Heights of the ground", "CSV (*.csv *.txt)")
    if path:
        read_heights(desk, path)


def read_heights(desk: Desk, path: Path) -> None:
    """Take heights of the ground from a file, instead of those there are."""
    from balken.exchange.spots_csv import read_spots

    try:
        found = read_spots(path, desk.project.system)
    except FileError as error:
        desk.say(str(error))
        return
    if desk.edit("read heights", partial(set_spots, spots=found.spots)):
        desk.select(page("sources"))
        left = f" Left out: {'; '.join(found.left_out[:3])}." if found.left_out else ""
        desk.say(f"{len(found.spots)} heights.{left}")


def survey_ground(desk: Desk) -> None:
    """Walk round the building with the simulated instrument and take what it measures."""
    from balken.exchange.instrument import MadeUpGround, SimulatedInstrument, survey

    project = desk.project
    outline = storey_outline(storey_walls(project, desk.base))
    if outline is None:
        desk.say("The walls here enclose nothing, so there is no outline to walk round.")
        return
    ground = next((x.elevation for x in project.levels if x.role == "ground"), -600.0)
    spots = survey(SimulatedInstrument(MadeUpGround(height=ground - 150.0)), outline)
    if desk.edit("survey the ground", partial(set_spots, spots=spots)):
        desk.select(page("sources"))
        desk.say(f"{len(spots)} heights measured, each within about {3 * 5} mm.")


# -- a new version of the architect's file --------------------------------


def ask_for_new_version(desk: Desk) -> None:
    """Ask for the new version of the architect's file and compare it with what is here."""
    path = desk.face.file_to_open("New version", "IFC (*.ifc)")
    if path:
        compare(desk, path)


def compare(desk: Desk, path: Path) -> None:
    """Compare a new version of the architect's file with what is here."""
    from balken.exchange.ifc_in import take

    desk.say(f"Reading {path.name} …  Esc leaves it.")
    desk.under_way = desk.face.apart(partial(take, path), partial(compare_with, desk), desk.say)


def compare_with(desk: Desk, new: Project) -> None:
    """Compare what is here with a new version that was read."""
    desk.comparing = compared = _renewed(Comparison(new), desk.project)
    desk.say(f"{len(compared.open)} differences.")
    desk.select(page("update"))


def take_one(desk: Desk, item: Difference) -> bool:
    """Take one difference over."""
    made = desk.edit(f"take {item.what} of the new version", item.take)
    _renew(desk)
    return made


def take_all(desk: Desk) -> None:
    """Take every difference over as one edit, levels first; what cannot be taken is said and
    stays open."""
    assert desk.comparing is not None
    items, refused = desk.comparing.open, []

    def change(project: Project) -> Project:
        for item in items:
            try:
                project = item.take(project)
            except BalkenError as error:
                refused.append(f"{item.what}: {error}")
        return project

    desk.edit("take the new version", change)
    _renew(desk)
    if refused:
        desk.say("; ".join(dict.fromkeys(refused)))


def leave_one(desk: Desk, item: Difference) -> None:
    """Leave one difference as it is here."""
    assert desk.comparing is not None
    left = desk.comparing.left | {(item.what, item.words)}
    desk.comparing = replace(desk.comparing, left=left)
    _renew(desk)


def look_at(desk: Desk, item: Difference) -> None:
    """Show where a difference is; the list stays."""
    base = next(
        (x.base for x in desk.project.walls if item.name == HostName("wall", x.id)),
        "",
    )
    if base:
        desk.tier_id = ThingName("walls", base)
    desk.select(item.name)
    desk.looked = (item.name,) if item.name else ()
    desk.select(page("update"))


def _renew(desk: Desk) -> None:
    if desk.comparing is not None:
        desk.comparing = _renewed(desk.comparing, desk.project)
        desk.select(page("update"))


def end_comparison(desk: Desk) -> None:
    """Leave the comparison."""
    desk.comparing = None
    desk.say("")
    desk.looked = ()
    desk.select(None)


def _renewed(comparison: Comparison, project: Project) -> Comparison:
    """Compare again, after an edit or after something was left."""
    found = tuple(
        d for d in differences(project, comparison.new) if (d.what, d.words) not in comparison.left
    )
    return replace(comparison, open=found, seen=max(comparison.seen, len(found)))
