"""Whole sentences: “floor 2 +200”, “move grid line 2 600”, “2x10 at 12”, “delete beam B2”,
“rename grid 2 to 2a”."""

import re
from collections.abc import Iterator
from functools import partial
from typing import Final, NamedTuple

from balken.drawing.words import pretty
from balken.errors import BalkenError
from balken.model.catalogue import sections_of
from balken.model.edits import copy_level, move_level, set_floor, set_roof
from balken.model.edits.beams import set_beams
from balken.model.edits.grids import label_line, move_lines
from balken.model.edits.levels import rename_level
from balken.model.edits.walls import move_wall, set_walls
from balken.model.grids import GridLine, grid_line
from balken.model.names import HostName, Name, as_host, as_thing, kind_of
from balken.model.project import Project, grid, level, wall
from balken.model.walls import called
from balken.session import acts, sight
from balken.session.desk import Desk, level_of
from balken.session.search.acts import PRESETS, begin_anywhere
from balken.session.search.offer import Offer
from balken.session.search.places import Subject, subjects
from balken.session.search.words import asked_of, likeness, match, stem, tokens_of
from balken.units import format_length, format_run, parse_length

READ: Final = 2.0
"""A sentence that was read whole is worth so much more than words that match."""
KIND_ALONE: Final = frozenset({"level", "grid", "line", "axis"})
"""Words of a name that may be left out where the kind is clear."""
NUMBER: Final = re.compile(r"(?<!\S)[+-]?\s?[.\d½¼¾⅛⅜⅝⅞]")
WIDEST: Final = 1300.0
"""Nothing is spaced wider than this by a phrase, mm."""


def readings(desk: Desk, phrase: str) -> Iterator[Offer]:
    """What a phrase means when it is read as a sentence."""
    text = phrase.replace("−", "-").replace("’", "'").strip()
    for read in (_moves, _heights, _copies, _holes, _sizes, _spacings, _verbs, _renames):
        yield from read(desk, text)


# -- what a sentence is made of -----------------------------------------------


class Told(NamedTuple):
    """A sentence that ends in a length: the words before it, and the length."""

    words: str
    length: float
    signed: bool


def _ends_in_length(desk: Desk, text: str) -> Iterator[Told]:
    """The ways a text ends in a length, the shortest first: a name may end in a number."""
    for found in reversed(list(NUMBER.finditer(text))):
        words, tail = text[: found.start()].strip(), text[found.start() :]
        signed = tail[:1] in "+-"
        try:
            length = parse_length(re.sub(r"^([+-]) ", r"\1", tail), desk.system, negative=True)
        except BalkenError:
            continue
        if words:
            yield Told(words, length, signed)


def named(desk: Desk, text: str, *kinds: str) -> list[Subject]:
    """The things that a text names wholly, of some kinds where any are given: every word of the
    name is there, and no word of the text is left."""
    typed = tokens_of(text)
    found = []
    for s in subjects(desk) if typed else ():
        if kinds and kind_of(s.name) not in kinds:
            continue
        own = tokens_of(s.words)
        needed = [w for w in own if w not in KIND_ALONE] or own
        if not all(any(likeness(t, w) >= 0.95 for t in typed) for w in needed):
            continue
        known = [*own, *tokens_of(s.means), *tokens_of(s.kind)]
        if all(any(likeness(t, w) >= 0.8 for w in known) for t in typed):
            found.append(s)
    return found


def _chosen_level(desk: Desk, text: str) -> list[Subject]:
    """The level a text names, or the one that is selected where it says only “level”."""
    if tokens_of(text) == ("level",) and (key := level_of(desk.selection)):
        return named(desk, level(desk.project, key).name, "level")
    return named(desk, text, "level")


# -- moving and placing -------------------------------------------------------

UP: Final = {"move": 0, "shift": 0, "nudge": 0, "raise": 1, "lift": 1, "lower": -1, "drop": -1}
WAYS: Final = {"up": 1, "down": -1, "by": 0, "right": 1, "left": -1, "over": 0}


