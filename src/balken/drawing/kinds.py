"""How each kind of member is drawn: its line and fill on plans, and its tone in space."""

from typing import Final, Literal, NamedTuple

from balken.drawing.marks import Fill, Pen
from balken.framing import kinds
from balken.framing.kinds import MemberKind


class Drawn(NamedTuple):
    """How a kind is drawn."""

    pen: Pen = "seen"
    """On a plan, where it lies in sight."""
    fill: Fill = "timber"
    tone: Literal["concrete", "timber", "pale"] = "timber"
    """In space."""
    covers: bool = False
    """It lies over all that it rests on, which it would hide: left out of plans and elevations."""


_CONCRETE: Final = Drawn("cut", "concrete", "concrete")
_HIDDEN: Final = Drawn("hidden", "none", "concrete")
_TRUSS: Final = Drawn()
DRAWN: Final[dict[MemberKind, Drawn]] = {
    kinds.FOOTING: _HIDDEN,
    kinds.EDGE: _HIDDEN,
    kinds.GRADE_BEAM: _HIDDEN,
    kinds.LINK: _HIDDEN,
    kinds.PAD: _HIDDEN,
    kinds.BLINDING: _HIDDEN,
    kinds.SLAB: Drawn("beyond", "none", "concrete"),
    kinds.STEM: _CONCRETE,
    kinds.PIER: _CONCRETE,
    kinds.CORBEL: Drawn("seen", "concrete", "concrete"),
    kinds.SILL: Drawn("beyond", "none", "pale"),
    kinds.FLOOR_SLAB: _CONCRETE,
    kinds.JOIST: Drawn(),
    kinds.CEILING_JOIST: Drawn(),
    # Doubled and carrying pieces are drawn heavier, blocks lighter than joists.
    kinds.TRIMMER: Drawn("cut"),
    kinds.HEADER: Drawn("cut"),
    kinds.LEDGER: Drawn("cut"),
    kinds.RIM: Drawn(tone="pale"),
    kinds.BLOCKING: Drawn("beyond"),
    kinds.BRIDGING: Drawn("beyond"),
    kinds.SPLICE: Drawn("beyond"),
    kinds.SQUASH_BLOCK: Drawn(fill="end grain"),
    kinds.SUBFLOOR: Drawn(fill="panel", tone="pale", covers=True),
    kinds.WALL_STUD: Drawn("cut", "end grain"),
    kinds.KING: Drawn("cut", "end grain"),
    kinds.JACK: Drawn("cut", "end grain"),
    kinds.CRIPPLE: Drawn("beyond"),
    kinds.BOTTOM_PLATE: Drawn("beyond", tone="pale"),
    kinds.TOP_PLATE: Drawn("none", "none", tone="pale"),
    kinds.WALL_HEADER: Drawn("hidden", "none"),
    kinds.LINTEL: Drawn("hidden", "none", "concrete"),
    kinds.ROUGH_SILL: Drawn("beyond"),
    kinds.GABLE_PLATE: Drawn("none", "none", tone="pale"),
    kinds.RAKE_PLATE: Drawn("none", "none", tone="pale"),
    kinds.GABLE_STUD: Drawn("none", "none"),
    kinds.WALL_BLOCKING: Drawn("beyond"),
    kinds.BEAM: Drawn("cut"),
    kinds.POST: Drawn("cut", "end grain"),
    kinds.RAFTER: Drawn(),
    kinds.RIDGE: Drawn("cut", tone="pale"),
    kinds.RIDGE_BEAM: Drawn(),
    kinds.HIP: Drawn(),
    kinds.VALLEY: Drawn(),
    kinds.PURLIN: Drawn(),
    kinds.STRUT: Drawn(),
    kinds.BARGE_RAFTER: Drawn(),
    kinds.LOOKOUT: Drawn(),
    kinds.COLLAR_TIE: Drawn(),
    kinds.TIE: Drawn(),
    kinds.FASCIA: Drawn(),
    kinds.VALLEY_PLATE: Drawn(),
    kinds.TOP_CHORD: _TRUSS,
    kinds.BOTTOM_CHORD: _TRUSS,
    kinds.WEB: _TRUSS,
    kinds.STUD: _TRUSS,
}
