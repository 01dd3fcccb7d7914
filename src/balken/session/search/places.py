"""What can be gone to: tiers, levels, walls, grid lines, members by their marks, findings."""

import re
from collections.abc import Iterator
from functools import partial
from typing import NamedTuple

from balken.fit.finding import KIND_WORDS
from balken.fit.places import crossings
from balken.model.foundations import KIND_WORDS as FOUNDATION_WORDS
from balken.model.names import HostName, Name, ThingName
from balken.model.walls import called, short_name
from balken.session import mending
from balken.session.desk import Desk
from balken.session.search.offer import Offer

MOST_FINDINGS = 40


class Subject(NamedTuple):
    """A thing by the words people have for it."""

    name: Name
    words: str
    kind: str
    means: str = ""


def subjects(desk: Desk) -> Iterator[Subject]:
    """Everything that has a name of its own, members but for."""
    project = desk.project
    for x in project.levels:
        yield Subject(ThingName("level", x.id), f"level {x.name}", "level", x.id)
    for f in project.floors:
        yield Subject(HostName("floor", f.id), f"floor {f.id} {f.name}", "floor", "joists")
    for r in project.roofs:
        means = f"roof {r.id} {r.framing}"
        yield Subject(HostName("roof", r.id), f"roof {r.name}", "roof", means)
    for run in project.runs:
        words = f"foundation {run.id} {run.name} {FOUNDATION_WORDS[run.kind]}"
        yield Subject(HostName("run", run.id), f"foundation {run.name}", "foundation", words)
    for w in project.walls:
        yield Subject(HostName("wall", w.id), called(w), "wall", f"wall {w.id}")
    for g in project.grids:
        for line in g.lines:
            name = ThingName("grid", g.id, line.id)
            yield Subject(name, f"grid line {line.label}", "grid line", "axis")
    for s in project.point_supports:
        yield Subject(HostName("support", s.id), f"{s.kind} {s.id}", s.kind, "support")
    for x_ in project.loads:
        yield Subject(HostName("load", x_.id), f"load {x_.name}", f"{x_.shape} load", x_.case)
    for b in project.beams:
        yield Subject(HostName("beam", b.id), f"beam {b.id}", "beam", "girder")
    for bay in project.bays:
        yield Subject(HostName("bay", bay.id), f"bay {bay.id}", "bay of beams", "beams")
    yield from _holes(desk)
    for body in project.wall_build_ups:
        words = short_name(body, project.system)
        yield Subject(ThingName("build-up", body.id), words, "build-up of walls", "wall type")
    for product in project.products:
        yield Subject(ThingName("product", product.id), product.id, "product", product.family)


def _holes(desk: Desk) -> Iterator[Subject]:
    """Openings of walls, floors and roofs, and the sides of roofs."""
    project = desk.project
    for w in project.walls:
        for o in w.openings:
            words = f"{o.kind} {o.id} in {called(w)}"
            yield Subject(ThingName("opening", w.id, o.id), words, o.kind, "opening")
    for f in project.floors:
        for o_ in f.openings:
            words = f"{o_.use} opening {o_.id} of {f.name}"
            yield Subject(ThingName("hole", f.id, o_.id), words, "opening in a floor", "hole")
    for r in project.roofs:
        for k in r.openings:
            yield Subject(ThingName("skylight", r.id, k.id), f"{k.use} {k.id}", k.use, r.name)
        shape = desk.checked.structure.roofs.get(HostName("roof", r.id))
        for edge in shape.edges if shape else ():
            name = ThingName("side", r.id, edge.name)
            words = f"side of roof {r.name}"
            called_side = desk.thing(name).called(project, name)
            yield Subject(name, called_side, "side of a roof", words)


def places_of(desk: Desk) -> Iterator[Offer]:
    """Everything that can be gone to, members but for."""
    for t in desk.tiers:
        yield Offer(t.name, "tier", partial(desk.work_in, t.id), t.kind, worth=0.02)
    for s in subjects(desk):
        yield Offer(s.words, s.kind, partial(desk.select, s.name), s.means)
    for name, place in crossings(desk.project):
        yield Offer(f"crossing {name}", "grid", partial(desk.show_place, place))
    for row, f in enumerate(desk.as_it_is().findings[:MOST_FINDINGS]):
        words = f"{KIND_WORDS[f.kind]}: {f.place}"
        yield Offer(words, "finding", partial(mending.look, desk, row), "finding problem", f.text)


def members_of(desk: Desk) -> Iterator[Offer]:
    """Every member by its role and mark, or by its number alone."""
    for m in desk.checked.structure.members:
        words = f"{m.role} {m.mark}"
        numbers = " ".join(f"{n} {n}{letters}" for n, letters in _NUMBERED.findall(m.mark))
        act = partial(desk.select, m.id)
        yield Offer(words, m.section, act, f"{m.section} {numbers}", "", worth=-0.05)


_NUMBERED = re.compile(r"0*(\d+)([a-z]*)")
