"""What helps each kind of member: words, and edits at hand that mend it."""

import math
from collections.abc import Callable
from functools import partial
from typing import Final, NamedTuple

from msgspec.structs import replace

from balken.design.basement_walls import TOP_INTO_BOLTS
from balken.design.footing_loads import WIDTH_MODULE
from balken.design.sizing import choices
from balken.fit.finding import Mend, run_text
from balken.framing import kinds
from balken.framing.hosts.walls import rule_of
from balken.framing.kinds import MemberKind
from balken.framing.member import Member
from balken.geometry.plane import TOUCH
from balken.model.beams import Beam, BeamBay
from balken.model.edits import (
    change_member,
    drop_change,
    set_floor,
    set_roof,
    set_run,
)
from balken.model.edits.beams import set_beams
from balken.model.edits.hosts import take_back
from balken.model.edits.openings import frame_openings, set_opening
from balken.model.edits.supports import set_supports
from balken.model.edits.wall_frames import rule_studs_of
from balken.model.floors import FloorArea
from balken.model.named import named
from balken.model.names import HostName, ThingName
from balken.model.project import Project, host_record, wall
from balken.model.roofs import RoofArea
from balken.model.uses import POINTS
from balken.units import INCH, format_run
from balken.works.building import LIFTED, POINT, Checked
from balken.works.carrying import next_section
from balken.works.earth import widest_bolts
from balken.works.headers import MOST_JACKS, under_one_header
from balken.works.lintels import proposed_depth
from balken.works.pads import propose_pad
from balken.works.post_sizes import next_post
from balken.works.records import run_of
from balken.works.strips import proposed_width

BY_CHECK: Final = {
    "Turning over": "Let joists end on it or prop its top otherwise, or make its footing wider",
    "Sliding": "Put a slab at its foot, or make its footing wider",
    TOP_INTO_BOLTS: "Set the anchor bolts closer or larger, or let the floor lean on it otherwise",
    "Tail": "Make the overhang shorter, the seat shallower or the rafters deeper",
    "Tail deflection": "Make the overhang shorter or the rafters deeper",
    "Thrust and bending": "Put a beam under the ridge, or choose deeper rafters",
    "Slenderness": "Choose a thicker section, or hold it between its ends",
}
"""What helps a member by the check that governs it, whatever its kind."""


def _beam_mend(checked: Checked, member: Member) -> Mend | None:
    """Give a beam's size back to the calculation, or take the first that passes of all that are
    sold."""
    project, host = checked.project, member.host
    record = host_record(project, host)
    if any(c.member == member.id and c.section for c in project.changes):
        return Mend("Take back the section changed by hand", partial(drop_change, member=member.id))
    if isinstance(record, Beam | BeamBay) and record.kind.section and record.kind.sizes:
        return Mend(
            "Give its size back to the calculation", partial(set_beams, hosts=(host,), section=None)
        )
    stronger = next_section(checked, member)
    if stronger is None:
        return None
    sized_by_calculation = isinstance(record, Beam | BeamBay) and record.kind.sizes
    if isinstance(record, Beam | BeamBay) and sized_by_calculation:
        # Left to the calculation: it may choose from one more.
        edit = partial(set_beams, hosts=(host,), sizes=(*record.kind.sizes, stronger))
        return Mend(f"Use {stronger}", edit, sizes=True)
    return Mend(f"Use {stronger}", partial(set_beams, hosts=(host,), section=stronger), sizes=True)


def _post_mend(checked: Checked, member: Member) -> Mend | None:
    """Offer a post the next section of its family that carries what comes onto it."""
    section = next_post(checked, member)
    if section is None or member.host.kind != "support":
        return None
    item = named(checked.project.point_supports, member.host.key, "post")
    edit = partial(
        set_supports,
        keys=(item.id,),
        section=section.name,
        size=(section.breadth, section.depth),
        species="" if section.product else item.species,
        grade="" if section.product else item.grade,
    )
    return Mend(f"Use {section.name}", edit, sizes=True)


