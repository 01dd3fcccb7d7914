"""Everything that can be done at the desk, by key and by name."""

from collections.abc import Callable, Iterator
from functools import partial
from typing import NamedTuple

from balken.model.names import ThingName, hosts_in, keys_of, kind_of
from balken.session import acts, files, mending, others, setting, sight, toolbox, whole
from balken.session.desk import Desk, page
from balken.session.things import groups, stud_rows
from balken.session.things.variants import ask_for_variants


class Command(NamedTuple):
    """Something to do: what it is called, its key, the doing, and other words for it."""

    words: str
    key: str
    act: Callable[[], object]
    means: str = ""


def commands(desk: Desk) -> list[Command]:
    """Everything that can be done now."""
    return [
        *undoing(desk),
        *filing(desk),
        *looking(desk),
        *_other_files(desk),
        *_written_alone(desk),
        *_views(desk),
        *_folding(desk),
        *_selecting(desk),
        *_pages(desk),
        *changing(desk),
        *about_selected(desk),
        *placing(desk),
        *_by_role(desk),
    ]


def undoing(desk: Desk) -> list[Command]:
    """Taking back and doing again."""
    return [
        Command("Undo", "Ctrl+Z", desk.undo, "take back"),
        Command("Redo", "Ctrl+Y", desk.redo, "do again"),
    ]


def filing(desk: Desk) -> list[Command]:
    """What is always wanted of files."""
    return [
        Command(
            "Open",
            "Ctrl+O",
            partial(files.ask_for_file, desk),
            "project architect’s file import ifc",
        ),
        Command("Save", "Ctrl+S", partial(files.save, desk)),
        Command(
            "Issue",
            "Ctrl+E",
            partial(files.ask_where_to_issue, desk),
            "write sheets, cutting list and structure: export print pdf dxf ifc csv xlsx excel"
            " report takeoff",
        ),
    ]


def _written_alone(desk: Desk) -> list[Command]:
    """Single parts of a set, and what is written on request only."""
    write = files.ask_where_to_write
    return [
        Command(
            "Write the structure (IFC4)", "", partial(write, desk, "ifc"), "export ifc openbim"
        ),
        Command(
            "Write the structure (IFC2X3)",
            "",
            partial(write, desk, "ifc", "IFC2X3"),
            "export older ifc",
        ),
        Command(
            "Write the structure to be looked at (glTF)",
            "",
            partial(write, desk, "gltf"),
            "export glb gltf viewer model mesh",
        ),
        Command(
            "Write plans by layer (DXF)",
            "",
            partial(write, desk, "plans"),
            "export dxf cad layers underlay",
        ),
        Command(
            "Write bars, supports and loads (CSV)",
            "",
            partial(write, desk, "analysis"),
            "export analysis model nodes members frame program",
        ),
    ]


def looking(desk: Desk) -> list[Command]:
    """What is always wanted of looking."""
    return [
        Command("Measure", "M", partial(desk.start, "Measure"), toolbox.MEASURE.means),
        Command("Fit in view", "F", desk.face.fit, "zoom all, show everything"),
        Command(
            "Next finding", "N", partial(mending.next_finding, desk), "problem error wrong fit list"
        ),
        Command("Spans", "Ctrl+K", partial(desk.face.panel, "spans"), "quick spans, span table"),
    ]


def _other_files(desk: Desk) -> list[Command]:
    return [
        Command("Redo", "Ctrl+Shift+Z", desk.redo),
        Command("Save as", "Ctrl+Shift+S", partial(files.save_as, desk)),
        Command(
            "Print", "Ctrl+P", partial(desk.face.panel, "print"), "paper sheets plot half size"
        ),
        Command(
            "Begin with a template",
            "",
            partial(files.new_from_template, desk),
            "new from template office standard",
        ),
        Command(
            "Save as a template",
            "",
            partial(files.save_template, desk),
            "levels build-ups title block office standard",
        ),
        Command("Open the demo building", "", partial(files.open_demo, desk)),
        Command(
            "Open the second demo building: the ferry hall",
            "",
            partial(files.open_ferry_hall, desk),
        ),
        Command(
            "Background drawing (DXF)", "", partial(others.ask_for_drawing, desk), "trace underlay"
        ),
        Command("Heights of the ground (CSV)", "", partial(others.ask_for_heights, desk)),
        Command(
            "Survey the ground with the simulated instrument",
            "",
            partial(others.survey_ground, desk),
        ),
        Command(
            "New version of the architect’s file", "", partial(others.ask_for_new_version, desk)
        ),
    ]