def _moves(desk: Desk, text: str) -> Iterator[Offer]:
    """“floor 2 +200”, “lower plate 1 50”, “move grid line 2 600”, “move wall south 1 by 6 in”."""
    after = re.search(r"\s+(up|down)$", text, re.IGNORECASE)
    body = text[: after.start()] if after else text
    for told in _ends_in_length(desk, body):
        words = told.words.lower().split()
        ways = [after[1].lower()] if after else []
        verb = words[0] if words[0] in UP else ""
        words = words[1:] if verb else words
        while words and words[-1] in WAYS:
            ways.append(words.pop())
        if told.signed or verb or ways:
            down = UP.get(verb, 0) < 0 or any(WAYS[w] < 0 for w in ways)
            yield from _moved(desk, " ".join(words), -told.length if down else told.length)


def _moved(desk: Desk, words: str, by: float) -> Iterator[Offer]:
    way, size = ("up" if by > 0 else "down"), format_run(abs(by), desk.system)
    for s in _chosen_level(desk, words):
        key = as_thing(s.name).key
        now = level(desk.project, key).elevation
        change = partial(move_level, key=key, elevation=now + by)
        said = f"Move {s.words.removeprefix('level ')} {way} by {size}"
        yield _edit(desk, said, "move level", change, s.name, _from_to(desk, now, now + by))
    for s in named(desk, words, "grid"):
        yield _line_moved(desk, s, by)
    for s in named(desk, words, "wall"):
        key = as_host(s.name).key
        change = partial(move_wall, key=key, by=by)
        said = f"Move {s.words} to its left by {format_run(by, desk.system)}"
        yield _edit(desk, said, f"move {s.words}", change, s.name, "walls over and under go along")


def _line_of(desk: Desk, name: Name) -> GridLine:
    return grid_line(grid(desk.project, as_thing(name).key), as_thing(name).part)


def _line_moved(desk: Desk, s: Subject, by: float) -> Offer:
    of, line = as_thing(s.name), _line_of(desk, s.name)
    change = partial(move_lines, key=of.key, lines=[of.part], by=by)
    said = f"Move {s.words} by {format_run(by, desk.system)}"
    does = _from_to(desk, line.offset, line.offset + by)
    return _edit(desk, said, f"move line {line.label}", change, s.name, does)


def _from_to(desk: Desk, before: float, after: float) -> str:
    return f"from {format_length(before, desk.system)} to {format_length(after, desk.system)}"


def _heights(desk: Desk, text: str) -> Iterator[Offer]:
    """“floor 2 at 9'”, “plate 1 8'-1”, “grid line 2 at 4000”: to a place, not by a distance."""
    for told in _ends_in_length(desk, text):
        words = re.sub(r"\s*(\bat|\bto|\bheight|\belevation|=|:)$", "", told.words.lower())
        words = re.sub(r"^(move|put|set)\s+|\s*\b(height|elevation)\b(\s+of)?", "", words)
        placed = words != told.words.lower()
        if told.signed and not placed:
            continue
        for s in named(desk, words, "level"):
            key = as_thing(s.name).key
            now = level(desk.project, key).elevation
            change = partial(move_level, key=key, elevation=told.length)
            said = (
                f"Put {s.words.removeprefix('level ')} at {format_length(told.length, desk.system)}"
            )
            does = _from_to(desk, now, told.length)
            yield _edit(desk, said, "move level", change, s.name, does)
        for s in named(desk, words, "grid") if placed and "move" not in told.words.lower() else ():
            yield _line_moved(desk, s, told.length - _line_of(desk, s.name).offset)


def _copies(desk: Desk, text: str) -> Iterator[Offer]:
    """“copy floor 2 up 9'”, “floor 2 +200” as a copy too."""
    for told in _ends_in_length(desk, text):
        words = told.words.lower()
        body = re.sub(r"^(copy|duplicate)\s+|\s*\b(up|down|by)$", "", words).strip()
        if not told.signed and body == words:
            continue
        by = -told.length if words.endswith(" down") else told.length
        for s in _chosen_level(desk, re.sub(r"^level\s+(?=\S)", "", body) or "level"):
            key = as_thing(s.name).key
            change = partial(copy_level, key=key, distance_up=by)
            way, size = ("up" if by > 0 else "down"), format_run(abs(by), desk.system)
            said = f"Copy {s.words.removeprefix('level ')} {way} by {size}"
            worth = 0.05 if words.startswith(("copy", "duplicate")) else -0.05
            yield _edit(desk, said, "copy level", change, s.name, "a new level", worth)


