"""The bench of loads and sizes: ten thousand members over thirty sections, the way of the loads of a
building and of one twenty times as large, the whole bakehouse sized, its snow doubled."""

import math
from collections.abc import Callable
from itertools import cycle, islice

import msgspec
import numpy as np

from balken.design.codes import timber_by
from balken.design.spanning import Batch, Tails, Walked
from balken.design.under import UNKNOWN
from balken.fit.whole_sizing import size_whole
from balken.loads.path import take_down
from balken.model.cases import Cases
from balken.model.catalogue import sections_of
from balken.model.edits.roofs import set_roof
from balken.model.new import new_building
from balken.model.project import Project
from balken.recall import Recall
from balken.session.demo import shown_demo
from balken.site.proposals import propose_structure
from balken.units import FOOT, INCH, PLF, PSF
from balken.works.building import Checked, work_out
from balken.works.settling import settle
from balken.works.told_sizes import sizes_told

Timing = tuple[float, float, float]
MEMBERS, SECTIONS = 10_000, 30
SAMPLE = 20
"""So many members are checked one by one; their time is taken as if it had been all."""
TWENTY = 20


def batch_of(members: int) -> Batch:
    """Members of many spans, each in thirty sections."""
    timber = timber_by("us")
    under = UNKNOWN
    known = [s for s in sections_of("us").values() if timber.worth("DF-L", "No.2", s) is not None]
    sections = list(islice(cycle(known), SECTIONS))
    worth = [timber.worth("DF-L", "No.2", s) for s in sections]
    values = tuple(timber.on(w, under) for w in worth if w is not None)
    n = members * SECTIONS
    spans = np.repeat(np.linspace(6 * FOOT, 18 * FOOT, members), SECTIONS)
    line = np.outer(np.array(list(Cases(10.0, 40.0))) * PLF, np.ones(n))
    return Batch(
        tuple(sections) * members,
        values * members,
        np.full(n, 1.15),
        spans,
        line,
        line * spans / 2,
        np.full(n, 1.5 * INCH),
        np.full(n, 360.0),
        np.full(n, 240.0),
        np.zeros(n),
        timber.sums(1, "A").every[:2],
    )


def one_of(batch: Batch, i: int) -> Batch:
    """A row of a batch as a batch of its own."""
    fields: dict[str, object] = {}
    for name in batch.__struct_fields__:
        value = getattr(batch, name)
        if isinstance(value, np.ndarray):
            fields[name] = value[..., i : i + 1]
        elif name in ("sections", "values"):
            fields[name] = (value[i],)
        elif isinstance(value, Tails | Walked):
            mine = {f: getattr(value, f)[i : i + 1] for f in value.__struct_fields__}
            fields[name] = type(value)(**mine)
    return msgspec.structs.replace(batch, **fields)


def sized_at_once(rounds: int, compare: Callable[..., Timing]) -> Timing:
    """Compare a loop over members and sections with all of them in one batch."""
    check = timber_by("us").spans.check
    batch = batch_of(MEMBERS)
    ones = [one_of(batch, i) for i in range(SAMPLE * SECTIONS)]
    loop, whole, ratio = compare(lambda: [check(one) for one in ones], lambda: check(batch), rounds)
    times = MEMBERS / SAMPLE
    return loop * times, whole, ratio * times


def _long(length: float) -> Checked:
    project, _ = propose_structure(new_building("Long", length, 26 * FOOT, 2, "us"))
    return work_out(settle(project))


def way_of_loads(rounds: int, compare: Callable[..., Timing]) -> Timing:
    """The way of the loads of a building and of one twenty times as long; the last figure is the
    exponent of time over members."""
    small, large = _long(16 * FOOT), _long(16 * FOOT * TWENTY)
    times = len(large.structure.members) / len(small.structure.members)

    def down(found: Checked) -> Callable[[], object]:
        return lambda: take_down(found.built, found.structure)

    slow, fast, ratio = compare(down(large), down(small), rounds)
    return slow, fast, math.log(ratio) / math.log(times)


def whole_sized(rounds: int, compare: Callable[..., Timing]) -> Timing:
    """Compare sizing the whole bakehouse, its snow doubled, with working it out once."""
    project = _snowy(shown_demo(), 60.0)
    was = sizes_told(work_out(shown_demo()))
    return compare(lambda: size_whole(project, was), lambda: work_out(project), rounds)


def _snowy(project: Project, psf: float) -> Project:
    for roof in project.roofs:
        project = set_roof(project, roof.id, snow=psf * PSF)
    return project


def snow_doubled(rounds: int, compare: Callable[..., Timing]) -> Timing:
    """Compare working the bakehouse out from nothing with its answer to 30 psf of snow becoming 60,
    as the window asks."""
    project = shown_demo()
    recall = Recall()
    amounts = cycle((30.0, 60.0))
    work_out(_snowy(project, 30.0), recall)
    return compare(
        lambda: work_out(_snowy(project, 60.0)),
        lambda: work_out(_snowy(project, next(amounts)), recall),
        rounds,
    )
