"""What can be done: the commands of now, and the tools of every tier with what they can be set
to."""

from collections.abc import Iterator
from functools import partial
from typing import Any, NamedTuple

from balken.session import acts, files, mending, sight
from balken.session.commands import commands
from balken.session.desk import Desk, page
from balken.session.recent import recent
from balken.session.search.offer import Offer
from balken.session.toolbox import CHANGING, PLACING, TOOLS

TIER_WORDS = {
    "walls": "the walls of a storey",
    "floor": "a floor",
    "ground": "the foundation",
    "roof": "a roof",
}
WHERE_FROM = {
    "floor": "There is no floor yet: place one first (Shift+F in the walls of a storey).",
    "roof": "There is no roof yet: place one first (Shift+R in the walls of a storey).",
    "walls": "There are no levels for walls yet: add two (Shift+L).",
    "ground": "There is nothing in the ground yet: place a foundation first (G).",
}
"""What is said where a tool has no tier to work in."""


class Preset(NamedTuple):
    """A tool set to something of its own name."""

    words: str
    tool: str
    means: str
    kit: dict[str, Any]


PRESETS = (
    Preset("Stair opening", "Opening in floor", "stairs staircase", {"hole": "stair"}),
    Preset("Shaft", "Opening in floor", "duct chase services opening", {"hole": "shaft"}),
    Preset("Chimney opening", "Opening in floor", "flue fireplace", {"hole": "chimney"}),
    Preset("Open space in floor", "Opening in floor", "atrium double height", {"hole": "atrium"}),
    Preset("Door", "Opening", "new doorway", {"opening": "door", "unit": (0.0, 0.0)}),
    Preset("Window", "Opening", "new glazing", {"opening": "window", "unit": (0.0, 0.0)}),
    Preset("Post", "Posts, pads", "new column", {"support": "post", "taking": False}),
    Preset("Pad footing", "Posts, pads", "spread isolated", {"support": "pad", "taking": False}),
    Preset("Pier", "Posts, pads", "new pile", {"support": "pier", "taking": False}),
    Preset("Strip footing", "Foundation", "stem-wall crawl space", {"foundation": "strip"}),
    Preset("Basement", "Foundation", "full cellar walls", {"foundation": "basement"}),
    Preset("Slab on grade", "Foundation", "ground slab concrete", {"foundation": "slab"}),
    Preset("Slab edge", "Foundation", "thickened monolithic", {"foundation": "slab edge"}),
    Preset("Grade beam", "Foundation", "tie", {"foundation": "grade beam"}),
    Preset("Rectangle of walls", "Wall", "room box four new", {"shape": "rectangle"}),
    Preset("Curved wall", "Wall", "round arc bow new", {"shape": "arc"}),
)


def acts_of(desk: Desk) -> Iterator[Offer]:
    """Everything that can be done, in whatever tier."""
    now = commands(desk)
    there = {c.words for c in now}
    for command in now:
        yield Offer(command.words, command.key, command.act, command.means, worth=0.03)
    for preset in PRESETS:
        yield _of_preset(desk, preset)
    for tool in PLACING:
        if tool.name not in there:
            act = partial(begin_anywhere, desk, tool.name)
            where = " or ".join(TIER_WORDS[t] for t in tool.tiers)
            yield Offer(tool.name, tool.key, act, tool.means, f"goes to {where} and begins")
    for tool in CHANGING:
        if tool.name not in there:
            kinds = " or ".join(desk.things[k].word for k in tool.changes)
            say = partial(desk.say, f"{tool.name}: choose a {kinds} first, then press {tool.key}.")
            yield Offer(tool.name, tool.key, say, tool.means, f"asks for a {kinds} first")
    yield from _others(desk, there)


def _of_preset(desk: Desk, preset: Preset) -> Offer:
    tool = TOOLS[preset.tool]
    act = partial(begin_anywhere, desk, preset.tool, **preset.kit)
    return Offer(
        preset.words, tool.key, act, preset.means, f"begins the tool {tool.name}", worth=0.02
    )


def begin_anywhere(desk: Desk, name: str, **kit: Any) -> None:
    """Begin a tool, in a tier it belongs to; what it places is set first."""
    tool, tier = TOOLS[name], desk.current_tier()
    if tool.tiers and (tier is None or tier.kind not in tool.tiers):
        fits = [t for t in desk.tiers if t.kind in tool.tiers]
        if not fits:
            desk.say(WHERE_FROM[tool.tiers[0]])
            return
        desk.work_in(fits[-1 if tool.tiers[0] == "floor" else 0].id)
    desk.leave_tool()
    if kit:
        desk.set_kit(**kit)
    desk.start(name)


