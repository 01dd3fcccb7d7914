"""Snow against a higher roof: by hand from ASCE 7-16 7.7.1, 7.9 and EN 1991-1-3 5.3.6."""

import math

import pytest
from msgspec.structs import replace

from balken.drawing.marks import Label
from balken.drawing.plan import plan_notes
from balken.drawing.tiers import tiers
from balken.framing import kinds
from balken.loads.codes.eu import snow as eu
from balken.loads.codes.us.snow import density, height_of_drift
from balken.model.edits import set_site
from balken.model.edits.roofs import add_roof, set_roof
from balken.model.project import FORMAT, Level, Project, Wall
from balken.model.roofs import RoofSide
from balken.model.snow import GroundSnow
from balken.site.proposals import propose_structure
from balken.units import KPA, PSF
from balken.works.building import Checked, work_out
from named import the

LOW = the("roof:R2")


def stepped(code: str = "us", apart: float = 200.0, high: float = 6000.0) -> Project:
    """A house of 12 by 9 m, and a shed of 6 by 9 m beside its east wall, each on walls of its own."""
    levels = (
        Level("L1", "Floor 1", "floor", 0.0),
        Level("P1", "Plate 1", "plate", 2500.0),
        Level("P2", "Plate 2", "plate", high),
    )
    x = 12_000.0 + apart
    boxes = {
        "W": [(0.0, 0.0), (12_000.0, 0.0), (12_000.0, 9000.0), (0.0, 9000.0)],
        "V": [(x, 0.0), (x + 6000.0, 0.0), (x + 6000.0, 9000.0), (x, 9000.0)],
    }
    walls = tuple(
        Wall(f"{stem}{i}", f"{stem}{i}", a, b, 165.1, "left", "L1", "P2" if stem == "W" else "P1")
        for stem, ring in boxes.items()
        for i, (a, b) in enumerate(zip(ring, [*ring[1:], ring[0]]))
    )
    project = Project(
        FORMAT, "Stepped", "us" if code == "us" else "metric", code, levels, (), walls
    )  # type: ignore[arg-type]
    project = replace(propose_structure(project)[0], roofs=(), floors=())
    project, _ = add_roof(project, "P2", ("W0", "W1", "W2", "W3"), overhang=0.0, rake=0.0)
    gables = (RoofSide("V1", "gable"), RoofSide("V3", "gable"))
    project, key = add_roof(
        project, "P1", ("V0", "V1", "V2", "V3"), sides=gables, overhang=0.0, rake=0.0, rise=3.0
    )
    for roof in project.roofs:
        project = set_roof(project, roof.id, snow_from="site")
    assert key == "R2"
    return set_site(project, snow=GroundSnow(40 * PSF if code == "us" else 1.5 * KPA))


def heaped(project: Project) -> Checked:
    return work_out(project)


def test_a_drift_against_the_house_by_asce_7() -> None:
    """Leeward: ℓu 12 m of the house; windward 3/4 of that of the shed's 6 m; 4 hd wide."""
    found = heaped(set_roof(stepped(), "R1", rise=0.5))
    (heap,) = found.path.heaped
    assert (heap.lower, heap.upper) == (LOW, the("roof:R1"))
    lee = height_of_drift(12_000.0, 40 * PSF)
    assert heap.most == pytest.approx(lee * density(40 * PSF), rel=1e-6)
    assert heap.reach == pytest.approx(4 * lee, rel=1e-6)
    assert heap.strips[0][1] == pytest.approx(heap.most * 11 / 12, rel=1e-6)
    area = 9000.0 * heap.reach / 2 * heap.most
    laid = math.fsum(abs(_area(ring)) * amount for ring, amount in heap.strips)
    assert laid == pytest.approx(area, rel=0.02)


def _area(ring: tuple[tuple[float, float], ...]) -> float:
    return sum(a[0] * b[1] - a[1] * b[0] for a, b in zip(ring, (*ring[1:], ring[0]))) / 2


