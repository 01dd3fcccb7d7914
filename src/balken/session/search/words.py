"""Words as people type them: plain tokens, other words of the trade for the same, and how well a
phrase matches the words of something."""

import re
from collections.abc import Iterable, Sequence
from difflib import SequenceMatcher
from functools import lru_cache
from typing import Final


def _set_of(*lines: str) -> frozenset[str]:
    """The words of some lines."""
    return frozenset(word for line in lines for word in line.split())


STOP: Final = _set_of(
    "a an are as at be by can do does for from here how i in into is it its make me my",
    "need now of on please put set that the there this to want what where which with",
)
"""Words that tell nothing apart; where a phrase holds nothing else they are left."""

SOFT: Final = _set_of(
    "add adjust begin build change create draw edit give insert modify new place start",
    "use",
)
"""Words for doing that are left out where others remain: what is added or changed says enough."""

PHRASES: Final[tuple[tuple[str, str], ...]] = (
    ("slab on grade", "slab-on-grade"),
    ("slab on ground", "slab-on-grade"),
    ("take off", "takeoff"),
    ("take away", "delete"),
    ("cut list", "cutting list"),
    ("bill of materials", "takeoff"),
    ("material list", "takeoff"),
    ("show all", "show everything"),
    ("on centre", "spacing"),
    ("on center", "spacing"),
    ("o.c.", "spacing"),
    ("o/c", "spacing"),
    ("3d", "space"),
    ("stair well", "stairwell"),
    ("stem wall", "stem-wall"),
    ("grade beam", "grade-beam"),
    ("ground beam", "grade-beam"),
    ("ring beam", "grade-beam"),
    ("strip footing", "strip-footing"),
    ("column line", "grid line"),
    ("grid axis", "grid line"),
    ("dark mode", "dark"),
    ("light mode", "light"),
    ("new version", "new-version"),
    ("save as", "save-as"),
    ("zoom extents", "fit"),
    ("zoom all", "fit"),
    ("zoom to fit", "fit"),
    ("undo all", "undo"),
    ("check list", "findings"),
    ("fit list", "findings"),
)
"""Words that are one thing together, and the one word they are here."""

_ONE_WORD: Final = dict(PHRASES)
_TOGETHER: Final = re.compile(
    r"(?<!\w)(?:" + "|".join(re.escape(together) for together, _ in PHRASES) + r")(?!\w)"
)

SAME: Final[tuple[str, ...]] = (
    "delete remove erase drop clear destroy",
    "undo revert back",
    "redo again repeat",
    "copy duplicate clone",
    "turn rotate spin",
    "row array pattern repeat series",
    "flip reverse invert",
    "select pick choose mark",
    "hide conceal off invisible",
    "only isolate alone",
    "measure distance dimension dimensions dim tape ruler",
    "issue export print publish output plot deliver",
    "cutting cutlist takeoff schedule quantities materials bom",
    "paper sheets sheet drawings layout",
    "upright elevation elevations",
    "space model isometric perspective",
    "spans span spantable tables",
    "finding findings problem problems error errors warning warnings misfit",
    "stair stairs staircase stairwell steps",
    "shaft duct chase void",
    "opening hole cutout penetration",
    "skylight rooflight velux",
    "post posts column columns pillar stanchion",
    "pad pads footing spread",
    "pier piers pile piles",
    "foundation foundations footing footings base substructure",
    "basement cellar",
    "slab-on-grade slab raft",
    "strip-footing strip",
    "beam beams girder girders lintel header joist-beam",
    "joist joists",
    "floor floors deck decking platform",
    "storey story stories storeys",
    "roof roofs",
    "rafter rafters",
    "truss trusses",
    "gable gables gabled",
    "hip hips hipped",
    "pitch slope steepness incline rise",
    "steeper raise increase",
    "flatter lower decrease",
    "overhang eave eaves overhangs",
    "rake verge barge",
    "grid grids axis axes gridline gridlines",
    "window windows",
    "door doors doorway",
    "wall walls partition partitions",
    "corner fillet",
    "trim extend lengthen",
    "spacing centres centers apart oc",
    "section size timber lumber profile",
    "soil ground earth geotech",
    "bearing capacity",
    "frost freezing",
    "ground grade terrain",
    "sheathing subfloor decking plywood osb",
    "sill mudsill soleplate",
    "anchor anchors bolt bolts",
    "blocking noggins noggings bridging dwangs",
    "live imposed",
    "dead permanent",
    "load loads loading",
    "product products proprietary manufacturer maker lvl glulam i-joist",
    "build-up build-ups buildup type types assembly layers construction",
    "background underlay xref trace tracing dxf drawing",
    "survey surveying",
    "theme dark light night colours colors",
    "help keys keyboard shortcuts shortcut hotkeys manual",
    "close quit exit",
    "recent last history",
    "cost price costs prices budget money estimate",
    "rename name label call",
    "next following",
    "all everything whole",
    "flue chimney",
    "unhide reveal",
)
"""Words of one line mean the same to those who look for something."""

