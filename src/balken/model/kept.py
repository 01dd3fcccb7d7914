"""What a firm keeps from one building to the next: its catalogue of products, prices and build-ups, and
templates to begin a building from."""

from typing import Annotated, Final

from msgspec import Meta
from msgspec.structs import replace

from balken.model.floors import BuildUp
from balken.model.paper import Paper
from balken.model.prices import Price
from balken.model.project import Project
from balken.model.record import Record
from balken.model.sections import Product
from balken.model.walls import WallBuildUp


class Catalogue(Record, frozen=True):
    """Products, prices and build-ups of floors and walls."""

    products: Annotated[tuple[Product, ...], Meta(max_length=500)] = ()
    prices: Annotated[tuple[Price, ...], Meta(max_length=5000)] = ()
    build_ups: Annotated[tuple[BuildUp, ...], Meta(max_length=200)] = ()
    wall_build_ups: Annotated[tuple[WallBuildUp, ...], Meta(max_length=500)] = ()


WORDS: Final = {
    "products": "products",
    "prices": "prices",
    "build_ups": "build-ups of floors",
    "wall_build_ups": "build-ups of walls",
}
"""What each part of a catalogue is called."""


def catalogue_of_project(project: Project) -> Catalogue:
    """The catalogue of a project."""
    return Catalogue(
        project.products, project.estimate.prices, project.build_ups, project.wall_build_ups
    )


def template_of(project: Project) -> Project:
    """What of a project another can begin with: levels, build-ups, products, prices, fasteners, what lumber
    is cut from, paper and title block, site; no walls, no structure, nothing drawn."""
    paper = Paper(size=project.paper.size, colour=project.paper.colour, block=project.paper.block)
    return Project(
        project.format,
        project.name,
        project.system,
        project.code,
        project.levels,
        build_ups=project.build_ups,
        wall_build_ups=project.wall_build_ups,
        site=project.site,
        products=project.products,
        fasteners=project.fasteners,
        paper=paper,
        stock=replace(project.stock, offcuts=()),
        estimate=project.estimate,
    )


def begun_from(template: Project, name: str) -> Project:
    """A new building on a template, or on another building as if it were one."""
    return replace(template_of(template), name=name)


def with_template(project: Project, template: Project) -> Project:
    """A building read from an architect's file with what a template has beside levels and walls: the code,
    site, products, prices, fasteners, lumber, paper; build-ups by the side of those that came in."""
    mine = template_of(template)
    taken = {b.id for b in project.wall_build_ups}
    return replace(
        project,
        code=mine.code,
        site=mine.site,
        products=mine.products,
        fasteners=mine.fasteners,
        stock=mine.stock,
        estimate=mine.estimate,
        paper=mine.paper,
        build_ups=mine.build_ups or project.build_ups,
        wall_build_ups=(
            *project.wall_build_ups,
            *(b for b in mine.wall_build_ups if b.id not in taken),
        ),
    )
