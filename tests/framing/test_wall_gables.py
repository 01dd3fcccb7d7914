"""Gables over framed walls: each stud's length by hand, nothing in the room of anything else."""

from itertools import combinations, pairwise

import pytest
import shapely

from balken.framing import kinds
from balken.framing.walls.gables import Rise, gable_pieces
from balken.model.edits.roofs import hip_or_gable, set_roof
from balken.model.edits.wall_frames import frame_walls
from balken.site.wall_weights import is_masonry
from balken.units import FOOT, INCH
from balken.works.building import checks_of, work_out
from buildings import house

T = 1.5 * INCH
LAYOUT = [16.0 * INCH * k for k in range(1, 18)]


def gable(rise: float = 6.0, wide: float = 24 * FOOT) -> Rise:
    half = wide / 2
    return Rise(0.0, wide, 0.0, ((0.0, 0.0), (half, half * rise / 12), (wide, 0.0)))


def test_studs_of_a_gable_at_six_in_twelve() -> None:
    """24 ft wide: at s the roof line is s / 2 high; less the rake plate, 1.5 in · √1.25 = 1.677 in, and
    the plate, 1.5 in. The longer side of a stud at 64 in stands at 64.75: 32.375 - 3.177 = 29.198 in,
    the shorter 0.75 in less; each next stud on the way up is 8 in longer."""
    pieces = [p for p in gable_pieces(gable(), T, LAYOUT) if p.kind is kinds.GABLE_STUD]
    sides = {}
    for p in pieces:
        tops = sorted(z for _, z in p.ring if z > T + 1e-6)
        sides[round((p.axis[0][0]) / INCH)] = ((tops[-1] - T) / INCH, (tops[0] - T) / INCH)
    plate = 1.5 * 1.25**0.5
    assert sides[64] == pytest.approx((64.75 / 2 - plate - 1.5, 63.25 / 2 - plate - 1.5))
    assert sides[64][0] == pytest.approx(29.198, abs=1e-3)
    up = [sides[k][0] for k in (32, 48, 64, 80, 96, 112, 128)]
    assert [b - a for a, b in pairwise(up)] == pytest.approx([8.0] * 6)
    assert sides[64] == pytest.approx(sides[288 - 64])
    middle = next(p for p in pieces if abs(p.axis[0][0] - 144 * INCH) < 1)
    assert len(middle.ring) == 5  # cut to a point under the ridge


@pytest.mark.parametrize("rise", [2.0, 4.0, 8.0, 12.0])
def test_no_two_pieces_of_a_gable_share_room(rise: float) -> None:
    pieces = list(gable_pieces(gable(rise), T, LAYOUT))
    shapes = [shapely.Polygon(p.ring) for p in pieces]
    outline = shapely.Polygon(gable(rise).line)
    for a, b in combinations(shapes, 2):
        assert a.intersection(b).area < 1.0
    for s in shapes:
        assert s.difference(outline).area < 1.0
    assert {p.kind for p in pieces} == {kinds.GABLE_PLATE, kinds.RAKE_PLATE, kinds.GABLE_STUD}


def test_a_gabled_house_has_both_its_gables_framed_and_their_studs_stand_in_the_wind() -> None:
    project = frame_walls(house(), is_masonry)
    roof = project.roofs[0]
    ends = sorted(project.walls, key=lambda w: abs(w.start[0] - w.end[0]))[:2]
    for w in ends:
        project = hip_or_gable(project, roof.id, w.id)
    project = set_roof(project, roof.id, rise=6.0)
    done = work_out(project)
    hosts = {m.host.key for m in done.structure.of(kinds.GABLE_STUD)}
    gabled = {g.wall for g in done.structure.gables}
    assert hosts == gabled
    for m in done.structure.of(kinds.GABLE_STUD):
        low, high = m.solid.bounds()
        assert high[2] - low[2] == pytest.approx(m.length, abs=1.0)
        assert any(c.name == "Compression and wind" for c in checks_of(done, m))
        assert done.used[m.id][0] < 1.0