def _views(desk: Desk) -> list[Command]:
    face = desk.face
    return [
        Command("Light or dark", "Ctrl+D", face.change_theme, "theme colours night"),
        Command("Find or do", "Ctrl+F", partial(face.panel, "find"), "search"),
        Command("Find or do", "/", partial(face.panel, "find")),
        Command("Plan", "1", partial(desk.show_view, "plan"), "2d plan view layout"),
        Command("In space", "2", partial(desk.show_view, "space"), "3d view model perspective"),
        Command(
            "Reserve map",
            "Shift+M",
            desk.turn_reserve,
            "utilisation map unity check stress ratio heat map how far used capacity worst",
        ),
        Command(
            "Calculation book",
            "Shift+C",
            desk.show_book,
            "calculations checks report pdf structural analysis print proof",
        ),
        Command(
            "Paper", "3", partial(desk.show_view, "paper"), "sheets sheet set drawings preview"
        ),
        Command(
            "Upright views",
            "4",
            partial(desk.show_view, "upright"),
            "elevation elevations section facade side view north south east west",
        ),
        Command(
            "Lists",
            "5",
            desk.turn_lists,
            "schedules takeoff take-off quantities cutting list cut list boards order material bill table",
        ),
        Command("Zoom in", "Ctrl++", partial(face.zoom, 1.25), "larger"),
        Command("Zoom in", "Ctrl+=", partial(face.zoom, 1.25)),
        Command("Zoom out", "Ctrl+-", partial(face.zoom, 0.8), "smaller"),
        Command("Next piece", ".", partial(sight.step_piece, desk, 1), "step member joist"),
        Command("Piece before", ",", partial(sight.step_piece, desk, -1), "previous member"),
        Command("Next tier up", "PgUp", partial(desk.next_tier, 1)),
        Command("Next tier down", "PgDown", partial(desk.next_tier, -1)),
    ]


def _folding(desk: Desk) -> list[Command]:
    """Parts of the desk that make room for the board."""
    return [
        Command(
            "Keys of what is at hand",
            "F1",
            partial(desk.face.panel, "keys"),
            "help manual shortcuts",
        ),
        Command("Keys of what is at hand", "?", partial(desk.face.panel, "keys")),
        Command("Fold the ladder", "F2", partial(desk.fold, "ladder"), "hide panel levels"),
        Command("Fold the tools", "F3", partial(desk.fold, "strip"), "hide panel palette"),
        Command("Fold the slip", "F4", partial(desk.fold, "slip"), "hide panel properties"),
        Command("Fold the fit list", "F5", partial(desk.fold, "fit list"), "hide panel findings"),
        Command("Keys to the next part", "F6", partial(desk.face.panel, "next"), "focus panel"),
        Command("What can be done here", "Shift+F10", partial(desk.face.panel, "menu"), "menu"),
    ]


def _selecting(desk: Desk) -> list[Command]:
    all_of = partial(sight.select_all_of, desk)
    return [
        Command("Select everything on this plan", "Ctrl+A", partial(sight.select_whole_tier, desk)),
        Command("Select all walls here", "", partial(all_of, "wall")),
        Command("Select all doors and windows here", "", partial(all_of, "opening")),
        Command("Select all posts, pads and piers", "", partial(all_of, "support")),
        Command("Select all grid lines", "", partial(all_of, "grid")),
        Command(
            "Show everything, unlock",
            "Ctrl+Shift+H",
            partial(sight.show_everything, desk),
            "unhide reveal show hidden",
        ),
        Command("Hide everything of this tier", "", partial(sight.hide_tier, desk)),
        Command("Show only this tier", "", partial(sight.show_only_tier, desk)),
        Command("Lock everything of this tier", "", partial(sight.lock_tier, desk)),
        Command("Paste", "Ctrl+V", partial(sight.paste, desk)),
    ]


