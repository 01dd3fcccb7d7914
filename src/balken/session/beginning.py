"""The ways a building is begun - a demo, a rectangle of walls, an empty sheet - and what the first
page shows beside them. Heavy: the first page asks for it apart, after it is on the screen."""

from pathlib import Path
from typing import NamedTuple

from balken.drawing.marks import Drawing
from balken.drawing.section import section_drawing, wall_section
from balken.exchange.native import load
from balken.model.kept import begun_from
from balken.model.new import empty_building, new_building
from balken.session.building import Building, demo_project
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall
from balken.session.journal import Left, left_without_file
from balken.session.recent import recent
from balken.site.proposals import propose_structure
from balken.units import System, parse_length
from balken.works.building import work_out
from balken.works.settling import settle

MOST_LEFT = 3
"""So many buildings with unsaved work are told of at once."""
MOST_RECENT = 5
"""So many files that were open lately are offered at once."""


class Beside(NamedTuple):
    """What the first page shows beside the ways to begin."""

    section: Drawing
    """A wall of the demo building, cut from footing to eaves."""
    left: tuple[Left, ...]
    """Unsaved work on buildings that never had a file, the newest first."""
    recent: tuple[Path, ...]
    """Files that were open lately, the last first."""


def beside() -> Beside:
    """What the first page shows beside the ways to begin."""
    section = section_drawing(wall_section(work_out(demo_project()), ()))
    left = tuple(left_without_file()[-MOST_LEFT:][::-1])
    return Beside(section, left, tuple(recent()[:MOST_RECENT]))


def demo_building(name: str) -> Building:
    """An invented building: ``bakehouse`` or ``ferry hall``."""
    return Building(ferry_hall() if name == "ferry hall" else shown_demo())


def empty_sheet(system: System) -> Building:
    """A building with levels and nothing else."""
    return Building(empty_building("New building", system))


def on_template(path: Path) -> Building:
    """A building with what a template, or any project, has beside its structure.

    Raises:
        FileError: it cannot be read.
    """
    return Building(begun_from(load(path), "New building"))


def rectangle(length: str, width: str, storeys: int, system: System) -> Building:
    """A rectangle of walls with foundation, floors and roof, sized.

    Args:
        length: as typed.
        width: as typed.
        storeys: how many floors.
        system: the units of the building.

    Raises:
        BalkenError: a length cannot be read, or is none that a building has.
    """
    project = new_building(
        "New building", parse_length(length, system), parse_length(width, system), storeys, system
    )
    return Building(settle(propose_structure(project)[0]))