def _edit(
    desk: Desk,
    words: str,
    called: str,
    change: partial[Project],
    name: Name,
    does: str,
    worth: float = 0.0,
) -> Offer:
    """An edit that shows what it changed."""

    def act() -> None:
        if desk.edit(called, change):
            desk.select(name)
            desk.say(f"{words}: done. Ctrl+Z takes it back.")

    return Offer(words, "as typed", act, "", does, READ + worth)


# -- sizes and spacings -------------------------------------------------------

SIZE: Final = re.compile(r"(?<![\w.])(\d+)\s*[x×*]\s*(\d+)(?![\w.])")
AT: Final = re.compile(
    r"(?:\bat|@|\bevery)\s*([^a-z@]*\d[^a-z@]*(?:mm|cm|m|inches|inch|in)?)\b", re.I
)
OF_ROOFS: Final = ("rafter", "rafters", "roof", "truss", "trusses")
OF_FLOORS: Final = ("joist", "joists", "floor")


def _sizes(desk: Desk, text: str) -> Iterator[Offer]:
    """“2x10 at 12”, “rafters 2x8 @ 24”, “floor 2 45x220 at 400”."""
    found = SIZE.search(text)
    if found is None:
        return
    section = _section_like(desk, float(found[1]), float(found[2]))
    rest = text[: found.start()] + " " + text[found.end() :]
    at = AT.search(rest)
    spacing = _length(desk, at[1]) if at else None
    words = AT.sub(" ", rest).strip()
    for host in _hosts(desk, words):
        yield _held(desk, host, section, spacing)


TWO_SIZES: Final = re.compile(
    r"(?P<words>[a-z ]+?)\s+(?P<a>[\d.,/'\"½¼¾⅛⅜⅝⅞ -]+?)\s*(?:x|×|by)\s*(?P<b>[\d.,/'\"½¼¾⅛⅜⅝⅞ -]+)",
    re.IGNORECASE,
)


def _holes(desk: Desk, text: str) -> Iterator[Offer]:
    """“stair 10' x 3'”, “door 3' x 6'-8”: the tool, set to a size."""
    found = TWO_SIZES.fullmatch(text)
    if found is None:
        return
    a, b = _length(desk, found["a"]), _length(desk, found["b"])
    typed = asked_of(found["words"])
    for preset in PRESETS if a and b else ():
        field = {"Opening in floor": "hole_size", "Opening": "unit"}.get(preset.tool)
        if field and match(typed, tokens_of(preset.words), tokens_of(preset.means)) >= NAMED:
            kit = {**preset.kit, field: (a, b)}
            size = f"{found['a'].strip()} × {found['b'].strip()}"
            act = partial(begin_anywhere, desk, preset.tool, **kit)
            does = f"begins the tool {preset.tool} with that size"
            yield Offer(f"{preset.words} {size}", "as typed", act, "", does, READ + 0.1)


NAMED: Final = 0.75
"""Words that match this well name a tool."""


def _section_like(desk: Desk, breadth: float, depth: float) -> str:
    """The section of those sizes, or the one nearest to them."""
    known = {
        n: s for n, s in sections_of(desk.system, desk.project.products).items() if s.plies == 1
    }
    exact = f"{breadth:g}x{depth:g}"
    if exact in known:
        return exact

    def far(name: str) -> float:
        section = known[name]
        b, d = section.nominal if desk.system == "us" else (section.breadth, section.depth)
        return abs(b - breadth) / breadth + abs(d - depth) / depth

    return min(known, key=far)


def _spacings(desk: Desk, text: str) -> Iterator[Offer]:
    """“joists 12 in”, “rafters at 24”, “floor 2 joists @ 400”."""
    plain = re.sub(r"\s*\b(o\.?c\.?|on cent(re|er)s?|apart|centres|centers|spacing)\b\.?", "", text)
    plain = re.sub(r"@\s*", "at ", plain)
    for told in _ends_in_length(desk, plain):
        words = re.sub(r"\s*(\bat|\bto|\bevery|=|:)$", "", told.words.lower())
        those = {"joists", "rafters", "trusses"} & set(words.split())
        one = {"joist", "rafter", "truss"} & set(words.split()) and text != told_plainly(told, text)
        if (those or one) and 50.0 <= told.length <= WIDEST:
            for host in _hosts(desk, words):
                yield _held(desk, host, None, told.length)


