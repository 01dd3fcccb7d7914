"""Everything that a slip lets one type or choose, found by its name and set by a phrase: “frost
depth 42 in”, “soffit level”, “roof pitch 8”."""

import re
from collections import defaultdict
from collections.abc import Iterator
from functools import partial
from typing import Any, Final, NamedTuple

from balken.errors import BalkenError
from balken.model.names import HostName, Name, ThingName, kind_of
from balken.session.desk import Desk
from balken.session.rows import Field, Heading, Options, type_into
from balken.session.search.offer import Offer
from balken.session.search.words import asked_of, likeness, match, tokens_of
from balken.units import parse_length

ALSO: Final[dict[str, str]] = {
    "spacing": "joist spacing, rafter spacing, centres",
    "section": "size, joist size, rafter size, depth",
    "live load": "imposed load, occupancy load, use, ll",
    "dead load": "permanent load, dl",
    "snow": "snow load, ground snow",
    "roof live": "roof live load",
    "pitch": "slope, roof slope, roof pitch, rise, roof angle",
    "overhang": "eave, eaves, eave overhang, soffit width",
    "at gables": "rake, verge, gable overhang, rake overhang",
    "ridge over plate": "ridge height, roof height",
    "heel": "heel height, raised heel, energy heel",
    "of": "framing, roof framing, rafters or trusses",
    "frost depth": "frost, frost line",
    "soil bearing": "bearing capacity, allowable bearing, bearing pressure",
    "soil": "soil class, soil type",
    "above the ground": "clearance, ground clearance, height over grade",
    "backfill as a fluid": "backfill, earth pressure, equivalent fluid",
    "walls weigh": "wall weight, weight of walls",
    "checked by": "code, design code, concrete code, timber code, eurocode",
    "plates of walls": "plate species",
    "footing width": "footing size, width of footing",
    "footing thickness": "footing depth, footing height",
    "stem thickness": "stem-wall, foundation wall thickness, stem wall thickness",
    "sill plate": "sill, mudsill",
    "anchor bolts": "bolts, anchors, bolt diameter, bolt size",
    "bolts apart": "bolt spacing, anchor spacing",
    "subfloor": "sheathing, decking, osb, plywood, floor sheathing",
    "ceiling": "gypsum, drywall, ceiling board",
    "joists run": "joist direction, span direction, direction of joists",
    "begins after": "layout start, start of layout",
    "built up as": "floor build-up, floor type",
    "built up of": "wall build-up, wall type",
    "height": "elevation, level height",
    "ridge": "ridge board, ridge beam",
    "shape": "truss type, truss shape, kind of truss",
    "on the plate": "truss bearing",
    "fascia": "fascia board",
    "splice if butted": "splice",
    "out past walls": "floor edge, edge of floor",
    "set": "flush or dropped, beam set",
    "blocking": "solid blocking, noggings",
    "collar ties": "collar, collar tie",
    "ties": "ceiling ties, rafter ties",
    "purlin over plate": "purlins, purlin",
    "lap over beams": "lap, joist lap",
    "gasket under it": "gasket, sill seal",
    "blinding under it": "blinding",
    "slab thickness": "slab, slab depth",
    "panels on a slope": "truss panels, panels",
    "camber": "precamber",
}
"""Other names for what is typed and chosen, by its name on the slip."""
NEVER: Final = ("a change touches", "copy to", "goes over to", "moves with", "copy up by")
"""What a phrase cannot set alone."""

_VALUE: Final = re.compile(
    r"[+\-−]?[\d.,/'\"′″½¼¾⅛⅜⅝⅞⁄ -]*\d[\d.,/'\"′″½¼¾⅛⅜⅝⅞⁄ -]*[\"'″′½¼¾⅛⅜⅝⅞]*\s*"
    r"(mm|cm|m|in|inch|inches|ft|feet|psf|pcf|plf|ksf|kpa|kn|kn/m|kn/m²|kn/m2|n|lb|lbs|kip|°|deg|degrees|%|psi)?"
    r"|\d+(?:[.,]\d+)?\s*(?:in|:|/)\s*12|\d+\s*°",
    re.IGNORECASE,
)


class Entry(NamedTuple):
    """Something that can be typed or chosen, and where."""

    name: Name
    called: str
    row: Field | Options
    heading: str
    worth: float


