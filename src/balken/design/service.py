"""Which service class a host's wood is in, where nobody typed it, and how long its loads stay."""

from typing import Final

from balken.design.terms import Terms
from balken.model.floors import FloorArea
from balken.model.project import Host, PointSupport
from balken.model.record import ServiceClass
from balken.model.roofs import RoofArea
from balken.model.uses import USES, Category

INSIDE: Final[ServiceClass] = 1
COVERED: Final[ServiceClass] = 2
"""Roof timber over insulation, and posts that may stand under a roof only (EN 1995-1-1 2.3.1.3;
common practice, no source)."""


def service_class(record: Host | PointSupport) -> ServiceClass:
    """The service class of what a host is framed from."""
    typed: ServiceClass | None = getattr(getattr(record, "kind", None), "service", None)
    typed = typed or getattr(record, "service", None)
    if typed is not None:
        return typed
    return COVERED if isinstance(record, RoofArea | PointSupport) else INSIDE


def category_of(terms: Terms, record: Host | PointSupport) -> Category:
    """Of the live load on what a host is framed from: of a floor its own; of what may carry several
    floors that whose loads stay longest."""
    return USES["eu"][record.use].category if isinstance(record, FloorArea) else terms.on_floors