def test_snow_slides_off_a_steep_roof_onto_the_shed() -> None:
    """7.9: 0.4 pf W over 15 ft, where it is more than the drift; the hip of 6 in 12 falls 4.5 m."""
    (heap,) = heaped(stepped()).path.heaped
    slides = 0.4 * 0.7 * 40 * PSF * 4500.0 / 4572.0
    far = heap.strips[-1][1]
    assert far == pytest.approx(slides, rel=1e-3)
    assert heap.reach == pytest.approx(4572.0)
    gentle = heaped(set_roof(stepped(), "R1", rise=1.5)).path.heaped[0]
    assert gentle.reach < 4572.0


def test_a_drift_by_en_1991() -> None:
    """μw = (b1 + b2)/2h, at most γ h / sk and 4; ℓs = 2h, at least 5 m; less what lies evenly."""
    project = set_roof(stepped("eu"), "R1", rise=0.5)
    found = heaped(project)
    (heap,) = found.path.heaped
    step = 6000.0 - 2500.0
    shape = eu.step_shape(1.5 * KPA, step - _over_plate(found), 12_000.0, 6000.0)
    even = found.built.roofs[1].snow
    assert heap.most == pytest.approx(shape * 1.5 * KPA - even, rel=0.02)
    assert heap.reach == pytest.approx(max(5000.0, 2 * (step - _over_plate(found))), rel=0.02)


def _over_plate(found: Checked) -> float:
    """How high the shed's ridge stands over its plate, where it meets the house."""
    shape = found.structure.roofs[LOW]
    return shape.roof.top - 2500.0


@pytest.mark.parametrize(("apart", "high"), [(2000.0, 6000.0), (200.0, 2700.0)])
def test_none_where_roofs_stand_apart_or_at_one_height(apart: float, high: float) -> None:
    assert heaped(stepped(apart=apart, high=high)).path.heaped == ()


def test_snow_that_was_typed_stays_as_it_stands() -> None:
    assert heaped(set_roof(stepped(), "R2", snow_from="typed")).path.heaped == ()
    assert heaped(set_site(stepped(), snow=None)).path.heaped == ()


def ended(found: Checked) -> float:
    """Snow in the soil, and at walls of the shed that have no foundation here."""
    path = found.path
    apart = [e.forces.snow for e in path.open_ends] + [b.forces.snow for b in path.beside]
    return path.soil_total.snow + math.fsum(apart)


def test_rafters_carry_it_to_the_soil_and_are_checked_for_it() -> None:
    with_it = heaped(stepped())
    without = heaped(stepped(apart=2000.0))
    laid = math.fsum(abs(_area(r)) * a for h in with_it.path.heaped for r, a in h.strips)
    more = with_it.path.applied.snow - without.path.applied.snow
    assert more == pytest.approx(laid, rel=1e-6)
    assert ended(with_it) == pytest.approx(with_it.path.applied.snow, rel=1e-9)
    size = set_roof(stepped(), "R2", section="2x8", spacing=406.4)
    near = work_out(size)
    rafters = [m for m in near.structure.of(kinds.RAFTER) if m.host == LOW and m.id in near.used]
    first = min(rafters, key=lambda m: m.start[0])
    last = max(rafters, key=lambda m: m.start[0])
    assert near.used[first.id][0] > near.used[last.id][0] * 1.1
    assert first.id in near.carrying


def test_it_stands_on_the_roof_plan_with_its_amount() -> None:
    found = heaped(stepped())
    tier = next(t for t in tiers(found) if t.holds(LOW))
    words = [m.text for m in plan_notes(found, tier, 100.0) if isinstance(m, Label)]
    assert any("heaped snow" in w and "psf at the wall" in w for w in words)


def test_trusses_under_it_are_checked_with_it() -> None:
    project = set_roof(stepped(), "R2", framing="trusses")
    found, bare = heaped(project), heaped(set_roof(project, "R2", snow_from="typed"))
    even = set_roof(project, "R2", snow_from="typed", snow=found.built.roofs[1].snow)
    assert ended(found) == pytest.approx(found.path.applied.snow, rel=1e-9)
    chords = [n for n in found.used if n.host == LOW and n.family == "bottom chord"]
    plain = work_out(even)
    assert chords
    # Those that stand in the drift are used more, those past its end as before.
    more = [n for n in chords if found.used[n][0] > plain.used[n][0] * 1.05]
    assert 0 < len(more) < len(chords)
    assert bare.path.heaped == ()
