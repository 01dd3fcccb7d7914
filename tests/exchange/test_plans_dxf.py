"""Plans by layer, read back by ezdxf."""

import io

import ezdxf
import pytest

from balken.exchange.plans_dxf import GRID, MARKS, layer_of, plans_dxf
from balken.framing import kinds
from balken.works.building import Checked


def test_each_piece_lies_on_the_layer_of_its_kind(demo_checked: Checked) -> None:
    plans = plans_dxf(demo_checked)
    assert plans.keys() == {m.level for m in demo_checked.structure.members}
    for key, text in plans.items():
        doc = ezdxf.read(io.StringIO(text))
        assert not doc.audit().errors
        space = doc.modelspace()
        mine = [m for m in demo_checked.structure.members if m.level == key]
        joists = [m for m in mine if m.kind is kinds.JOIST]
        drawn = space.query(f'LWPOLYLINE[layer=="{layer_of("joist")}"]')
        assert len(drawn) == len(joists)
        for line, m in zip(drawn, joists):
            xs = [p[0] for p in line.get_points()]
            low, high = m.solid.bounds()
            assert (min(xs), max(xs)) == pytest.approx((low[0], high[0]))
            assert line.dxf.elevation == pytest.approx(low[2])
        assert sorted(t.dxf.text for t in space.query(f'TEXT[layer=="{MARKS}"]')) == sorted(
            m.mark for m in mine
        )
        labels = {x.label for g in demo_checked.project.grids for x in g.lines}
        assert {t.dxf.text for t in space.query(f'TEXT[layer=="{GRID}"]')} == labels


@pytest.mark.forgetful
def test_the_same_building_gives_the_same_text(demo_checked: Checked) -> None:
    assert plans_dxf(demo_checked) == plans_dxf(demo_checked)
