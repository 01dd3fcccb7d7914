"""The bench measures what it says: one member at a time comes out as in its batch."""

import numpy as np

from balken.design.codes.us.nds.bending import check
from balken.model.names import HostName
from balken.session.building import demo_project
from balken.works.building import work_out
from balken.workshop.bench_loads import one_of


def test_a_member_alone_comes_out_as_beside_others() -> None:
    host = work_out(demo_project()).hosts[HostName("floor", "F2")][0].among
    assert host is not None
    whole = check(host.batch).ratios
    alone = [check(one_of(host.batch, i)).ratios[:, 0] for i in range(len(host.batch.sections))]
    assert np.array_equal(whole, np.stack(alone, axis=1))
