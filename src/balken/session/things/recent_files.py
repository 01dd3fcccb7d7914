"""The page of files that were open lately."""

from functools import partial

from balken.session.desk import Desk
from balken.session.files import open_any
from balken.session.recent import recent
from balken.session.rows import Line, Link, Rows, Title


def recent_files(desk: Desk) -> Rows:
    """Files that were open lately, to be opened again."""
    there = recent()
    yield Title("Recent files", "", str(len(there)))
    if not there:
        yield Line("None yet: what is opened or saved here stands here next time.", quiet=True)
    for path in there:
        yield Link(path.name, str(path.parent), partial(open_any, desk, path))
