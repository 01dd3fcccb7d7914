"""Which service class a host's wood is in, where nobody typed it."""

from typing import Final

from balken.model.project import Host, PointSupport
from balken.model.record import ServiceClass
from balken.model.roofs import RoofArea

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
