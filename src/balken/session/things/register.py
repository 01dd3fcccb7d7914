"""Every kind of thing, each said in its own file."""

from typing import Final

from balken.session.things.beams import BAY, BEAM
from balken.session.things.dimensions import CLOUD, DIMENSION
from balken.session.things.drawn_loads import LOAD
from balken.session.things.floors import FLOOR, SPAN
from balken.session.things.grid_lines import LINE
from balken.session.things.holes import HOLE
from balken.session.things.levels import LEVEL
from balken.session.things.notes import NOTE
from balken.session.things.openings import OPENING
from balken.session.things.pages import PAGE
from balken.session.things.products import PRODUCT
from balken.session.things.roof_sides import SIDE
from balken.session.things.roofs import ROOF
from balken.session.things.runs import RUN
from balken.session.things.sections import SECTION
from balken.session.things.skylights import SKYLIGHT
from balken.session.things.steps import STEP
from balken.session.things.storeys import STOREY
from balken.session.things.supports import SUPPORT
from balken.session.things.tiers import REFERENCE, TIERS
from balken.session.things.views import VIEW
from balken.session.things.wall_build_ups import BUILD_UP
from balken.session.things.walls import WALL

THINGS: Final = {
    thing.kind: thing
    for thing in (
        *(WALL, OPENING, LINE, LEVEL, STOREY),
        *(RUN, STEP, SUPPORT, LOAD),
        *(FLOOR, SPAN, HOLE, BEAM, BAY),
        *(ROOF, SIDE, SKYLIGHT),
        *(BUILD_UP, PRODUCT, SECTION, NOTE, DIMENSION, CLOUD, VIEW, PAGE, REFERENCE, *TIERS),
    )
}
"""Every kind by the word in its names."""