def _plies_mend(checked: Checked, member: Member) -> Mend | None:
    """Offer the piece with more plies, or the next that carries it."""
    stronger = next_section(checked, member)
    if stronger is None:
        return None
    return Mend(
        f"Make {member.mark} of {stronger}",
        partial(change_member, member=member.id, section=stronger),
        sizes=all(c.member != member.id for c in checked.project.changes),
    )


def _footing_mend(checked: Checked, member: Member) -> Mend | None:
    """Offer the width a strip needs."""
    project = checked.project
    run = run_of(project, member)
    wanted = proposed_width(project, checked.structure, checked.path, run)
    if wanted is None or wanted.size <= run.footing_width + TOUCH:
        return None
    text = f"Make the footing {run_text(project, wanted.size)} wide, for {wanted.why}"
    edit = partial(set_run, key=run.id, footing_width=round(wanted.size, 6))
    return Mend(text, edit, sizes=True)


def _edge_mend(checked: Checked, member: Member) -> Mend | None:
    """Offer the width that the edge of a slab needs for what it presses on the soil."""
    ratio, check = checked.used[member.id]
    if check != "Soil pressure" or not math.isfinite(ratio):
        return None
    project, step = checked.project, WIDTH_MODULE[checked.project.system]
    run = run_of(project, member)
    wide = math.ceil(run.edge_width * ratio / step - 1e-9) * step
    text = f"Make the edge {run_text(project, wide)} wide"
    return Mend(text, partial(set_run, key=run.id, edge_width=round(wide, 6)), sizes=True)


def _pad_mend(checked: Checked, member: Member) -> Mend | None:
    """Offer the side and thickness a pad needs."""
    project = checked.project
    size = propose_pad(project, checked.structure, checked.path, member)
    if size is None:
        return None
    side, thick = size
    text = f"Make the pad {run_text(project, side)} square and {run_text(project, thick)} thick"
    return Mend(
        text,
        partial(
            set_supports,
            keys=(member.host.key,),
            size=(round(side, 6), round(side, 6)),
            thickness=round(thick, 6),
            round=False,
        ),
        sizes=True,
    )


def _lintel_mend(checked: Checked, member: Member) -> Mend | None:
    """Offer the depth a lintel needs, in whole courses."""
    project = checked.project
    thick = proposed_depth(project, checked.path, member)
    if thick is None:
        return None
    name = ThingName("opening", member.host.key, member.id.row)
    text = f"Make the lintel {run_text(project, thick)} deep"
    return Mend(text, partial(set_opening, name=name, lintel=round(thick, 6)), sizes=True)


def _header_mend(checked: Checked, member: Member) -> Mend | None:
    """A header of plies where it is a box or of one piece; by calculation where a person holds it."""
    item = wall(checked.project, member.host.key)
    rule = rule_of(checked.project, item)
    if rule is None:
        return None
    under = under_one_header(checked.structure, item, member.id.row)
    held = [o.id for o in under if o.header or o.jacks]
    if held:
        free = partial(frame_openings, key=item.id, openings=held, header="", jacks=0)
        return Mend("Leave its header and jacks to the calculation", free, sizes=True)
    if rule.header == "built up" and not rule.header_section:
        return None
    edit = partial(rule_studs_of, keys=(item.id,), header="built up", header_section="")
    return Mend("Headers built up, by calculation", edit, sizes=True)


def _jack_mend(checked: Checked, member: Member) -> Mend | None:
    """One more jack under each end of the header."""
    item = wall(checked.project, member.host.key)
    jacks = checked.structure.in_host(member.host, kinds.JACK)
    here = [m for m in jacks if m.id.row == member.id.row and m.id.piece.startswith("l")]
    count = len(here) + 1
    keys = [o.id for o in under_one_header(checked.structure, item, member.id.row)]
    if not keys or count > MOST_JACKS:
        return None
    more = partial(frame_openings, key=item.id, openings=keys, jacks=count)
    return Mend(f"{count} jacks at each side", more)


BOLT_STEP: Final = {"us": INCH, "metric": 25.0}
CLOSEST: Final = 8 * INCH
"""Anchor bolts are offered no closer than this, mm; common practice, no source."""


