"""A foundation: one with its parts, all of them, and how it follows the ground."""

from collections.abc import Callable
from functools import partial
from typing import Any

from balken.drawing.figure import figure
from balken.drawing.foundation_figure import run_figure
from balken.drawing.foundation_words import sizes_of
from balken.fit.finding import us_clause
from balken.framing.ground.anchors import APART, EMBEDDED
from balken.framing.hosts.runs import heights_of
from balken.model.cases import CASE_NAMES, CASE_WORDS
from balken.model.edits import set_run, set_site
from balken.model.foundations import KIND_WORDS, WITH_STEM, FoundationRun, StepRule
from balken.model.names import HostName, whole
from balken.model.project import column
from balken.model.walls import called
from balken.session.desk import Desk, Thing
from balken.session.rows import (
    Button,
    Checks,
    Fact,
    Field,
    Figure,
    Heading,
    Line,
    Link,
    Options,
    Rows,
    Title,
)
from balken.session.things.members import alike_members, called_member, slip_or, take_away, tier_of
from balken.session.things.run_tops import shelves
from balken.session.things.site import points, site
from balken.session.things.typed_loads import typed_loads
from balken.units import format_force, format_length, format_run, parse_length
from balken.units.quantity import format_volume
from balken.works.building import checks_of, worst_of
from balken.works.strips import proposed_width


def all_runs(desk: Desk) -> Rows:
    """The foundations of a building: the one there is, or the list of them."""
    runs = desk.project.runs
    if len(runs) == 1:
        yield from _one(desk, runs[0].id)
        return
    system = desk.system
    yield Title("Foundation", "")
    structure = desk.checked.structure
    volume = sum(structure.volume(m) for m in structure.members if m.material == "concrete")
    yield Line(
        f"{len(runs)} foundations · {format_volume(volume, system)} of concrete, counted once"
    )
    for run in runs:
        yield Link(run.name, KIND_WORDS[run.kind], partial(desk.select, HostName("run", run.id)))
        yield Line(sizes_of(run, desk.project), quiet=True, small=True)
    yield from _into_soil(desk)
    yield from site(desk)
    yield from points(desk)


def _one(desk: Desk, key: str) -> Rows:
    project, checked = desk.project, desk.checked
    system = project.system
    run = next((r for r in project.runs if r.id == key), None)
    if run is None:
        return
    mine = [m for m in checked.structure.members if m.host == HostName("run", key)]
    if len(project.runs) > 1:
        yield Title(run.name, KIND_WORDS[run.kind])
    else:
        yield Title("Foundation", run.name)
    volume = sum(checked.structure.volume(m) for m in mine if m.material == "concrete")
    yield Line(
        f"{sizes_of(run, project).capitalize()} · {format_volume(volume, system)} of concrete"
    )
    bottom, base, _, _ = heights_of(project, run)
    yield Figure(run_figure(project, run, base - bottom))
    _, _, name = worst_of(checked, HostName("run", run.id))
    worst = next((m for m in mine if m.id == name), None)
    if worst:
        words = {"footing": "Most pressed footing", "stem": "Most pressed wall"}
        yield Heading(words.get(worst.role, "Most used"), worst.mark)
        yield Figure(figure(checked, worst))
        yield Checks(checks_of(checked, worst))
    if run.kind in WITH_STEM:
        yield from _proposal(desk, run)
    yield from _into_soil(desk)
    anchors = sum(
        len(b.at) for k, b in checked.structure.bolts.items() if k.host == HostName("run", key)
    )
    if anchors:
        yield Fact(
            "anchors",
            f"{anchors} bolts {format_run(run.bolt, system)}, {format_length(EMBEDDED, system)}"
            " into the concrete",
        )
    yield from _parts(desk, run)
    if run.kind in WITH_STEM:
        yield from _following(desk, run)
        yield from shelves(desk, run)
    yield from typed_loads(desk, run)
    yield from site(desk)


def _into_soil(desk: Desk) -> Rows:
    system = desk.system
    yield Heading("Into the soil")
    for case, force in zip(CASE_NAMES, desk.checked.path.soil_total):
        yield Fact(CASE_WORDS[case], format_force(force, system))


def _proposal(desk: Desk, run: FoundationRun) -> Rows:
    checked = desk.checked
    system = checked.project.system
    wanted = proposed_width(checked.project, checked.structure, checked.path, run)
    if wanted is None or abs(wanted.size - run.footing_width) < 0.5:
        return
    yield Line(f"{format_run(wanted.size, system)} would do: {wanted.why}.", quiet=True, small=True)
    yield Button(
        f"Make the footing {format_run(wanted.size, system)} wide",
        lambda: desk.edit(
            "width of the footing",
            partial(set_run, key=run.id, footing_width=round(wanted.size, 6)),
        ),
    )


