"""Live load of floors on what carries a large area: ASCE 7-16 4.7.2, EN 1991-1-1 6.3.1.2(10)."""

import math

import pytest
from msgspec.structs import replace

from balken.framing import kinds
from balken.framing.structure import Structure
from balken.loads.path import LoadPath, take_down
from balken.model.drawn_loads import DrawnLoad
from balken.model.left_open import LeftOpen
from balken.model.project import Project
from balken.model.uses import FloorUse
from balken.session.ferry_hall import ferry_hall
from balken.units import FOOT, KPA, PSF
from balken.works.building import work_out

REDUCED = LeftOpen(live_on_areas="reduced")


@pytest.fixture(scope="module")
def framed() -> tuple[Project, Structure]:
    """Without its roof, whose trusses bring a live load of their own."""
    done = work_out(ferry_hall())
    kept = tuple(
        p for p in done.structure.parts if not any(m.host.kind == "roof" for m in p.members)
    )
    return done.built, replace(done.structure, parts=kept)


def path_of(
    framed: tuple[Project, Structure],
    code: str,
    live: float,
    use: FloorUse = "offices",
    by: LeftOpen = REDUCED,
    loads: tuple[DrawnLoad, ...] = (),
) -> LoadPath:
    """The way of loads of the hall with one use on all its floors, by one code."""
    project, structure = framed
    floors = tuple(replace(f, live=live, use=use, edge=0.0, edges=()) for f in project.floors)
    site = replace(project.site, left_open=by)
    return take_down(
        replace(project, code=code, floors=floors, site=site, loads=loads),  # type: ignore[arg-type]
        structure,
    )


def test_beams_and_posts_by_their_areas_in_us_codes(framed: tuple[Project, Structure]) -> None:
    """0.25 + 15 / √(K_LL A_T), A_T in ft², K_LL 2 of beams and 4 of posts; from 400 ft², and no less
    than a half."""
    whole = path_of(framed, "us", 50 * PSF, by=LeftOpen())
    found = path_of(framed, "us", 50 * PSF)
    assert found.reduced
    assert whole.reduced == {}
    by_id = {m.id: m for m in framed[1].members}
    seen = set()
    for name, forces in whole.onto.items():
        kind = by_id[name].kind if name in by_id else None  # type: ignore[index]
        if kind not in (kinds.BEAM, kinds.POST):
            continue
        area = forces.live / (50 * PSF) / FOOT**2
        influence = area * (2 if kind is kinds.BEAM else 4)
        wanted = max(0.5, 0.25 + 15 / math.sqrt(influence)) if influence >= 400 else 1.0
        assert found.reduced.get(name, 1.0) == pytest.approx(wanted)  # type: ignore[arg-type]
        seen |= {kind} if wanted < 1 else set()
        even, now = whole.onto_most(name), found.onto_most(name)
        assert even is not None
        assert now is not None
        assert now.live == pytest.approx(even.live * wanted)
        assert now.dead == pytest.approx(even.dead)
    assert kinds.BEAM in seen
    assert found.soil_total.live == pytest.approx(whole.soil_total.live)


def test_european_beams_by_their_areas(framed: tuple[Project, Structure]) -> None:
    """5/7 ψ0 + 10 m² / A with ψ0 0.7 of category B; posts are left as they are."""
    whole = path_of(framed, "eu", 3 * KPA, by=LeftOpen())
    found = path_of(framed, "eu", 3 * KPA)
    by_id = {m.id: m for m in framed[1].members}
    assert {by_id[n].kind for n in found.reduced} == {kinds.BEAM}
    for name, share in found.reduced.items():
        square_metres = whole.onto[name].live / (3 * KPA) / 1e6
        assert share == pytest.approx(5 / 7 * 0.7 + 10 / square_metres)
        lying = sum(p.forces.live for p in found.carried[name])
        assert lying == pytest.approx(whole.onto[name].live * share)


@pytest.mark.parametrize(
    ("code", "live", "use"),
    [
        ("us", 101 * PSF, "offices"),  # over 100 psf (4.7.3)
        ("us", 50 * PSF, "assembly"),  # assembly (4.7.5)
        ("us", 40 * PSF, "garage"),  # cars (4.7.4)
        ("eu", 7.5 * KPA, "storage"),  # category E
    ],
)
def test_uses_that_the_codes_leave_whole(
    framed: tuple[Project, Structure], code: str, live: float, use: FloorUse
) -> None:
    assert path_of(framed, code, live, use).reduced == {}


def test_a_load_that_is_drawn_stays_whole(framed: tuple[Project, Structure]) -> None:
    plain = path_of(framed, "us", 50 * PSF)
    name = min(
        plain.reduced.keys() & plain.carried.keys(), key=lambda n: (plain.reduced[n], str(n))
    )
    beam = next(m for m in framed[1].members if m.id == name)
    (ax, ay, _), (bx, by, _) = beam.start, beam.end
    middle, top = ((ax + bx) / 2, (ay + by) / 2), beam.solid.top()
    level = min(framed[0].levels, key=lambda x: abs(x.elevation - top)).id
    heavy = DrawnLoad("L1", "stack", "point", level, (middle,), "live", 50_000.0)
    found = path_of(framed, "us", 50 * PSF, loads=(heavy,))
    before, after = (sum(p.forces.live for p in x.carried[name]) for x in (plain, found))
    assert after - before == pytest.approx(50_000.0)
    assert found.reduced[name] > plain.reduced[name]