def _pages(desk: Desk) -> list[Command]:
    def to(title: str) -> Callable[[], object]:
        return partial(desk.select, page(title))

    return [
        Command("Levels: add one", "Shift+L", partial(acts.add_storey_level, desk), "new storey"),
        Command("Changed by hand", "", to("by hand")),
        Command("Products: values typed from their maker", "", to("products")),
        Command("Wall build-ups", "", to("build-ups"), "wall types layers"),
        Command(
            "Copy this storey’s walls to another level",
            "",
            lambda: desk.select(ThingName("storey", desk.base)),
        ),
        Command("Bring block walls onto the module", "", to("module"), "masonry"),
        Command("Ground and drawings of others", "", to("sources")),
        Command(
            "Sheets: paper, title block, notes, revisions",
            "",
            to("sheets"),
            "set of sheets, drawing set, title block, general notes, revision, section lines, paper size",
        ),
        Command(
            "Stock: lengths sold, kerf, offcuts; refine the boards",
            "",
            to("cutting"),
            "stock lengths saw waste boards optimise nesting",
        ),
        Command(
            "Set the building: next step",
            "Alt+.",
            partial(setting.look_at_step, desk, 1),
            "order of setting erection sequence step by step construction phase",
        ),
        Command("Set the building: step before", "Alt+,", partial(setting.look_at_step, desk, -1)),
        Command(
            "Catalogue: products, prices, build-ups as files",
            "",
            to("catalogue"),
            "library import export json csv price list",
        ),
        Command("Cost, prices, carbon", "", to("cost"), "estimate price list wage labour currency"),
        Command(
            "Fasteners",
            "",
            to("fasteners"),
            "hangers straps hold-downs anchors nails screws connectors demands capacity",
        ),
        Command("What did not come in", "", to("unread"), "left out unread notes"),
        Command(
            "Frame the stud walls",
            "Shift+T",
            partial(stud_rows.frame_all, desk),
            "studs plates headers jacks kings cripples wall framing frame walls",
        ),
        Command(
            "Leave walls unframed",
            "",
            partial(stud_rows.frame_none, desk),
            "no studs take frames away",
        ),
        Command(
            "Size beams, posts and pads in groups",
            "",
            partial(groups.make_groups, desk),
            "group by rule same size one size alike levels lines",
        ),
        Command(
            "Size every beam, post and pad alone",
            "",
            partial(groups.undo_groups, desk),
            "ungroup no groups",
        ),
        Command(
            "Size the whole building",
            "Ctrl+G",
            partial(whole.size_the_building, desk),
            "size everything, all sizes, roof to footing, settle, optimise",
        ),
        Command(
            "Variants of the whole building",
            "Shift+V",
            partial(ask_for_variants, desk),
            "what if compare options spacing grade depth cost alternatives",
        ),
        Command(
            "Versions: keep one, compare, take back",
            "",
            to("versions"),
            "history backup copy difference diff compare versions earlier",
        ),
        Command("What sizing changed", "", partial(desk.select, page("sized")), "size report"),
        Command("Recent files", "Ctrl+R", to("recent"), "lately history last open"),
    ]


def _by_role(desk: Desk) -> Iterator[Command]:
    for role in sight.roles_here(desk):
        yield Command(f"Hide all {role}s", "", partial(sight.hide_kind, desk, role))
        yield Command(f"Lock all {role}s", "", partial(sight.lock_kind, desk, role))


def changing(desk: Desk) -> list[Command]:
    """The tools that change what is selected."""
    return [_command_of(desk, t) for t in toolbox.changing_of(desk.selected)]


