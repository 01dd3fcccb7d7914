"""What a carpenter lays a rafter out by: the figures of the framing square, in words."""

import math

from balken.design.codes.us.heel_joints import heel_nails
from balken.design.thrust import push_of, pushes
from balken.framing import kinds
from balken.framing.member import Member
from balken.framing.roofs.shape import RoofShape
from balken.geometry import framing_square as square
from balken.model.named import named
from balken.model.names import HostName
from balken.model.project import Project
from balken.units import INCH, System, format_force, format_length, format_run
from balken.works.terms import terms_of


def kind_word(m: Member) -> str:
    """What the trade calls a piece: a rafter by what it runs between, everything else by its
    role."""
    return m.id.family if m.kind is kinds.RAFTER else m.role


def square_facts(project: Project, shape: RoofShape, m: Member) -> list[tuple[str, str]]:
    """The figures of a rafter, hip or valley as names and words; nothing for other pieces.

    A framing square counts on 12 in of run; a metric one on a metre.
    """
    if m.slope < 1e-6 or m.kind not in (kinds.RAFTER, kinds.TRIMMER, kinds.HIP, kinds.VALLEY):
        return []
    system = project.system
    facts = [
        ("line length", f"{format_length(m.length, system)} from {_ends(m)}"),
        ("set the square", _set(m, system)),
    ]
    if m.kind in (kinds.RAFTER, kinds.TRIMMER):
        facts.append(("per run", _per_run(square.common_length(m.slope, 1.0), system)))
        if any("birdsmouth, seat" in c for c in m.cuts):
            facts.append(("height above plate", format_run(shape.heel, system)))
        if m.id.family.endswith(" jack"):
            facts.append(("side cut, regular", _against(square.jack_side_cut(m.slope), system)))
        if pushes(m):
            roof = named(project.roofs, m.host.key, "roof")
            force, name, _ = push_of(terms_of(project), roof, m)
            facts.append(("pushes the plate", f"{format_force(force, system)}, {name}"))
            facts += _nails(project, m)
    else:
        common = m.slope * square.CORNER
        facts.append(("per run of a common", _per_run(square.hip_length(common, 1.0), system)))
        facts.append(("side cut, regular", _against(square.hip_side_cut(common), system)))
    return facts


def _nails(project: Project, m: Member) -> list[tuple[str, str]]:
    """The nails that the code's own table asks of the heel; nothing where its ties lie over
    the plates."""
    roof = next(r for r in project.roofs if HostName("roof", r.id) == m.host)
    tied_up = roof.rafters.ties != "none" and roof.rafters.tie_up
    if project.code != "us" or len(m.carrier.supports) != 2 or tied_up:
        return []
    wide = m.carrier.area / (m.carrier.carries[1] - m.carrier.carries[0]) / INCH
    found = heel_nails(
        m.slope,
        round(wide) * INCH,
        max(roof.snow, roof.live),
        2 * (m.carrier.supports[1].at - m.carrier.supports[0].at),
    )
    return [("nails at the heel", f"{found} of 16d common, IRC 2015 R802.5.1(9)")] if found else []


def _ends(m: Member) -> str:
    foot = "tail" if m.carrier.supports and m.carrier.supports[0].at > 1.0 else "foot"
    return f"{foot} to head, along the top"


def _set(m: Member, system: System) -> str:
    """How the square is set for plumb and level cuts: rise against 12, or against 17 for a
    hip."""
    if m.kind in (kinds.HIP, kinds.VALLEY):
        return f"{m.slope * 12 * square.CORNER:.3g} and 17, {math.degrees(math.atan(m.slope)):.1f}°"
    if system == "us":
        return f"{m.slope * 12:.3g} and 12, {math.degrees(math.atan(m.slope)):.1f}°"
    return f"{m.slope * 1000:.0f} and 1000, {math.degrees(math.atan(m.slope)):.1f}°"


def _per_run(ratio: float, system: System) -> str:
    return f"{ratio * 12:.2f} in a foot" if system == "us" else f"{ratio * 1000:.0f} mm a metre"


def _against(figure: float, system: System) -> str:
    angle = math.degrees(math.atan(figure / square.STEP))
    return (
        f"{figure:.2f} against 12, {angle:.1f}°"
        if system == "us"
        else f"{figure / 12 * 1000:.0f} against 1000, {angle:.1f}°"
    )
