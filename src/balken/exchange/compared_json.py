"""Two versions of a building compared, for machines."""

from typing import Any

from balken.takeoff.compared import differences, items_of, sums_of
from balken.takeoff.listing import Listing
from balken.works.building import Checked


def compared_json(before: Checked, after: Checked) -> dict[str, Any]:
    """What was decided otherwise, what became of each piece, and figures of the whole; lengths mm."""
    return {
        "before": before.project.name,
        "after": after.project.name,
        "sums": [
            {"what": s.words, "before": round(s.before, 6), "after": round(s.after, 6)}
            for s in sums_of(before, after)
        ],
        "items": [
            {"field": i.field, "key": i.key, "state": i.state, "fields": i.words}
            for i in items_of(before.project, after.project)
        ],
        "pieces": [
            {"name": str(d.name), "state": d.state, "what": d.words}
            for d in differences(before, after)
        ],
    }


def listing_json(listing: Listing) -> list[dict[str, Any]]:
    """A list for machines: a record a row, by the keys of its columns; lengths mm, forces N."""
    keys = [c.key for c in listing.columns]
    return [dict(zip(keys, row.cells)) for row in listing.rows]
