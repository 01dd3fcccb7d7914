"""How far long work is: told by the work, heard by whoever waits for it."""

from collections.abc import Callable

Tell = Callable[[str], object]
"""Takes in what is being done now. Where nobody waits any more it may raise, and the work ends
between two steps."""


def unheard(words: str) -> None:
    """Take in how far work is where nobody waits for it."""