def _parts(desk: Desk, run: FoundationRun) -> Rows:
    project = desk.project
    system = project.system
    yield Heading("Sizes")

    def field(name: str, key: str, *, negative: bool = False, value: float | None = None) -> Rows:
        def change(text: str) -> object:
            size = parse_length(text, system, negative=negative)
            return desk.edit(key.replace("_", " "), lambda p: set_run(p, run.id, **{key: size}))

        yield Field(name, format_run(getattr(run, key) if value is None else value, system), change)

    levels = [(x.name, x.id) for x in reversed(column(project))]

    def level_of(name: str, key: str, *, empty: str = "") -> Rows:
        values = [(empty, ""), *levels] if empty else levels
        words = f"level of foundation {run.name}"
        yield Options(
            name,
            values,
            getattr(run, key),
            lambda v: desk.edit(words, lambda p: set_run(p, run.id, **{key: v})),
        )

    if run.kind in WITH_STEM:
        yield from level_of("wall begins at", "base")
        yield from level_of("wall ends at", "top")
        yield from level_of("footing under", "bottom")
        yield from field("footing width", "footing_width")
        bottom, base, _, _ = heights_of(project, run)
        yield from field("footing thickness", "footing_thickness", value=base - bottom)
        yield from field("footing moved out", "footing_shift", negative=True)
        yield from field("stem thickness", "stem_thickness")
        joints = [("flat", "flat"), ("keyed", "keyed"), ("doweled", "doweled")]
        yield Options(
            "joint",
            joints,
            run.joint,
            lambda v: desk.edit("joint", partial(set_run, key=run.id, joint=v)),
        )
    else:
        yield from level_of("top at", "top")
    if run.kind == "grade beam":
        yield Options(
            "bears on",
            [("the soil", False), ("piers under it", True)],
            run.on_piers,
            lambda v: desk.edit("what a beam bears on", partial(set_run, key=run.id, on_piers=v)),
        )
    if run.kind in ("basement", "slab", "slab edge"):
        yield from field("slab thickness", "slab_thickness")
        if run.kind == "basement":
            yield from level_of("slab at", "slab_level", empty="top of footing")
    if run.kind in ("slab edge", "grade beam"):
        word = "edge" if run.kind == "slab edge" else "beam"
        yield from field(f"{word} width", "edge_width")
        yield from field(f"{word} depth", "edge_depth")
    yield from field("face moved out", "offset", negative=True)
    yield from field("blinding under it", "blinding")
    sills = [("none", ""), *((s.replace("x", "×"), s) for s in sill_sections(project.system))]
    yield Options(
        "sill plate",
        sills,
        run.sill,
        lambda v: desk.edit("sill plate", partial(set_run, key=run.id, sill=v)),
    )
    if run.sill:
        yield from field("anchor bolts", "bolt")
        yield from _bolts_apart(desk, run)
    gasket = [("yes", True), ("no", False)]
    yield Options(
        "gasket under it",
        gasket,
        run.gasket,
        lambda v: desk.edit("gasket", partial(set_run, key=run.id, gasket=v)),
    )


def _bolts_apart(desk: Desk, run: FoundationRun) -> Rows:
    """A field for how far apart the bolts are; emptied, they go by the rule."""
    system = desk.system

    def change(text: str) -> object:
        apart = 0.0 if text.strip().lower() in ("", "by the rule") else parse_length(text, system)
        return desk.edit("anchor bolts", partial(set_run, key=run.id, bolts_apart=apart))

    shown = format_run(run.bolts_apart, system) if run.bolts_apart else "by the rule"
    yield Field("bolts apart", shown, change)
    if not run.bolts_apart:
        clause = us_clause(desk.project, "IRC R403.1.6")
        rule = f"The rule: {format_run(APART, system)} at most{clause}."
        yield Line(rule, quiet=True, small=True)


def sill_sections(system: str) -> tuple[str, ...]:
    """The plates sills are made of."""
    return ("2x4", "2x6", "2x8") if system == "us" else ("38x89", "38x140", "38x184")


def _following(desk: Desk, run: FoundationRun) -> Rows:
    project = desk.project
    system, structure = project.system, desk.checked.structure
    yield Heading("Following the ground")
    ways = [("in steps", "steps"), ("sloped, 1 in 10 at most", "slope"), ("level", "level")]
    yield Options(
        "footing",
        ways,
        run.follow,
        lambda v: desk.edit("follow the ground", partial(set_run, key=run.id, follow=v)),
    )
    mine = [s for s in structure.steps if s.run == run.id]
    names = {x.id: called(x) for x in project.walls}
    if run.follow == "steps":
        held = sum(s.held for s in mine)
        yield Line(
            f"{len(mine)} steps, {held} of them held. Drag one on the plan, or click it.",
            quiet=True,
            small=True,
        )
        for s in mine:
            words = (
                f"{format_run(abs(s.drop), system)} at"
                f" {format_length(s.at, system)}{', held' if s.held else ''}"
            )
            yield Link(names.get(whole(s.line), "path"), words, partial(desk.select, s.key))
        if held:
            yield Button(
                "Let all held steps go",
                lambda: desk.edit("let steps go", partial(set_run, key=run.id, steps=())),
            )
        rule = project.site.steps

        def rule_of(field: str) -> Callable[[str], object]:
            def change(text: str) -> object:
                sizes: dict[str, Any] = {f: getattr(rule, f) for f in ("module", "rise", "lap")}
                sizes[field] = parse_length(text, system)
                return desk.edit("rule of steps", partial(set_site, steps=StepRule(**sizes)))

            return change

        yield Field("rises by", format_run(rule.module, system), rule_of("module"))
        yield Field("at most", format_run(rule.rise, system), rule_of("rise"))
        yield Field("laps at least", format_run(rule.lap, system), rule_of("lap"))


RUN = Thing(
    "run",
    "foundation",
    slip_or(_one),
    called=called_member,
    tier=tier_of,
    alike=alike_members,
    take_away=take_away,
)
