"""Findings on the frames of walls: what of an opening cannot be framed, and by how much."""

import math
from collections.abc import Iterable
from functools import partial
from typing import Final

from balken.fit.finding import Finding, Mend, length_text
from balken.framing import kinds
from balken.framing.hosts.walls import openings_under, rule_of
from balken.framing.member import Member
from balken.geometry.solid import Vector
from balken.model.edits.hosts import take_back
from balken.model.edits.openings import frame_openings
from balken.model.edits.supports import remove_supports
from balken.model.edits.wall_frames import rule_studs_of
from balken.model.names import HostName, MemberName, ThingName
from balken.model.project import Project, wall, wall_top
from balken.model.walls import Wall, arc_middle, called
from balken.works.building import Checked
from balken.works.let_in import let_in_of
from balken.works.terms import terms_of

SLIGHT: Final = 1.0
"""What reaches no further touches, mm."""
PLATE: Final = 38.0
"""mm."""
Box = tuple[Vector, Vector]
CARRY: Final = frozenset(["wall header", "lintel", "jack stud"])
"""What of a wall's frame carries alone: its neighbours take nothing over."""


def wall_findings(checked: Checked) -> Iterable[Finding]:
    """Openings that no frame goes round as they are, and those from which it was taken away by hand."""
    yield from _not_framed(checked)
    yield from _taken_away(checked)
    yield from _too_wide(checked)
    yield from _loads_on_boxes(checked)
    yield from _folding_portals(checked)
    yield from _posts_in_plates(checked)
    yield from _no_room_to_let_in(checked)


def _taken_away(checked: Checked) -> Iterable[Finding]:
    """Headers, lintels and jacks that are taken away by hand: nothing else carries what they did."""
    project = checked.project
    walls = {HostName("wall", w.id): w for w in project.walls}
    for change in project.changes:
        name = change.member
        item = walls.get(name.host)
        if not change.removed or item is None or name.family not in CARRY:
            continue
        yield Finding(
            "unchecked",
            f"{name.family} at {name.row}, {called(item)}",
            1.0,
            "count",
            f"The {name.family} at opening {name.row} of {called(item)} is taken away by hand: what"
            " comes down there is carried by nothing that is checked. Put it back, or take the opening"
            " away.",
            ThingName("walls", item.base),
            at=arc_middle(item),
            mend=Mend("Put it back", partial(take_back, members=(name,))),
        )


def _at_one_place(m: Member) -> bool:
    """Beams, posts and girder trusses; joists and trusses in a row load a header all along."""
    girder = m.kind is kinds.BOTTOM_CHORD and m.id.row.startswith("G")
    return girder or m.kind in (kinds.BEAM, kinds.RIDGE_BEAM, kinds.POST)


def _loads_on_boxes(checked: Checked) -> Iterable[Finding]:
    """Box headers that a beam, a girder truss or a post comes down on: the panels are checked for what is
    spread, not for a load at one place between two uprights."""
    sections = terms_of(checked.built).sections
    by_name = {m.id: m for m in checked.structure.members}
    for m in checked.structure.of(kinds.WALL_HEADER):
        section = sections.get(m.section)
        if section is None or section.box is None:
            continue
        for parcel in checked.path.carried.get(m.id, ()):
            source = by_name.get(parcel.source) if isinstance(parcel.source, MemberName) else None
            if source is None or not _at_one_place(source):
                continue
            item = wall(checked.project, m.host.key)
            at = math.dist(m.start[:2], (parcel.x, parcel.y))
            yield Finding(
                "unchecked",
                f"{m.mark}, {called(item)}",
                at,
                "mm",
                f"{source.mark} comes down on {m.mark} {length_text(checked.project, at)} from its end."
                " A box header is not checked for a load at one place: choose headers built up or of"
                " one piece.",
                m.host,
                (m.id, source.id),
                mend=Mend(
                    "Headers built up",
                    partial(rule_studs_of, keys=(item.id,), header="built up", header_section=""),
                ),
            )


def _folding_portals(checked: Checked) -> Iterable[Finding]:
    """Headers that run on over the panels of portal frames below the plates: the wall can fold over them
    where wind presses on it."""
    for m in checked.structure.of(kinds.WALL_HEADER):
        item = wall(checked.project, m.host.key)
        rule = rule_of(checked.built, item)
        if not m.carrier.hinges or rule is None:
            continue
        under = wall_top(checked.built, item) - rule.top_plates * PLATE
        gap = under - m.solid.bounds()[1][2]
        if gap < PLATE:
            continue
        yield Finding(
            "unchecked",
            f"{m.mark}, {called(item)}",
            gap,
            "mm",
            f"The studs beside the opening under {m.mark} end at it, {length_text(checked.project, gap)}"
            " below the top plates: what ties the wall together there against wind on its face is not"
            " checked (straps by IRC 2021 table R602.10.6.4). Make the header deeper, or the opening"
            " higher.",
            m.host,
            (m.id,),
            at=m.start[:2],
        )