def entries(desk: Desk, phrase: str) -> Iterator[Entry]:
    """Everything that can be typed or chosen of what is at hand, of the first of each kind, and of
    what a phrase names."""
    seen: set[tuple[str, str, str]] = set()
    for name, called, worth in _asked(desk, tokens_of(phrase)):
        heading = ""
        for row in desk.thing(name).slip(desk, name):
            if isinstance(row, Heading):
                heading = row.text
            elif isinstance(row, Field | Options) and row.name not in NEVER:
                of_site = "site" if heading == "Site" else str(name)
                key = (row.name, heading, of_site)
                if key not in seen:
                    seen.add(key)
                    yield Entry(name, "site" if heading == "Site" else called, row, heading, worth)


def _asked(desk: Desk, typed: tuple[str, ...]) -> Iterator[tuple[Name, str, float]]:
    """What slips are asked, what each is called, and how near it is to hand."""
    project, tier = desk.project, desk.current_tier()
    near = desk.selection or (tier.host if tier else None)
    if near is not None and kind_of(near) not in ("page", "level"):
        yield near, desk.thing(near).called(project, near), 0.08
    groups: list[list[tuple[Name, str, str]]] = [
        [(HostName("floor", f.id), f"floor {f.name}", f.id) for f in project.floors],
        [(HostName("roof", r.id), f"roof {r.name}", r.id) for r in project.roofs],
        [(HostName("run", r.id), f"foundation {r.name}", r.id) for r in project.runs],
        [(HostName("beam", b.id), f"beam {b.id}", b.id) for b in project.beams],
    ]
    if not project.runs:
        groups.append([(ThingName("ground", ""), "site", "")])
    for group in groups:
        for i, (name, called, key) in enumerate(group):
            said = set(typed) & {key.lower(), *tokens_of(called)[1:]}
            if name != near and (i < SOME or said):
                yield name, called, 0.04 - 0.01 * min(i, 3)


SOME: Final = 3
"""So many floors, roofs and foundations are asked though nothing names them."""


def fields_of(desk: Desk, phrase: str) -> Iterator[Offer]:
    """What a phrase can set, or go to."""
    typed = asked_of(phrase)
    ends = list(_values_in(phrase))
    for entry in entries(desk, phrase):
        names = [tokens_of(n) for n in _names_of(entry.row)]
        if any(likeness(t, w) >= CLEAR for t in typed for name in names for w in name):
            yield _to_it(desk, entry)
        if isinstance(entry.row, Field):
            yield from _typing(desk, entry, entry.row, ends)
        else:
            yield from _choosing(desk, entry, entry.row, typed, ends)


CLEAR: Final = 0.86
"""A word that matches so well is the word."""


def _names_of(row: Field | Options) -> list[str]:
    return [row.name, *ALSO.get(row.name, "").split(", ")]


def _fits(entry: Entry, words: tuple[str, ...]) -> float:
    """How well words say the name of a field, whatever else they say of where it is: at least one
    is of the name, and not only of what it belongs to."""
    about = (*tokens_of(entry.called), *tokens_of(entry.heading), *KINDS[kind_of(entry.name)])
    own = [w for w in words if not any(likeness(w, a) >= CLEAR for a in about)]
    best = 0.0
    for name in map(tokens_of, filter(None, _names_of(entry.row))):
        said = sum(any(likeness(t, w) >= CLEAR for t in words) for w in name) / len(name)
        of_it = any(likeness(t, w) >= CLEAR for t in own for w in name)
        if said == 1.0 or (of_it and said >= MOSTLY):
            best = max(best, match(words, name, about))
    return best


MOSTLY: Final = 0.6
"""So much of a name must be said where a value is typed."""


KINDS: Final[dict[str, tuple[str, ...]]] = defaultdict(
    tuple,
    {
        "floor": ("floor", "joist", "joists"),
        "roof": ("roof", "rafter", "rafters", "truss", "trusses"),
        "run": ("foundation", "footing"),
        "beam": ("beam",),
        "wall": ("wall",),
        "ground": ("site",),
    },
)
"""Words that tell what a field belongs to."""