def _bolts_mend(checked: Checked, member: Member) -> Mend | None:
    """Offer anchor bolts as close as the push of a basement wall's top asks."""
    ratio, name = checked.used[member.id]
    if name != TOP_INTO_BOLTS or not math.isfinite(ratio):
        return None
    project, step = checked.project, BOLT_STEP[checked.project.system]
    mine = [
        m
        for m in checked.structure.of(kinds.STEM)
        if m.host == member.host and checked.used.get(m.id, (0, ""))[1] == name
    ]
    apart = min(widest_bolts(checked.structure, m) / checked.used[m.id][0] for m in mine)
    apart = math.floor(apart / step + 1e-9) * step
    if apart < CLOSEST:
        return None
    run = run_of(project, member)
    return Mend(
        f"Set its anchor bolts {run_text(project, apart)} apart",
        partial(set_run, key=run.id, bolts_apart=round(apart, 6)),
        sizes=True,
    )


def _strength_mend(checked: Checked, host: HostName) -> Mend | None:
    sized = checked.sizes.get(host)
    if sized is None:
        return None
    project = checked.project
    touched = [c.member for c in project.changes if c.member.host == host and c.section]
    if touched:
        back = partial(take_back, members=tuple(touched))
        return Mend("Take back the sections changed by hand", back)
    edit = partial(set_floor if host.kind == "floor" else set_roof, key=host.key)
    record = host_record(project, host)
    if isinstance(record, FloorArea | RoofArea) and (record.section or record.spacing):
        words = "Give size and spacing back to the calculation"
        return Mend(words, partial(edit, section=None, spacing=None))
    best = next((c for c in sized.choices if c.worst <= 1 and c.fits), None)
    if best is None or (best.section, best.spacing) == (sized.size.section, sized.size.spacing):
        return None
    words = f"Use {best.section} at {format_run(best.spacing, project.system)}"
    return Mend(words, partial(edit, section=best.section, spacing=best.spacing), sizes=True)


def _size_mend(checked: Checked, member: Member) -> Mend | None:
    """Another section or more plies of what carries others; another size of the whole floor or
    roof where its joists or rafters are alike."""
    ratio, check = checked.used[member.id]
    if check.startswith((POINT, LIFTED)) and member.host.kind in ("floor", "roof"):
        return _rows_stronger(checked, member.host, ratio, by_wind=check.startswith(LIFTED))
    if member.id in checked.carrying:
        return _plies_mend(checked, member)
    return _strength_mend(checked, member.host)


def _rows_stronger(checked: Checked, host: HostName, ratio: float, *, by_wind: bool) -> Mend | None:
    """The least choice for a floor or roof whose members are stronger by a ratio than now for what
    rows are not chosen by: a load at one place, of which a member gets what its patch leaves it, or
    wind from below, of which it gets its strip."""
    sized, system = checked.sizes.get(host), checked.project.system
    if sized is None or sized.task is None:
        return None
    record = host_record(checked.project, host)
    point = POINTS[checked.project.code].get(record.use) if isinstance(record, FloorArea) else None
    patch = math.inf if by_wind or point is None else point.patch
    modulus = {s.name: s.breadth * s.depth**2 for s in sized.task.offers}

    def strong(section: str, spacing: float) -> float:
        return modulus.get(section, 0.0) / min(spacing, patch)

    now = strong(sized.size.section, sized.size.spacing)
    enough = [
        c
        for c in choices(replace(sized.task, sections=sized.task.offers, spacings=sized.task.gaps))
        if c.passes and strong(c.section, c.spacing) >= now * ratio * (1 - 1e-9)
    ]
    if not enough:
        return None
    best = enough[0]
    edit = set_floor if host.kind == "floor" else set_roof
    words = f"Use {best.section} at {format_run(best.spacing, system)}"
    held = partial(edit, key=host.key, section=best.section, spacing=best.spacing)
    return Mend(words, held, sizes=True)


def _no_mend(checked: Checked, member: Member) -> Mend | None:
    """Nothing at hand: it is set out with the pairs it belongs to."""
    return None


SAME_HEAD: Final = 1.0
"""Openings whose heads lie no further apart may share a header, mm."""


