"""What a phrase can mean, the best first."""

from typing import Final

from balken.session.desk import Desk
from balken.session.search.acts import acts_of
from balken.session.search.fields import fields_of
from balken.session.search.offer import Offer, score
from balken.session.search.places import members_of, places_of
from balken.session.search.readings import readings
from balken.session.search.words import asked_of

MOST: Final = 12
MEANT: Final = 0.6
"""What matches better than this is meant; what is less is only the nearest there is."""
WORTH: Final = 0.25
"""What matches this much less than the best is left out."""


def offers(desk: Desk, phrase: str) -> list[Offer]:
    """What a phrase can mean, the best first; empty where nothing comes near it.

    Args:
        desk: where it is asked.
        phrase: what was typed; where nothing was, what can be done now.
    """
    typed = asked_of(phrase)
    if not typed:
        return list(acts_of(desk))[:MOST]
    asked = [*acts_of(desk), *places_of(desk), *fields_of(desk, phrase), *members_of(desk)]
    found = [(score(typed, o), o) for o in asked if o.worth < 0.6]
    found += [(o.worth, o) for o in asked if o.worth >= 0.6]
    found += [(o.worth, o) for o in readings(desk, phrase)]
    found = sorted((f for f in found if f[0] > 0), key=lambda f: -f[0])
    return _best(found)


def _best(found: list[tuple[float, Offer]]) -> list[Offer]:
    """Those worth showing, each once."""
    top = found[0][0] if found else 0.0
    seen: dict[str, Offer] = {}
    for worth, offer in found:
        if worth >= WORTH * top and len(seen) < MOST:
            seen.setdefault(offer.words, offer)
    return list(seen.values())


def is_meant(desk: Desk, phrase: str, offer: Offer) -> bool:
    """Whether an offer is what the phrase says, not only the nearest there is."""
    return max(score(asked_of(phrase), offer), offer.worth) >= MEANT
