"""How foundations stand to the height of the ground: clear above it, and below the frost."""

from collections.abc import Iterable
from functools import partial
from typing import NamedTuple

from balken.design.footing_loads import wall_over
from balken.fit.finding import Finding, Mend, length_text, run_text
from balken.fit.places import place_name
from balken.framing import kinds
from balken.framing.hosts.runs import sides_of
from balken.framing.member import Member
from balken.geometry.plane import TOUCH, Point, add, direction_or, dot, edges, left, sub
from balken.model.edits import move_level, set_run
from balken.model.edits.foundations import lower_footing
from balken.model.foundations import WITH_STEM, FoundationRun
from balken.model.names import HostName, whole
from balken.model.project import Project, level, levels_of
from balken.recall import remembered_piece
from balken.site.ground import Surface, ground_along
from balken.works.building import Checked


def frost_findings(
    checked: Checked, run: FoundationRun, surface: Surface | None, flat: float
) -> Iterable[Finding]:
    """Where a run stands too low over the ground, or bears too high over the frost.

    Args:
        checked: the building.
        run: the run.
        surface: the measured ground, where it was measured.
        flat: the ground's height where it was not, mm.
    """
    mine = [m for m in checked.structure.members if m.host == HostName("run", run.id)]
    yield from _clearance(checked, run, mine, surface, flat)
    yield from _frost(checked, run, mine, surface, flat)


def _ground_between(surface: Surface, a: Point, b: Point) -> list[tuple[float, Point | None]]:
    stations, heights = ground_along(surface, a, b)
    shares = [s / stations[-1] if stations[-1] else 0.0 for s in stations]
    return [
        (h, (a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1]))) for t, h in zip(shares, heights)
    ]


@remembered_piece
def _ground_round(
    surface: Surface | None, flat: float, ring: tuple[Point, ...]
) -> list[tuple[float, Point | None]]:
    """Heights of the ground round an outline with their places; one height alone where
    nothing was measured."""
    if surface is None:
        return [(flat, None)]
    found: list[tuple[float, Point | None]] = []
    for a, b in edges(ring):
        found += _ground_between(surface, a, b)
    return found


@remembered_piece
def _ground_at_edges(
    surface: Surface | None, flat: float, m: Member, side: int
) -> list[tuple[float, Point | None]]:
    """Heights of the ground along the outer edge of a piece; along both edges where it has
    no outside."""
    if surface is None:
        return [(flat, None)]
    start, end = (m.start[0], m.start[1]), (m.end[0], m.end[1])
    normal = left(direction_or(sub(end, start), (1.0, 0.0)))
    found: list[tuple[float, Point | None]] = []
    for sign in (side,) if side else (1, -1):
        out = max(sign * dot(sub(p, start), normal) for p in m.solid.plan())
        a, b = add(start, normal, sign * out), add(end, normal, sign * out)
        found += _ground_between(surface, a, b)
    return found


def _at(project: Project, where: Point | None) -> str:
    return f" {place_name(project, where)}" if where else ""


class _Low(NamedTuple):
    """Where the top of a foundation stands least above the ground: by how much, its height, that of
    the ground, where, and the piece."""

    above: float
    top: float
    ground: float
    where: Point | None
    member: Member


def _clearance(
    checked: Checked,
    run: FoundationRun,
    mine: list[Member],
    surface: Surface | None,
    flat: float,
) -> Iterable[Finding]:
    """The top of a foundation stands above finished ground by a set amount (IRC 2021 R404.1.6 asks
    for 6 in)."""
    outside = {whole(k) for k, _ in sides_of(checked.project, run)}
    found = []
    for m in mine:
        if m.kind in (kinds.STEM, kinds.EDGE) and wall_over(m) in outside:
            top = m.solid.top()
            high, where = max(_ground_round(surface, flat, m.solid.plan()), key=lambda g: g[0])
            found.append(_Low(top - high, top, high, where, m))
    worst = min(found, key=lambda w: w.above, default=None)
    if worst is not None and checked.project.site.clearance - worst.above > TOUCH:
        yield _too_low(checked, run, worst, measured=surface is not None)