HINTS = (
    ("Sill height", "Choose a door or window: its sill is typed in its slip.", "window sill"),
    (
        "Door or window size",
        "Choose a door or window: its width and height are typed in its slip.",
        "rough opening width height",
    ),
    ("Wall height", "Choose a wall: the levels it stands on and reaches are in its slip.", "top"),
    ("Wall thickness", "Choose a wall: what it is built up of is in its slip.", "layers"),
    ("Wall length", "Choose a wall: its length is typed in its slip.", ""),
    ("Post size", "Choose a post: its section is in its slip.", "column section"),
    (
        "Typed loads",
        "Loads are drawn with the tool Load (Shift+D), and typed on a beam, a post, a pad or a"
        " foundation: choose one.",
        "load point line area loads",
    ),
    (
        "Stud spacing",
        "Studs are not framed yet: walls carry, and are drawn by their layers.",
        "studs wall framing",
    ),
    (
        "Wind and earthquake",
        "Wind and earthquake are typed under Site, in the slip of the foundation; what they ask of a"
        " wall is in the wall’s slip.",
        "lateral sideways seismic bracing shear uplift storm speed exposure",
    ),
    (
        "Bars in concrete",
        "Bars are not drawn yet: the checks of a footing say which are needed.",
        "rebar reinforcement reinforcing steel",
    ),
    (
        "Units",
        "A building is in feet and inches or in metres from its beginning: New building.",
        "metric imperial feet millimetres",
    ),
    (
        "Checks and calculation",
        "Choose a member: its checks are bars in its slip; click a bar.",
        "calculation utilisation deflection reactions why worst",
    ),
    (
        "Ground surface",
        "Heights of the ground are read from CSV, surveyed, or typed point by point.",
        "contours terrain slope topography",
    ),
)
"""What people look for that is found elsewhere, or is not there yet: what is said of it."""


def _others(desk: Desk, there: set[str]) -> Iterator[Offer]:
    """What people look for by other names, or where it cannot be done now."""
    yield Offer("New building", "", partial(files.new_building, desk), "empty project start")
    yield Offer("Close", "Ctrl+Q", partial(desk.face.panel, "close"), "quit exit")
    yield Offer(
        "Cost", "page", partial(desk.select, page("cost")), "price estimate budget total lumber"
    )
    yield Offer(
        "Mend the next finding",
        "",
        partial(_mend_next, desk),
        "fix repair solve problem error",
        "shows what its mend would do",
    )
    for path in recent():
        opened = partial(files.open_any, desk, path)
        yield Offer(
            f"Open {path.name}", "recent", opened, "recent file", f"opens {path}", worth=-0.02
        )
    for words, says, means in HINTS:
        yield Offer(words, "", partial(desk.say, says), means, says, worth=-0.06)
    if "Take away" not in there:
        away = "Choose what is to be taken away first, then press Del."
        yield Offer(
            "Take away", "Del", partial(desk.say, away), "delete remove", "asks for a thing"
        )
    for words, act, means in (
        ("Hide", sight.hide_selected, "conceal"),
        ("Only this", sight.show_only_selected, "isolate"),
        ("Lock", sight.lock_selected, "freeze"),
        ("All alike", sight.select_alike, "select same similar"),
    ):
        if words not in there:
            say = partial(desk.say, f"{words}: choose something first.")
            yield Offer(words, "", say if not desk.selected else partial(act, desk), means)
    if "Hip or gable" not in there:
        yield Offer(
            "Gable roof: a side from hip to gable",
            "Y",
            partial(_to_side, desk),
            "hip gable end gabled",
            "shows the sides of the roof, each to be a hip or a gable",
        )
    for words, kind in (("Turn joists", "floor"), ("Turn ridge", "roof")):
        if words not in there:
            act = partial(_turn, desk, kind)
            yield Offer(words, "T", act, "rotate span direction", f"goes to the {kind}")
    for words, by in (("Steeper", 1.0), ("Flatter", -1.0)):
        if words not in there and desk.project.roofs:
            yield Offer(
                f"{words} roof", "", partial(_steeper, desk, by), "pitch", "goes to the roof"
            )


def _mend_next(desk: Desk) -> None:
    found = desk.as_it_is().findings
    row = next((i for i, f in enumerate(found) if f.mend and f.kind != "fault"), None)
    if row is None:
        desk.say("No finding has a mend of its own.")
        return
    mending.look(desk, row)
    mending.mend(desk, row)


def _to_roof(desk: Desk) -> bool:
    tiers = [t for t in desk.tiers if t.kind == "roof"]
    if not tiers:
        desk.say(WHERE_FROM["roof"])
        return False
    desk.work_in(tiers[0].id)
    return True


def _turn(desk: Desk, kind: str) -> None:
    """Turn the joists of the first floor, or the ridge of the first roof."""
    tier = next((t for t in desk.tiers if t.kind == kind), None)
    if tier is None or tier.host is None:
        desk.say(WHERE_FROM[kind])
        return
    desk.work_in(tier.id)
    acts.turn(desk, tier.host)


def _to_side(desk: Desk) -> None:
    if _to_roof(desk):
        desk.say("Choose a side under “Sides”, or click an eave: each is a hip or a gable.")


def _steeper(desk: Desk, by: float) -> None:
    if _to_roof(desk):
        acts.steeper(desk, by)
