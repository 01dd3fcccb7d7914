"""What a choice of size is to be least in."""

from typing import Final, Literal

Aim = Literal["cost", "depth", "pieces", "volume", "carbon"]
AIM_WORDS: Final[dict[Aim, str]] = {
    "cost": "least cost",
    "depth": "least depth",
    "pieces": "fewest pieces",
    "volume": "least wood",
    "carbon": "least carbon",
}
