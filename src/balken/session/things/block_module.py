"""The page of walls that are off the block module, with the mend of the whole plan."""

from functools import partial
from typing import Any

from balken.model.edits.others import MOST
from balken.model.masonry import SLACK
from balken.model.project import Project, wall
from balken.recall import remembered
from balken.session.desk import Desk
from balken.session.mending import preview_edit
from balken.session.rows import Button, Fact, Heading, Line, Options, Rows, Title
from balken.session.things.wall_build_ups import walls_counted
from balken.site.block_module import mend_module, module_lengths, off_heights, words_of
from balken.units import format_run


def module(desk: Desk) -> Rows:
    """Fill the slip with the lengths of block walls that are off the module, and the mend of the
    whole plan."""
    project, system = desk.project, desk.system
    lengths = module_lengths(project)
    off = [x for x in lengths if abs(x.off) > SLACK]
    yield Title("Block module", "", f"{len(off)} of {len(lengths)} off")
    if not lengths:
        yield Line("No wall is laid in blocks. Give walls a block build-up first.", quiet=True)
        return
    along = desk.grids_along

    def grids(v: bool) -> None:
        desk.grids_along = v
        desk.refresh()

    yield Options("grid lines", [("go along", True), ("stay where they are", False)], along, grids)
    for words, grow in (("No length becomes shorter", True), ("To the nearest lengths", False)):
        mend = _mended(project, grow, along)
        yield Heading(words)
        yield Line(
            f"{walls_counted(mend.moved)} would change, by {format_run(mend.furthest, system)} at most."
        )
        for text in mend.unsatisfied[:8]:
            yield Line(f"{text[:1].upper()}{text[1:]}.", quiet=True)
        change = partial(_mend, grow=grow, grids=along)
        yield Button("Show it", partial(preview_edit, desk, words, change))
        yield Button("Do it", partial(desk.edit, "bring walls onto the module", change))
    heights = off_heights(project)[:MOST]
    if heights:
        yield Heading("Off the courses")
    for item, over in heights:
        yield Fact(
            item.name,
            f"height {format_run(abs(over), system)} {'over' if over > 0 else 'short of'} whole"
            " courses",
        )
    yield Heading("Off the module")
    for x in off[:MOST]:
        yield Fact(wall(project, x.wall).name, words_of(project, x))


@remembered
def _mended(project: Project, grow: bool, grids: bool) -> Any:
    return mend_module(project, grow=grow, grids=grids)


def _mend(project: Project, grow: bool, grids: bool) -> Project:
    return mend_module(project, grow=grow, grids=grids).project