def _command_of(desk: Desk, tool: toolbox.ToolKind) -> Command:
    return Command(tool.name, tool.key, partial(desk.start, tool.name), tool.means)


def about_selected(desk: Desk) -> list[Command]:
    """What can be done with what is selected, whatever it is."""
    kind = kind_of(desk.selection) if desk.selection else ""
    away = Command("Take away", "Del", partial(acts.take_away_selected, desk), "delete remove")
    if kind == "side":
        return [Command("Hip or gable", "Y", partial(acts.hip_to_gable, desk))]
    if kind in ("skylight", "level", "load", "section", "note", "dimension", "cloud"):
        return [away]
    if kind in ("step", "run") and desk.member() is None:
        return [away._replace(words="Let it go") if kind == "step" else away]
    if desk.selected and (desk.member() is not None or _can_be_hidden(desk)):
        return [*_of_walls(desk), *_of_any(desk), away, *_of_clip(desk)]
    return []


def _can_be_hidden(desk: Desk) -> bool:
    kinds = ("wall", "opening", "grid", "support", "hole", "floor")
    return any(kind_of(k) in kinds for k in desk.selected)


def _of_walls(desk: Desk) -> list[Command]:
    walls = keys_of(desk.selected, "wall")
    flip = [Command("Flip", "X", partial(acts.flip, desk), "turn inside out")] if walls else []
    if len(walls) == 2:
        flip.append(Command("Join", "Shift+J", partial(acts.join, desk), "make one wall of two"))
    return flip


def _of_any(desk: Desk) -> list[Command]:
    return [
        Command("All alike", "Z", partial(sight.select_alike, desk), "select same"),
        Command("Hide", "H", partial(sight.hide_selected, desk)),
        Command("Only this", "D", partial(sight.show_only_selected, desk), "isolate"),
        Command("Lock", "", partial(sight.lock_selected, desk)),
    ]


def _of_clip(desk: Desk) -> list[Command]:
    if not hosts_in(desk.selected, "wall", "support"):
        return []
    return [Command("Clip", "Ctrl+C", partial(sight.copy_selected, desk), "clipboard copy")]


def placing(desk: Desk) -> list[Command]:
    """What can be placed or changed in this tier."""
    tier = desk.current_tier()
    tools = toolbox.placing_in(tier.kind if tier else "")
    return [*(_command_of(desk, t) for t in tools), *_missing(desk), *_of_tier(desk)]


def _missing(desk: Desk) -> list[Command]:
    """First structure, where there is none yet."""
    project = desk.project
    found = []
    if not project.runs:
        first = partial(acts.place_missing, desk, "foundation")
        found.append(Command("First foundation", "Shift+G", first))
    floors = [x for x in project.levels if x.role == "floor"]
    storeys = sum(any(wall.base == x.id for wall in project.walls) for x in floors)
    if len(project.floors) < storeys + 1:
        found.append(Command("Joist floors", "J", partial(acts.place_missing, desk, "floors")))
    if not project.roofs:
        found.append(Command("First roof", "R", partial(acts.place_missing, desk, "roof")))
    return found


def _of_tier(desk: Desk) -> list[Command]:
    """What can be done with the floor or roof of the tier."""
    tier = desk.current_tier()
    if tier is None:
        return []
    found = []
    if tier.host and tier.kind in ("floor", "ceiling"):
        found.append(Command("Turn joists", "T", partial(acts.turn, desk, tier.host)))
    if tier.host and tier.kind == "roof":
        found += [
            Command("Turn ridge", "T", partial(acts.turn, desk, tier.host)),
            Command("Steeper", "+", partial(acts.steeper, desk, 1.0), "pitch"),
            Command("Flatter", "-", partial(acts.steeper, desk, -1.0), "pitch"),
        ]
    if tier.kind != "walls" and not desk.selected:
        found.append(Command("Take away", "Del", partial(acts.take_away_selected, desk)))
    return found
