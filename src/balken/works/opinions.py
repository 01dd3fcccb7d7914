"""What tables of a code say beside the calculation: the form of an answer, and what stands over a wall,
which such tables ask for first."""

from typing import Final, NamedTuple

from balken.model.names import HostName
from balken.works.building import Checked


class Opinion(NamedTuple):
    """What a table allows or asks for, mm, and what is there; or why it says nothing."""

    table: str
    about: str
    """What of the wall: studs apart, a header, bracing."""
    listed: float | None
    """The most it allows, or the least it asks for; None where it says nothing."""
    there: float
    words: str
    least: bool = False
    """Whether it asks for so much; else it allows no more."""

    @property
    def kept(self) -> bool:
        """Whether what is there keeps to what the table says, where it says something."""
        if self.listed is None:
            return True
        return (
            self.there >= self.listed - NEARLY if self.least else self.there <= self.listed + NEARLY
        )


NEARLY: Final = 0.1
"""mm."""


def over_wall(
    checked: Checked, host: HostName, seen: frozenset[HostName]
) -> tuple[frozenset[HostName], frozenset[HostName]]:
    """The floors and the roofs that bear on a wall, by what stands on it too."""
    floors: frozenset[HostName] = frozenset()
    roofs: frozenset[HostName] = frozenset()
    for parcel in checked.path.on_walls.get(host, ()):
        source = parcel.source if isinstance(parcel.source, HostName) else parcel.source.host
        if source == host or source in seen:
            continue
        if source.kind == "floor" and not is_ceiling(checked, source):
            floors |= {source}
        elif source.kind == "roof":
            roofs |= {source}
        elif source.kind == "wall":
            more = over_wall(checked, source, seen | {host})
            floors, roofs = floors | more[0], roofs | more[1]
    return floors, roofs


def is_ceiling(checked: Checked, host: HostName) -> bool:
    """Whether a floor is the ceiling under a roof, which the table counts with it."""
    floor = next((f for f in checked.built.floors if f.id == host.key), None)
    bodies = {b.id: b.use for b in checked.built.build_ups}
    return floor is not None and bodies.get(floor.build_up) == "ceiling"