def told_plainly(told: Told, text: str) -> str:
    """A sentence with nothing but words and a bare number: “joist 14” is a joist, “joist 14 in” a
    spacing."""
    number = text.split()[-1]
    return f"{told.words} {number}" if number.isdigit() else ""


def _length(desk: Desk, text: str) -> float | None:
    """A typed length, mm; None where it is none."""
    try:
        return parse_length(text, desk.system)
    except BalkenError:
        return None


def _hosts(desk: Desk, words: str) -> list[HostName]:
    """The floor, roof or beam that words name; else the one that is worked on, else the first."""
    typed = [t for t in words.lower().split() if t]
    plain = [t for t in typed if t not in (*OF_ROOFS, *OF_FLOORS, "use", "hold", "size")]
    named_ = named(desk, " ".join(typed), "floor", "roof", "beam") if plain else []
    if named_:
        return [as_host(named_[0].name)]
    project, tier = desk.project, desk.current_tier()
    chosen = desk.selection
    if chosen is not None and kind_of(chosen) in ("beam", "bay"):
        return [as_host(chosen)]
    floors = [HostName("floor", f.id) for f in project.floors]
    roofs = [HostName("roof", r.id) for r in project.roofs]
    of_roof, of_floor = (bool(set(typed) & set(group)) for group in (OF_ROOFS, OF_FLOORS))
    wanted = roofs if of_roof else floors if of_floor else [*floors, *roofs]
    tier_of_level = _floor_of_level(desk, typed, wanted)
    here = [h for h in wanted if tier is not None and tier.holds(h)]
    return (tier_of_level or here or wanted)[:1]


def _floor_of_level(desk: Desk, typed: list[str], wanted: list[HostName]) -> list[HostName]:
    """The floor on a level that is named, as in “floor 2 joists”."""
    plain = " ".join(t for t in typed if t not in ("joist", "joists"))
    keys = [as_thing(s.name).key for s in named(desk, plain, "level")]
    return [
        HostName("floor", f.id)
        for f in desk.project.floors
        if f.level in keys and HostName("floor", f.id) in wanted
    ]


def _held(desk: Desk, host: HostName, section: str | None, spacing: float | None) -> Offer:
    """Hold a section, a spacing, or both."""
    values: dict[str, object] = {} if section is None else {"section": section}
    if spacing is not None and host.kind != "beam":
        values["spacing"] = spacing
    parts = [pretty(section)] if section else []
    parts += [f"at {format_run(spacing, desk.system)}"] if spacing else []
    words = f"Hold {' '.join(parts)} in {_called(desk, host)}"
    sized = desk.checked.sizes.get(host)
    now = (
        f"{pretty(sized.size.section)} at {format_run(sized.size.spacing, desk.system)}"
        if sized
        else ""
    )

    def change(project: Project) -> Project:
        if host.kind in ("beam", "bay"):
            return set_beams(project, hosts=(host,), **values)
        edit = set_floor if host.kind == "floor" else set_roof
        return edit(project, host.key, **values)

    return _edit(
        desk, words, f"hold {' '.join(parts)}", partial(change), host, f"from {now}" if now else ""
    )


def _called(desk: Desk, host: HostName) -> str:
    tier = desk.tier_of(host)
    floors = {HostName("floor", f.id): f.name for f in desk.project.floors}
    roofs = {HostName("roof", r.id): f"roof {r.name}" for r in desk.project.roofs}
    return floors.get(host) or roofs.get(host) or (tier.name if tier else host.key)


# -- verbs and names ----------------------------------------------------------

VERBS: Final = {
    "delete": "Take away",
    "remove": "Take away",
    "erase": "Take away",
    "hide": "Hide",
    "lock": "Lock",
    "only": "Show only",
    "isolate": "Show only",
    "select": "Select",
    "go": "Go to",
    "goto": "Go to",
    "find": "Go to",
    "show": "Go to",
    "open": "Go to",
}
"""What people say first, and what it comes to."""
KINDS: Final = {
    "roof": ("roof",),
    "floor": ("floor",),
    "foundation": ("run",),
    "footing": ("run",),
    "wall": ("wall",),
    "beam": ("beam", "bay"),
    "post": ("support",),
    "pad": ("support",),
    "grid": ("grid",),
    "level": ("level",),
}
"""Kinds of things by the word that names all of them."""
MOST_NAMED: Final = 6


