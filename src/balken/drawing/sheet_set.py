"""The set of sheets of a building: its pages with their numbers and titles."""

from collections.abc import Callable
from functools import partial
from typing import NamedTuple

from balken.drawing.paper.compose import sheets_of
from balken.drawing.paper.records import Sheet
from balken.fit.finding import Finding
from balken.progress import Tell, unheard
from balken.works.building import Checked


class Page(NamedTuple):
    """A sheet that may not be laid yet: its number and title are known, its drawing is work."""

    number: str
    title: str
    lay: Callable[[], Sheet]


def pages_of(
    checked: Checked, findings: tuple[Finding, ...], date: str, tell: Tell = unheard
) -> tuple[Page, ...]:
    """All sheets of a building, laid: how many there are follows from how large their views are."""
    return tuple(
        Page(sheet.number, sheet.title, partial(_same, sheet))
        for sheet in sheets_of(checked, findings, date, tell)
    )


def _same(sheet: Sheet) -> Sheet:
    return sheet


__all__ = ["Page", "Sheet", "pages_of", "sheets_of"]
