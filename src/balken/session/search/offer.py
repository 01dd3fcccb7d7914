"""What is offered for a phrase."""

from collections.abc import Callable, Sequence
from typing import NamedTuple

from balken.session.search.words import match, tokens_of


class Offer(NamedTuple):
    """Something that a phrase can mean."""

    words: str
    """What it is called, or does."""
    note: str
    """Its key, or what kind of thing it is."""
    act: Callable[[], object]
    means: str = ""
    """Other words for it."""
    does: str = ""
    """What it will do, where its words do not say so."""
    worth: float = 0.0
    """How much it is preferred among what matches alike; sentences that were read whole by far."""
    name: str = ""
    """Its name alone, where its words say more."""
    also: str = ""
    """Other names for it, with commas between."""


def score(typed: Sequence[str], offer: Offer) -> float:
    """How well a phrase means something; 0 where it does not."""
    names = [offer.name or offer.words, *filter(None, offer.also.split(", "))]
    means = tokens_of(offer.means)
    found = max(match(typed, tokens_of(name), means) for name in names)
    return found + offer.worth if found > 0 else 0.0