SAME_WEIGHT: Final = 0.85
BEGINS, INSIDE, NEAR = 0.85, 0.55, 0.62
"""What a word counts that only begins another, lies inside it, or is written nearly so."""
NEAR_ENOUGH: Final = 0.8
MISSED: Final = 0.45
"""A phrase of which not every word is met counts so much."""
WHOLE: Final = 0.25
"""So much of what a match is worth hangs on how much of the name is met."""
ASIDE: Final = 0.88
"""A word that is met by what else something means, not by its name, counts so much."""


@lru_cache(maxsize=20_000)
def tokens_of(text: str) -> tuple[str, ...]:
    """The words of a text, small, without what tells nothing."""
    low = text.lower().replace("’", "'").replace("×", "x").replace("−", "-")
    low = _TOGETHER.sub(lambda found: _ONE_WORD[found[0]], low)
    found = tuple(re.findall(r"[^\W_]+(?:[-./'][^\W_]+)*", low))
    kept = tuple(t for i, t in enumerate(found) if t not in STOP or _is_label(found, i))
    return kept or found


def asked_of(phrase: str) -> tuple[str, ...]:
    """The words of a phrase that tell what is asked for."""
    typed = tokens_of(phrase)
    return tuple(t for t in typed if t not in SOFT) or typed


def _is_label(tokens: Sequence[str], i: int) -> bool:
    """Whether a word that tells nothing is the label of a line: “grid line a”."""
    return len(tokens[i]) == 1 and i > 0 and tokens[i - 1] in ("line", "grid", "axis", "gridline")


@lru_cache(maxsize=1)
def _groups() -> dict[str, frozenset[str]]:
    found: dict[str, set[str]] = {}
    for line in SAME:
        words = set(line.split())
        for word in words:
            found.setdefault(word, set()).update(words)
    return {word: frozenset(same) for word, same in found.items()}


def stem(word: str) -> str:
    """A word without its plural, and a number without leading noughts."""
    bare = word.lstrip("0") or word
    if len(bare) > 3 and bare.endswith("s") and not bare.endswith("ss"):
        return bare[:-1]
    return bare


@lru_cache(maxsize=200_000)
def likeness(typed: str, word: str) -> float:
    """How well a typed word matches another, from 0 to 1."""
    if typed == word:
        return 1.0
    a, b = stem(typed), stem(word)
    if a == b:
        return 0.97
    if a.isdigit() or b.isdigit():
        return 0.0
    if word in _groups().get(typed, ()) or b in _groups().get(a, ()):
        return SAME_WEIGHT
    if len(a) > 1 and b.startswith(a):
        return BEGINS
    if len(a) > 3 and a in b:
        return INSIDE
    if len(a) > 3 and abs(len(a) - len(b)) < 3:
        near = SequenceMatcher(None, a, b).ratio()
        return NEAR * near if near >= NEAR_ENOUGH else 0.0
    return 0.0


def match(typed: Sequence[str], title: Sequence[str], means: Iterable[str] = ()) -> float:
    """How well a phrase matches something, from 0 to 1: the share of its words that are met, less
    where much of the name is not.

    Args:
        typed: the words of the phrase.
        title: the words of its name.
        means: other words for it.
    """
    if not typed or not title:
        return 0.0
    other = tuple(means)
    total, missed = 0.0, 0
    met: dict[str, float] = {}
    for word in typed:
        best, of = max(((likeness(word, t), t) for t in title), default=(0.0, ""))
        aside = max((ASIDE * likeness(word, m) for m in other), default=0.0)
        if best > 0:
            met[of] = max(best, met.get(of, 0.0))
        total += max(best, aside)
        missed += max(best, aside) == 0.0
    share = total / len(typed)
    if missed:
        share *= MISSED
    return share * (1.0 - WHOLE + WHOLE * sum(met.values()) / len(set(title)))
