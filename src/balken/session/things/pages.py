"""Pages of the slip that are about no single thing."""

from collections.abc import Callable
from typing import Final

from balken.model.names import as_thing
from balken.session.desk import Desk, Thing
from balken.session.rows import Rows
from balken.session.things.block_module import module
from balken.session.things.by_hand import by_hand
from balken.session.things.catalogue import catalogue
from balken.session.things.compared import compared
from balken.session.things.cost import cost
from balken.session.things.fasteners import fasteners
from balken.session.things.new_version import update
from balken.session.things.products import products
from balken.session.things.recent_files import recent_files
from balken.session.things.reserve import reserve
from balken.session.things.sheet_set import sheet_set
from balken.session.things.sources import sources, unread
from balken.session.things.stock import stock
from balken.session.things.variants import variants
from balken.session.things.versions import versions_page
from balken.session.things.wall_build_ups import build_ups
from balken.session.things.whole import sized_page

PAGES: Final[dict[str, Callable[[Desk], Rows]]] = {
    "build-ups": build_ups,
    "fasteners": fasteners,
    "module": module,
    "unread": unread,
    "by hand": by_hand,
    "choices": compared,
    "cost": cost,
    "catalogue": catalogue,
    "products": products,
    "sources": sources,
    "recent": recent_files,
    "sheets": sheet_set,
    "cutting": stock,
    "reserve": reserve,
    "sized": sized_page,
    "update": update,
    "variants": variants,
    "versions": versions_page,
}
"""Each page by its title."""

PAGE = Thing("page", "page", lambda desk, name: PAGES[as_thing(name).key](desk))
