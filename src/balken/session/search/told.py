"""What search-and-do offers, as text: for the command line and for those who have it read out."""

from balken.session.desk import Desk
from balken.session.search.offers import is_meant, offers

NOTHING = "Nothing here is called that. Try a thing (“beam B2”), a word of the trade (“overhang”),"
NOTHING_MORE = "or what to do (“hide joists”, “floor 2 +8 in”, “2x10 at 16”)."


def told(desk: Desk, phrase: str) -> tuple[list[str], bool]:
    """The lines that tell what a phrase can mean, and whether it says so and is not only near."""
    found = offers(desk, phrase)
    if not found:
        return [f"{NOTHING} {NOTHING_MORE}"], False
    meant = is_meant(desk, phrase, found[0])
    lines = [] if meant else [f"Nothing is called “{phrase}”. The nearest:"]
    for number, offer in enumerate(found, 1):
        note = f"   [{offer.note}]" if offer.note else ""
        does = f"   {offer.does}" if offer.does else ""
        lines.append(f"{number:2d}  {offer.words}{note}{does}")
    return lines, meant
