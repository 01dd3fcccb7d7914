"""The bench of floors and beams: a large storey made again while a grid line is dragged, and its
beams against PyNiteFEA."""

from collections.abc import Callable
from itertools import pairwise

from balken.analysis.one_beam import Beam, work
from balken.fit.findings import findings
from balken.framing import kinds
from balken.framing.hosts.sites import sites_of
from balken.framing.structure import frame
from balken.loads.path import area_loads
from balken.loads.statics import beam_of
from balken.model.beams import BeamEnd, BeamKind
from balken.model.edits.beams import beams_on_line, put_beam
from balken.model.edits.common import checked
from balken.model.edits.floors import add_floor
from balken.model.edits.grids import move_lines, straight_grid
from balken.model.edits.levels import add_level
from balken.model.edits.supports import crossings_of, put_supports
from balken.model.floors import BuildUp
from balken.model.labels import LabelRule
from balken.model.new import empty_building
from balken.model.project import Project, host_records
from balken.model.usual import WOOD
from balken.recall import Recall, remembering
from balken.units import KPA
from balken.works.building import work_out
from balken.works.sizes import sizes_of

ACROSS = 11
ALONG = 6
BAYS = (11400.0, 4800.0)
SPACING = 300.0
IN_A_ROW = 10
"""Steps of a drag timed together: a hand makes dozens, and the first finds the machine cold."""
Timing = tuple[float, float, float]


def large_storey() -> Project:
    """A storey of 84 posts, 150 beams and about 2,500 joists."""
    project = empty_building("Large storey", "metric")
    for name, role, height in (
        ("Bottom", "footing_bottom", -1400.0),
        ("Pads", "footing_top", -800.0),
        ("Deck", "floor", 3600.0),
    ):
        project = add_level(project, role, name, height)  # type: ignore[arg-type]
    keys = {x.name: x.id for x in project.levels}
    project = straight_grid(
        project,
        (0.0, 0.0),
        0.0,
        (BAYS[0],) * ACROSS,
        (BAYS[1],) * ALONG,
        LabelRule("numbers"),
        LabelRule("letters"),
    )
    grid = project.grids[0]
    every = crossings_of(project)
    project = put_supports(
        project, "pad", every, base=keys["Bottom"], top=keys["Pads"], size=(2400.0, 2400.0)
    )
    project = put_supports(
        project,
        "post",
        every,
        base=keys["Pads"],
        top=keys["Deck"],
        top_offset=-600.0,
        section="GL 240x360",
        size=(240.0, 360.0),
    )
    main = BeamKind("GL 240x720", set="level", offset=-300.0)
    for line in (x.id for x in grid.lines if x.runs == "x"):
        project, _ = beams_on_line(project, keys["Deck"], grid.id, line, main)
    side = BeamKind("GL 160x480", set="level", offset=-300.0)
    for line in (x.id for x in grid.lines if x.runs == "y"):
        project, _ = beams_on_line(project, keys["Deck"], grid.id, line, side)
    middle = BeamEnd((BAYS[0] / 2, 0.0)), BeamEnd((BAYS[0] / 2, BAYS[1]))
    project, _ = put_beam(project, keys["Deck"], *middle, side)
    joists = BuildUp("UJ", "floor", *WOOD["eu"][:2], ("38x286",), (SPACING,), 14.0)
    project = checked(project, build_ups=(*project.build_ups, joists))
    wide, deep = ACROSS * BAYS[0] + 60.0, ALONG * BAYS[1] + 60.0
    corners = ((-60.0, -60.0), (wide, -60.0), (wide, deep), (-60.0, deep))
    low = next(x for x in project.levels if x.id == "P1")
    project = checked(
        project,
        levels=tuple(
            x if x.id != low.id else type(low)(low.id, low.name, low.role, 3300.0)
            for x in project.levels
        ),
    )
    project, _ = add_floor(
        project,
        keys["Deck"],
        corners=corners,
        build_up="UJ",
        bears_on="P1",
        span="y",
        dead=0.5 * KPA,
        live=1.0 * KPA,
    )
    return project