def _verbs(desk: Desk, text: str) -> Iterator[Offer]:
    """“delete beam B2”, “go to floor 2”, “hide roof”."""
    plain = re.sub(r"^take away\b", "delete", text.lower())
    verb, _, rest = plain.partition(" ")
    rest = re.sub(r"^(to|the)\s+", "", rest)
    if verb not in VERBS or not rest:
        return
    does, typed = VERBS[verb], tokens_of(rest)
    kinds = KINDS.get(stem(typed[0]), ()) if len(typed) == 1 else ()
    all_of = [s for s in subjects(desk) if kind_of(s.name) in kinds]
    if does in SEEN and all_of:
        names = frozenset(s.name for s in all_of)
        yield Offer(
            f"{does} all {stem(typed[0])}s",
            "as typed",
            partial(SEEN[does], desk, names),
            worth=READ,
        )
        return
    for s in (named(desk, rest) or all_of)[:MOST_NAMED]:
        yield _done_to(desk, does, s)


def _done_to(desk: Desk, does: str, s: Subject) -> Offer:
    if does == "Take away":
        act = partial(_take_away, desk, s.name)
        return Offer(f"Take away {s.words}", "as typed", act, "", "Ctrl+Z brings it back", READ)
    if does in SEEN:
        act = partial(SEEN[does], desk, frozenset([s.name]))
        return Offer(f"{does} {s.words}", "as typed", act, "", "", READ)
    act = partial(desk.select, s.name)
    return Offer(f"{does} {s.words}", s.kind, act, "", "shows its slip", READ - 1.0)


SEEN: Final = {"Hide": sight.hide_these, "Lock": sight.lock_these, "Show only": sight.show_only}
"""What is done to what is seen."""


def _take_away(desk: Desk, name: Name) -> None:
    desk.select(name)
    if desk.selection is None:  # the one floor or roof of its tier
        desk.selected = (name,)
    acts.take_away_selected(desk)


def _renames(desk: Desk, text: str) -> Iterator[Offer]:
    """“rename grid 2 to 2a”, “rename floor 2 to Attic”, “rename grid”."""
    found = re.match(r"(?:rename|relabel|call|label)\s+(.+)", text, re.IGNORECASE)
    if found is None:
        return
    old, to, new = found[1].partition(" to ")
    if not to:
        old, _, new = found[1].rpartition(" ")
    for s in named(desk, old, "grid", "level", "wall")[:3] if new and old else ():
        yield _renamed(desk, s, new.strip())
    typed = tokens_of(found[1])
    kinds = KINDS.get(stem(typed[0]), ()) if typed else ()
    first = [s for s in subjects(desk) if kind_of(s.name) in kinds][:1]
    for s in named(desk, found[1])[:3] or first:
        field = "label" if kind_of(s.name) == "grid" else "name"
        act = partial(_to_name, desk, s.name, field)
        yield Offer(
            f"Rename {s.words}", s.kind, act, "", "goes to its name in the slip", READ - 0.5
        )


def _to_name(desk: Desk, name: Name, field: str) -> None:
    desk.select(name)
    desk.face.to_field(field)


def _renamed(desk: Desk, s: Subject, new: str) -> Offer:
    kind = kind_of(s.name)
    if kind == "grid":
        of = as_thing(s.name)
        change = partial(label_line, key=of.key, line=of.part, label=new)
        now = _line_of(desk, s.name).label
    elif kind == "level":
        change = partial(rename_level, key=as_thing(s.name).key, name=new)
        now = level(desk.project, as_thing(s.name).key).name
    else:
        key = as_host(s.name).key
        change = partial(set_walls, keys=(key,), name=new)
        now = called(wall(desk.project, key))
    return _edit(
        desk, f"Rename {s.words} to {new}", "rename", change, s.name, f"from {now} to {new}"
    )