def _values_in(phrase: str) -> Iterator[tuple[tuple[str, ...], str]]:
    """The ways a phrase ends in a quantity: its words before, and the quantity."""
    for found in re.finditer(r"(?<!\S)[+\-−]?[.\d½¼¾⅛⅜⅝⅞]", phrase):
        before, value = phrase[: found.start()], phrase[found.start() :].strip()
        value = re.sub(r"\s*\bo\.?c\.?$", "", value)
        if before.strip() and _VALUE.fullmatch(value):
            yield asked_of(re.sub(r"[@=:]", " ", before)), value


def _to_it(desk: Desk, entry: Entry) -> Offer:
    now = entry.row.value if isinstance(entry.row, Field) else _text_of(entry.row, entry.row.now)
    also = ALSO.get(entry.row.name, "")
    means = f"{also} {entry.called} {entry.heading} {' '.join(KINDS[kind_of(entry.name)])}"
    name = "framing" if entry.row.name == "of" else entry.row.name
    act = partial(_go, desk, entry)
    does = f"goes to “{entry.row.name}” of {entry.called}"
    return Offer(f"{name} of {entry.called}", now, act, means, does, entry.worth - 0.1, name, also)


def _go(desk: Desk, entry: Entry) -> None:
    """Show a slip, with the field ready to be typed in."""
    desk.select(entry.name)
    desk.face.to_field(entry.row.name)


def _text_of(row: Options, value: Any) -> str:
    return next((text for text, v in row.values if v == value), "")


MET: Final = 0.62
"""A phrase whose words match this well means the field."""


def _typing(
    desk: Desk, entry: Entry, row: Field, ends: list[tuple[tuple[str, ...], str]]
) -> Iterator[Offer]:
    for words, value in ends:
        worth = _fits(entry, words)
        if worth >= MET:
            act = partial(type_in, desk, entry, row, value)
            does = f"from {row.value} to {value}" if row.value else f"to {value}"
            said = f"{row.name} of {entry.called}: {value}"
            yield Offer(said, "as typed", act, "", does, 0.2 + worth + entry.worth)


def type_in(desk: Desk, entry: Entry, row: Field, value: str) -> None:
    """Type a value into a field of a slip, and show the slip; what is refused is said."""
    refused = type_into(row, value, lambda: desk.said)
    said = refused.why if refused else f"{row.name} of {entry.called}: {value}."
    desk.select(entry.name)
    desk.say(said)


def _choosing(
    desk: Desk,
    entry: Entry,
    row: Options,
    typed: tuple[str, ...],
    ends: list[tuple[tuple[str, ...], str]],
) -> Iterator[Offer]:
    for words, value in ends:
        fits = _fits(entry, words)
        for text, choice in row.values if fits >= MET else ():
            if _is_length(desk, value, choice):
                yield _chosen(desk, entry, row, text, choice, fits)
    whole = [(text, choice) for text, choice in row.values if len(typed) > 1]
    for text, choice in whole:
        if match(typed, tokens_of(text)) >= WHOLLY:
            yield _chosen(desk, entry, row, text, choice, 0.7)
    names = [w for name in _names_of(row) for w in tokens_of(name)]
    about = (*names, *tokens_of(entry.called), *KINDS[kind_of(entry.name)])
    rest = [t for t in typed if not any(likeness(t, w) >= CLEAR for w in about)]
    met = tuple(t for t in typed if t not in rest)
    fits = _fits(entry, met) if rest and met else 0.0
    for text, choice in row.values if fits >= MET else ():
        value_fits = match(rest, tokens_of(text))
        if value_fits >= MET:
            yield _chosen(desk, entry, row, text, choice, min(fits, 1.0) * value_fits)


WHOLLY: Final = 0.95
"""A phrase that is a choice word by word chooses it, though it does not say of what."""


def _is_length(desk: Desk, text: str, choice: Any) -> bool:
    if not isinstance(choice, float):
        return False
    try:
        return abs(parse_length(text, desk.system) - choice) < 0.1
    except BalkenError:
        return False


def _chosen(desk: Desk, entry: Entry, row: Options, text: str, choice: Any, fits: float) -> Offer:
    def act() -> None:
        row.choose(choice)
        desk.select(entry.name)

    now = _text_of(row, row.now)
    name = "framing" if row.name == "of" else row.name
    does = f"from {now} to {text}" if now and now != text else "it is so already"
    words = f"{name} of {entry.called}: {text}"
    return Offer(words, "as typed", act, "", does, 0.2 + fits + entry.worth)