def _dragged(
    rounds: int, compare: Callable[..., Timing], made: Callable[[Project], object]
) -> Timing:
    """Compare what is made of the large storey from nothing with one step of dragging a grid line
    of it, of several in a row, as a hand makes them."""
    project = large_storey()
    recall = Recall()
    grid = project.grids[0].id
    count = (rounds + 1) * (IN_A_ROW + 1)
    moved = iter([move_lines(project, grid, ["N5"], k * 2.0) for k in range(1, count + 1)])

    def drag() -> None:
        with remembering(recall):
            for _ in range(IN_A_ROW):
                made(next(moved))

    def build() -> None:
        with remembering(Recall()):
            made(next(moved))

    build()
    drag()
    whole, steps_, ratio = compare(build, drag, rounds)
    return whole, steps_ / IN_A_ROW, ratio * IN_A_ROW


def framed_again(rounds: int, compare: Callable[..., Timing]) -> Timing:
    """Compare sizing and framing every member from nothing with one step of dragging a grid
    line."""
    return _dragged(
        rounds,
        compare,
        lambda p: frame(sites_of(p), {h: s.size for h, s in sizes_of(p).items()}),
    )


def dragged_line(rounds: int, compare: Callable[..., Timing]) -> Timing:
    """Compare everything - members, loads, checks, the fit list - from nothing with one step of
    dragging a grid line."""
    return _dragged(rounds, compare, lambda p: findings(work_out(p)))


def analysed(rounds: int, compare: Callable[..., Timing]) -> Timing:
    """Compare PyNiteFEA with the batch analysis on the same beams and joists of the large storey,
    all cases of each."""
    beams = beams_of_storey()
    return compare(
        lambda: [_by_others(b) for b in beams], lambda: list(work(beams, 4)), max(1, rounds // 3)
    )


def beams_of_storey() -> list[Beam]:
    """Every beam and joist of the large storey as it is loaded."""
    result = work_out(large_storey())
    found = []
    for m in result.structure.members:
        if m.kind in (kinds.BEAM, kinds.JOIST) and len(m.carrier.supports) > 1:
            area = area_loads(host_records(result.project)[m.host])
            found.append(beam_of(m, area, result.path.carried.get(m.id, ()), 1e13)[0])
    return found


def _by_others(beam: Beam) -> float:
    """Solve one beam with PyNiteFEA, dead and live as combinations; return the greatest
    reaction."""
    from Pynite import FEModel3D

    model = FEModel3D()
    model.add_material("m", 1.0, 1.0, 0.3, 0.0)
    model.add_section("s", 1e9, beam.ei, beam.ei, 1e9)
    places = sorted({0.0, beam.length, *(r.at for r in beam.rests)})
    held = {r.at for r in beam.rests}
    for i, x in enumerate(places):
        model.add_node(f"N{i}", x, 0, 0)
        model.def_support(f"N{i}", i == 0, x in held, True, True, True, False)
    for i in range(len(places) - 1):
        model.add_member(f"M{i}", f"N{i}", f"N{i + 1}", "m", "s")
    for line in beam.lines:
        for i, (a, b) in enumerate(pairwise(places)):
            low, high = max(a, line.low), min(b, line.high)
            if high - low > 1e-9:
                model.add_member_dist_load(
                    f"M{i}", "Fy", -line.at_low, -line.at_high, low - a, high - a, str(line.case)
                )
    for point in beam.forces():
        i = max(k for k, x in enumerate(places[:-1]) if x <= point.at)
        model.add_member_pt_load(f"M{i}", "Fy", -point.force, point.at - places[i], str(point.case))
    for case in ("0", "1"):
        model.add_load_combo(case, {case: 1.0})
    model.analyze_linear()
    return float(max(abs(n.RxnFY[c]) for n in model.nodes.values() for c in ("0", "1")))
