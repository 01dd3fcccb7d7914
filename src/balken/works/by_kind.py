"""Checks by the kind of a member: what the concrete, the posts, the ties and the boards of a
building are held against. Joists, rafters, beams and trusses are checked side by side
(:mod:`balken.design.side_by_side`), as carriers (:mod:`balken.design.carrying`) and whole
(:mod:`balken.design.trusses`)."""

import math
from collections.abc import Callable
from typing import Final, NamedTuple

from balken.design.floor_slabs import slab_checks
from balken.design.grade_beams import Spanned, grade_beam_checks
from balken.design.lines import Check, Line
from balken.design.plain_supports import pier_check, wall_check
from balken.design.posts import post_checks
from balken.design.short_pieces import is_jack_tie, is_valley_rafter, short_checks
from balken.design.sizing import Sized
from balken.design.slab_on_ground import slab_on_ground_checks
from balken.design.slab_strength import strength_checks
from balken.design.strip_loads import Stretches, highest_lines
from balken.design.strips import plan_width, strip_checks
from balken.design.terms import Terms
from balken.design.thrust import tie_checks
from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.member import Member
from balken.framing.structure import Structure
from balken.loads.path import LoadPath, area_loads
from balken.model.catalogue import sections_of
from balken.model.names import HostName, MemberName, Rest
from balken.model.project import Project
from balken.model.record import Code
from balken.model.roofs import RoofArea
from balken.works.earth import checks_of_wall
from balken.works.lintels import checks_of_lintel
from balken.works.pads import checks_of_pad
from balken.works.strips import on_soil
from balken.works.terms import service_of_post, terms_of
from balken.works.wall_studs import OnWalls, checks_of_upright


class Asked(NamedTuple):
    """What the checks of concrete, posts and boards look at."""

    project: Project
    structure: Structure
    path: LoadPath
    over: dict[MemberName, list[Member]]
    """The posts and piers over each pad."""
    stretches: Stretches
    sizes: dict[HostName, Sized]
    on_walls: OnWalls

    @property
    def terms(self) -> Terms:
        """Of the project."""
        return terms_of(self.project)

    def roof(self, member: Member) -> RoofArea:
        """The roof a member belongs to."""
        return next(r for r in self.project.roofs if HostName("roof", r.id) == member.host)


def checks_by_kind(asked: Asked, member: Member) -> tuple[Check, ...]:
    """The checks of a member; none where its kind is checked otherwise, or not at all."""
    checks = CHECKS.get(member.kind)
    return checks(asked, member) if checks else ()


def _strip(asked: Asked, member: Member) -> tuple[Check, ...]:
    project, structure, path, *_ = asked
    strip = on_soil(project, structure, path, member, asked.stretches)
    return strip_checks(asked.terms, strip)


def _grade_beam(asked: Asked, member: Member) -> tuple[Check, ...]:
    """Between its piers where it spans, else on soil as a strip."""
    piers = asked.path.spanning.get(member.id)
    if piers is None:
        return _strip(asked, member)
    strip = on_soil(asked.project, asked.structure, asked.path, member, asked.stretches)
    sums = asked.terms.ground.strength
    lines = highest_lines(strip.loads, strip.stretch, [c.factors for c in sums])
    heaviest = max((line + strip.own * c.factors.dead, c.name) for line, c in zip(lines, sums))
    places = tuple((p.low, p.high) for p in piers)
    spanned = Spanned(member, plan_width(member), strip.thick, places, *heaviest)
    return grade_beam_checks(asked.terms, spanned)


def _slab_on_ground(asked: Asked, member: Member) -> tuple[Check, ...]:
    points = asked.path.points.get(member.id, ())
    if not points:
        return ()
    members: dict[Rest, Member] = {m.id: m for m in asked.structure.of(kinds.POST, kinds.PIER)}
    return slab_on_ground_checks(asked.terms, member, points, members)


def _pad(asked: Asked, member: Member) -> tuple[Check, ...]:
    project, structure, path, over, *_ = asked
    return checks_of_pad(project, structure, path, member, over.get(member.id, ()))