def _king_mend(checked: Checked, member: Member) -> Mend | None:
    """One more king at each side of what it stands beside."""
    item = wall(checked.project, member.host.key)
    opening = next((o for o in item.openings if o.id == member.id.row), None)
    most = 4
    if opening is None or (opening.kings or 1) >= most:
        return None
    head = opening.sill + opening.height
    beside = [o for o in item.openings if abs(o.sill + o.height - head) < SAME_HEAD]
    count = (opening.kings or 1) + 1

    def more(project: Project) -> Project:
        for o in beside:
            project = set_opening(project, ThingName("opening", item.id, o.id), kings=count)
        return project

    return Mend(f"{count} kings at each side", more)


class Advice(NamedTuple):
    """What helps a kind of member, in words and by an edit."""

    over: str = "Choose a stronger section, a closer spacing or a shorter span"
    """Where it is used beyond 1.00 and no mend is at hand."""
    mend: Callable[[Checked, Member], Mend | None] = _size_mend
    """The edit that would make it strong enough, if one does."""
    hanging: str = ""
    """Where it has nothing under an end; of what hands its load on."""


STUDS: Final = "Set the studs closer, choose deeper ones or a better grade"
ADVICE: Final[dict[MemberKind, Advice]] = {
    kinds.FOOTING: Advice("Make the footing wider or thicker", _footing_mend),
    kinds.EDGE: Advice("Make the edge wider", _edge_mend),
    kinds.GRADE_BEAM: Advice("Make the beam wider"),
    kinds.PAD: Advice("Make the pad larger or thicker", _pad_mend),
    kinds.STEM: Advice("Make the wall thicker, or its backfill lower", _bolts_mend),
    kinds.POST: Advice("Cut the post from a larger section", _post_mend),
    kinds.STRUT: Advice("Set the struts closer, or cut them from a larger section", _no_mend),
    kinds.TIE: Advice("Tie more pairs, or cut the ties from a larger section", _no_mend),
    kinds.JOIST: Advice(
        hanging="Put a wall or a beam there, or let the joists run to a wall that is"
    ),
    kinds.CEILING_JOIST: Advice(
        hanging="Put a wall or a beam there, or let the joists run to a wall that is"
    ),
    kinds.RAFTER: Advice(
        hanging="Put a wall or a beam there, or let the rafters run to a wall that is"
    ),
    kinds.TRIMMER: Advice(hanging="Put a wall or a beam there, or move the opening"),
    kinds.HEADER: Advice(hanging="Put a trimmer there, or move the opening"),
    kinds.WALL_STUD: Advice(STUDS, _no_mend),
    kinds.KING: Advice("Set another king beside it, or choose deeper studs", _king_mend),
    kinds.GABLE_STUD: Advice(STUDS, _no_mend),
    kinds.JACK: Advice("Set another jack beside it, or choose deeper studs", _jack_mend),
    kinds.WALL_HEADER: Advice(
        "Make the opening narrower, or cut its header from a product",
        _header_mend,
        hanging="Move the opening into the wall",
    ),
    kinds.LINTEL: Advice(
        "Make the opening narrower, or its lintel deeper",
        _lintel_mend,
        hanging="Move the opening into the wall",
    ),
    kinds.BEAM: Advice(
        mend=_beam_mend,
        hanging="Put a post or a wall under it, or let it run to a beam it can hang on",
    ),
    kinds.LEDGER: Advice(hanging="Fix it to a wall that is there"),
    kinds.RIDGE_BEAM: Advice(hanging="Put a post or a wall under it"),
    kinds.PURLIN: Advice(
        hanging="Put a post or a wall under it; a strut reaches a wall inside that lies no further"
        " aside than the purlin is high"
    ),
    kinds.HIP: Advice(hanging="Put a post there, or let the roof meet over a wall"),
    kinds.VALLEY: Advice(hanging="Put a post there, or let it run to a wall"),
    kinds.BOTTOM_CHORD: Advice(hanging="Put a wall or a beam there, or move the truss"),
}
"""By the kind of member; to those that are not named here the usual helps."""


def advice_for(kind: MemberKind) -> Advice:
    """What helps a kind of member."""
    return ADVICE.get(kind, Advice())