def _too_wide(checked: Checked) -> Iterable[Finding]:
    """Headers held by a person that stand out past the studs."""
    sections = terms_of(checked.built).sections
    depths = {m.host: m.solid.depth for m in checked.structure.of(kinds.JACK)}
    for m in checked.structure.of(kinds.WALL_HEADER):
        section, depth = sections.get(m.section), depths.get(m.host)
        if section is None or depth is None or section.breadth <= depth + SLIGHT:
            continue
        item = wall(checked.project, m.host.key)
        out = section.breadth - depth
        yield Finding(
            "clash",
            f"{m.mark}, {called(item)}",
            out,
            "mm",
            f"{m.mark}, {m.section}, is {length_text(checked.project, out)} wider than the studs"
            f" of {called(item)}. Choose fewer plies, or deeper studs.",
            m.host,
            (m.id,),
            at=m.start[:2],
            mend=Mend("Choose it by calculation", partial(_leave_free, header=m, item=item)),
        )


def _leave_free(project: Project, header: Member, item: Wall) -> Project:
    """Give the section of a header back to the calculation."""
    keys = [o.id for o in openings_under(header, item) if o.header]
    project = frame_openings(project, item.id, keys, header="")
    rule = rule_of(project, item)
    if rule is None or not rule.header_section:
        return project
    return rule_studs_of(project, (item.id,), header_section="")


def _posts_in_plates(checked: Checked) -> Iterable[Finding]:
    """Posts that stand where the plates of a framed wall run through: studs under a beam do better."""
    plates = [
        (m, m.solid.bounds()) for m in checked.structure.of(kinds.BOTTOM_PLATE, kinds.TOP_PLATE)
    ]
    for post in checked.structure.of(kinds.POST):
        mine = post.solid.bounds()
        through = next((p for p, box in plates if _meet(mine, box)), None)
        if through is None:
            continue
        item = wall(checked.project, through.host.key)
        yield Finding(
            "clash",
            f"{post.mark}, {called(item)}",
            PLATE,
            "mm",
            f"Post {post.mark} stands in {called(item)}, and the plates of the wall run through it. What"
            " bears on a framed wall at one place gets studs of its own between the plates: take the"
            " post away, or move it out of the wall.",
            post.host,
            (post.id,),
            at=post.start[:2],
            mend=Mend("Take the post away", partial(remove_supports, keys=(post.host.key,))),
        )


def _no_room_to_let_in(checked: Checked) -> Iterable[Finding]:
    """Walls that are to have a board or strap let in, and have no stretch long enough."""
    for item in checked.project.walls:
        found = let_in_of(checked.project, item)
        if found.short <= SLIGHT:
            continue
        yield Finding(
            "not framed",
            f"let-in brace, {called(item)}",
            found.short,
            "mm",
            f"{called(item)} is to have a {rule_word(checked, item)} let in, no steeper than 60°, and its"
            f" longest stretch between openings lacks {length_text(checked.project, found.short)} for"
            " it. Nail panels on instead, or move an opening.",
            ThingName("walls", item.base),
            at=arc_middle(item),
        )


def rule_word(checked: Checked, item: Wall) -> str:
    """What is let into a wall."""
    rule = rule_of(checked.project, item)
    return rule.let_in if rule is not None else ""


def _meet(a: Box, b: Box) -> bool:
    return all(min(a[1][k], b[1][k]) - max(a[0][k], b[0][k]) > SLIGHT for k in range(3))


def _not_framed(checked: Checked) -> Iterable[Finding]:
    project = checked.project
    for host, lacks in checked.structure.lacks.items():
        item = wall(project, host.key)
        for lack in lacks:
            by = length_text(project, lack.short)
            by += " too much" if lack.too_much else " are lacking"
            yield Finding(
                "not framed",
                f"{lack.hole}, {called(item)}",
                lack.short,
                "mm",
                f"{lack.hole} in {called(item)} {lack.words}: {by}. Move it, make it"
                " smaller, or change how the wall is framed.",
                ThingName("walls", item.base),
                at=arc_middle(item),
            )