def _pier(asked: Asked, member: Member) -> tuple[Check, ...]:
    return pier_check(asked.terms, asked.path, member)


def _stem(asked: Asked, member: Member) -> tuple[Check, ...]:
    project, structure, path, *_ = asked
    return (
        *wall_check(asked.terms, path, member),
        *checks_of_wall(project, structure, path, member),
    )


def _lintel(asked: Asked, member: Member) -> tuple[Check, ...]:
    return checks_of_lintel(asked.project, asked.path, member)


def _upright(asked: Asked, member: Member) -> tuple[Check, ...]:
    return checks_of_upright(asked.project, asked.structure, asked.on_walls, member)


def _post(asked: Asked, member: Member) -> tuple[Check, ...]:
    service = service_of_post(asked.project, member)
    return post_checks(asked.terms, service, asked.path, member)


def _floor_slab(asked: Asked, member: Member) -> tuple[Check, ...]:
    rules, terms = asked.terms.ground.slabs, asked.terms
    floor = next((f for f in asked.project.floors if HostName("floor", f.id) == member.host), None)
    return (
        *slab_checks(rules, asked.path, member, asked.project.site.steel),
        *strength_checks(terms, asked.path, member, area_loads(floor)),
    )


def _tie(asked: Asked, member: Member) -> tuple[Check, ...]:
    return tie_checks(asked.terms, asked.roof(member), asked.structure, member)


RIDGE: Final[dict[Code, str]] = {"us": "IRC R802.3", "eu": "common practice"}
"""Where it stands that a ridge board is as deep as what leans on it."""


def _ridge(asked: Asked, member: Member) -> tuple[Check, ...]:
    """A ridge board is as deep as the plumb cut of the rafters that lean on it."""
    sections = sections_of(asked.project.system, asked.project.products)
    known = [
        m
        for m in asked.structure.of(kinds.RAFTER)
        if m.host == member.host and m.section in sections
    ]
    if not known or member.section not in sections:
        return ()
    plumb = max(sections[m.section].depth * math.hypot(1, m.slope) for m in known)
    depth = sections[member.section].depth
    lines = (
        Line("plumb cut", plumb, "run", how="rafter depth / cos(slope)"),
        Line("d", depth, "run"),
    )
    return (Check("Depth for the rafters", plumb / depth, "–", RIDGE[asked.project.code], lines),)


def _short(asked: Asked, member: Member) -> tuple[Check, ...]:
    """Of the chords, those that are no part of a whole truss: the ties of jacks, and the rafters
    of frames set on another roof."""
    if not (is_jack_tie(member) or is_valley_rafter(member)) or member.host not in asked.sizes:
        return ()
    roof = asked.roof(member)
    spacing = asked.sizes[member.host].size.spacing
    count = sum(
        m.host == member.host and is_jack_tie(m) == is_jack_tie(member)
        for m in asked.structure.of(member.kind)
    )
    return short_checks(asked.terms, roof, member, spacing, count) if spacing else ()


CHECKS: Final[dict[MemberKind, Callable[[Asked, Member], tuple[Check, ...]]]] = {
    kinds.FOOTING: _strip,
    kinds.EDGE: _strip,
    kinds.GRADE_BEAM: _grade_beam,
    kinds.SLAB: _slab_on_ground,
    kinds.PAD: _pad,
    kinds.PIER: _pier,
    kinds.STEM: _stem,
    kinds.POST: _post,
    kinds.WALL_STUD: _upright,
    kinds.KING: _upright,
    kinds.GABLE_STUD: _upright,
    kinds.JACK: _upright,
    kinds.LINTEL: _lintel,
    kinds.FLOOR_SLAB: _floor_slab,
    kinds.RIDGE: _ridge,
    kinds.TIE: _tie,
    kinds.STRUT: _post,
    kinds.TOP_CHORD: _short,
    kinds.BOTTOM_CHORD: _short,
}
