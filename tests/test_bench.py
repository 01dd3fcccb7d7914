"""The bench measures what it says: one member at a time comes out as in its batch."""

import numpy as np

from balken.design.codes.us.nds.bending import check
from balken.model.names import HostName
from balken.session.building import demo_project
from balken.works.building import work_out
from balken.workshop.bench_loads import SECTIONS, batch_of, one_of, snow_doubled


def test_a_member_alone_comes_out_as_beside_others() -> None:
    host = work_out(demo_project()).hosts[HostName("floor", "F2")][0].among
    assert host is not None
    whole = check(host.batch).ratios
    alone = [check(one_of(host.batch, i)).ratios[:, 0] for i in range(len(host.batch.sections))]
    assert np.array_equal(whole, np.stack(alone, axis=1))


def test_a_batch_of_members_over_sections_is_checked_whole() -> None:
    batch = batch_of(3)
    ratios = check(batch).ratios
    assert ratios.shape[1] == 3 * SECTIONS
    alone = check(one_of(batch, 40)).ratios[:, 0]
    assert np.allclose(ratios[:, 40], alone)
    assert (ratios[:, SECTIONS * 2 :].max(axis=0) > ratios[:, :SECTIONS].max(axis=0)).all()


def test_the_answer_to_more_snow_is_measured_on_what_changed() -> None:
    calls = []

    def compare(slow: object, fast: object, rounds: int) -> tuple[float, float, float]:
        calls.append(rounds)
        fast()  # type: ignore[operator]
        return 1.0, 1.0, 1.0

    assert snow_doubled(1, compare) == (1.0, 1.0, 1.0)
    assert calls == [1]
