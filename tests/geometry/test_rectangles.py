"""Right-angled outlines as rectangles: as properties of the forms buildings have and of random
ones."""

import random

import pytest
from shapely import Polygon, union_all

from balken.geometry.plane import distance_to_ring, edges, rotate
from balken.geometry.rectangles import rectangles_of
from roof_forms import CROSS, ELL, RECTANGLE, TEE, YOU, rectilinear, rings_of


@pytest.mark.parametrize(
    ("ring", "count"), [(RECTANGLE, 1), (ELL, 2), (TEE, 2), (YOU, 3), (CROSS, 3)]
)
@pytest.mark.parametrize("turn", [0.0, 0.4])
def test_the_forms_of_buildings(
    ring: tuple[tuple[float, float], ...], count: int, turn: float
) -> None:
    turned = tuple(rotate(p, turn) for p in ring)
    cells = rectangles_of(turned)
    assert len(cells) == count
    areas = [Polygon(c.ring).area for c in cells]
    assert areas[0] == max(areas)
    assert sum(areas) == pytest.approx(Polygon(ring).area, rel=1e-6)
    assert [c.onto is None for c in cells] == [True] + [False] * (count - 1)


@pytest.mark.parametrize("seed", range(0, 60, 10))
def test_random_outlines_are_covered_once_and_each_part_lies_on_an_earlier_one(seed: int) -> None:
    divided = 0
    for one in range(seed, seed + 10):
        shape = rectilinear(random.Random(one))
        cells = rectangles_of(rings_of(shape)[0]) if not shape.interiors else ()
        if not cells:
            continue
        divided += 1
        parts = [Polygon(c.ring) for c in cells]
        assert sum(p.area for p in parts) == pytest.approx(shape.area, rel=1e-6)
        assert union_all(parts).area == pytest.approx(shape.area, rel=1e-4)
        for n, cell in enumerate(cells[1:], 1):
            assert cell.onto is not None
            a, b = edges(cell.ring)[cell.onto]
            middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
            assert min(distance_to_ring(middle, c.ring) for c in cells[:n]) < 1.0
    assert divided > 5


def test_what_is_not_square_is_not_divided() -> None:
    assert (
        rectangles_of(((0, 0), (9000, 0), (9000, 5000), (4000, 5200), (4000, 8000), (0, 8000)))
        == ()
    )
    assert rectangles_of(tuple((x * 100.0, (x % 2) * 100.0) for x in range(40))) == ()