def _too_low(checked: Checked, run: FoundationRun, low: _Low, *, measured: bool) -> Finding:
    project, m = checked.project, low.member
    short = project.site.clearance - low.above
    beside = "under" if low.above < 0 else "above"
    lies, at = f"{run_text(project, abs(low.above))} {beside}", _at(project, low.where)
    ground = next(iter(levels_of(project.levels, "ground")), None)
    mend = None
    if ground is not None and not measured:
        mend = Mend(
            f"Lower the ground to {length_text(project, low.ground - short)}",
            partial(move_level, key=ground.id, elevation=ground.elevation - short),
        )
    return Finding(
        "clearance",
        f"{m.mark}{at}",
        short,
        "mm",
        f"The top of foundation {m.mark} lies {lies} the ground{at}; it needs"
        f" {run_text(project, project.site.clearance)}. Raise the foundation and what stands"
        " on it, or lower the ground, by"
        f" {run_text(project, short)}.",
        HostName("run", run.id),
        (m.id,),
        low.where,
        (low.ground, low.top),
        mend,
    )


class _High(NamedTuple):
    """Where a footing bears highest over the frost: by how much, the height of the ground and of
    its bottom, where, and the piece."""

    up: float
    ground: float
    bottom: float
    where: Point | None
    member: Member


def _frost(
    checked: Checked,
    run: FoundationRun,
    mine: list[Member],
    surface: Surface | None,
    flat: float,
) -> Iterable[Finding]:
    """Outside footings bear below the frost everywhere (IRC 2021 R403.1.4.1)."""
    project = checked.project
    outside = {whole(k): side for k, side in sides_of(project, run)}
    bearing = (kinds.FOOTING, kinds.EDGE, kinds.GRADE_BEAM)
    found = []
    spans = checked.path.spanning
    for m in (m for m in mine if m.kind in bearing and wall_over(m) in outside):
        if m.id in spans:
            continue  # what it stands on lies in the soil, not itself
        if abs(m.solid.normal[2]) < 0.5:
            continue  # a sloped footing was laid under the frost all along
        bottom = m.solid.bounds()[0][2]
        low, where = min(
            _ground_at_edges(surface, flat, m, outside[wall_over(m)]), key=lambda g: g[0]
        )
        found.append(_High(bottom - (low - project.site.frost_depth), low, bottom, where, m))
    worst = max(found, key=lambda w: w.up, default=None)
    if worst is not None and worst.up > TOUCH:
        yield _in_frost(project, run, worst)


def _in_frost(project: Project, run: FoundationRun, worst: _High) -> Finding:
    up, low, bottom, where, m = worst
    what = {"slab edge": "Edge", "grade beam": "Grade beam"}.get(run.kind, "Footing")
    at = _at(project, where)
    return Finding(
        "frost",
        f"{what.lower()} {m.mark}{at}",
        up,
        "mm",
        f"{what} {m.mark} bears {length_text(project, low - bottom)} below the"
        f" ground{at}; frost reaches"
        f" {length_text(project, project.site.frost_depth)}. {_deeper_words(run)} by"
        f" {length_text(project, up)}.",
        HostName("run", run.id),
        (m.id,),
        where,
        (low - project.site.frost_depth, bottom),
        _frost_mend(project, run, up),
    )


def _deeper_words(run: FoundationRun) -> str:
    return "Lower the footing" if run.kind in WITH_STEM else "Make it deeper"


def _frost_mend(project: Project, run: FoundationRun, up: float) -> Mend:
    if run.kind in WITH_STEM and run.bottom:
        bottom, base = level(project, run.bottom), level(project, run.base)
        words = f"Lower {bottom.name} and {base.name} by {length_text(project, up)}"
        return Mend(words, partial(lower_footing, key=run.id, by=up))
    if run.kind in WITH_STEM:
        base = level(project, run.base)
        return Mend(
            f"Lower {base.name} by {length_text(project, up)}",
            partial(lower_footing, key=run.id, by=up),
        )
    depth = run.edge_depth + up
    return Mend(
        f"Make it {run_text(project, depth)} deep",
        partial(set_run, key=run.id, edge_depth=round(depth, 6)),
    )
