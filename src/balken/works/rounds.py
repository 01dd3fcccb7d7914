"""Rounds of framing, loads and choice: beams, trimmers and hips are cut from what carries the loads
that come out, until nothing changes."""

from typing import Final, NamedTuple

import msgspec

from balken.design.around import Surroundings
from balken.design.sizing import Sized
from balken.framing.hosts.sites import sites_of
from balken.framing.member import CutFrom, Size
from balken.framing.structure import Structure, frame
from balken.loads.path import LoadPath, take_down
from balken.model.names import HostName
from balken.model.project import Project
from balken.works.carrying import (
    choose_beams,
    choose_plies,
    choose_sticks,
    with_sections,
)
from balken.works.first_sticks import first_sticks
from balken.works.headers import choose_headers
from balken.works.sizes import choose_sizes
from balken.works.terms import beneath_of, surroundings_of, terms_of

ROUNDS: Final = 3
"""Beams are chosen again while choices change, at most so often: what each hangs on shifts a little
with its neighbours."""


Plies = dict[HostName, tuple[tuple[str, int], ...]]
"""Per floor, how many plies its trimmers, headers and doubles have."""


Cuts = dict[HostName, tuple[CutFrom, ...]]
"""Per roof, what its hips, valleys and ridge beams are cut from."""


class Built(NamedTuple):
    """A project with every beam cut from what was chosen, and what came out of it."""

    project: Project
    sizes: dict[HostName, Sized]
    structure: Structure
    path: LoadPath


class Choice(NamedTuple):
    """What the loads asked for in a round."""

    beams: dict[HostName, str]
    plies: Plies
    sticks: Cuts
    headers: dict[HostName, Size]


def in_rounds(project: Project) -> Built:
    """Frame a project and take its loads down.

    Beams without a section are first the largest they may be, then what was chosen under the loads
    that come out, and so are the plies of trimmers and headers.
    """
    sites, beneath = sites_of(project), beneath_of(project, {})
    sticks = first_sticks(sites, terms_of(project), choose_sizes(sites, beneath))
    choice = Choice({}, {}, sticks, {})
    built = _framed(project, choice)
    chosen: dict[HostName, Sized] = {}
    for _ in range(ROUNDS):
        chosen, wanted = _asked_for(project, built)
        if wanted == choice:
            break
        choice = wanted
        built = _framed(with_sections(project, choice.beams), choice)
    return built._replace(sizes=built.sizes | chosen)


def _framed(project: Project, choice: Choice) -> Built:
    """A project framed with the plies and sticks that were chosen, and its loads taken down."""
    sites = sites_of(project)
    sizes = {
        host: with_plies(sized, choice.plies.get(host, ()), choice.sticks.get(host, ()))
        for host, sized in choose_sizes(sites, beneath_of(project, {})).items()
    }
    structure = frame(sites, {host: s.size for host, s in sizes.items()}, choice.headers)
    return Built(project, sizes, structure, take_down(project, structure))


def _asked_for(project: Project, built: Built) -> tuple[dict[HostName, Sized], Choice]:
    """What beams, plies and sticks the loads of a round ask for; beams are chosen for the project
    as it was, where none of them has a section yet."""
    around = around_of(built.project, built.structure, built.sizes)
    chosen = choose_beams(project, built.structure, built.path, around)
    return chosen, Choice(
        {host: s.size.section for host, s in chosen.items()},
        choose_plies(built.project, built.structure, built.path, around),
        choose_sticks(built.project, built.structure, built.path, around),
        choose_headers(built.project, built.structure, built.path, around),
    )


def around_of(project: Project, structure: Structure, sizes: dict[HostName, Sized]) -> Surroundings:
    """What is about every member."""
    return surroundings_of(project, structure, {host: s.size for host, s in sizes.items()})


def with_plies(
    sized: Sized, plies: tuple[tuple[str, int], ...], sticks: tuple[CutFrom, ...]
) -> Sized:
    """What was chosen for a host with the plies of its trimmers and headers, or what its
    hips are cut from."""
    if not plies and not sticks:
        return sized
    cut = tuple(sorted({**dict(sized.size.cut), **dict(sticks)}.items()))
    return msgspec.structs.replace(
        sized, size=msgspec.structs.replace(sized.size, plies=plies, cut=cut)
    )
