"""A member: its figure, its checks, what it sits on and carries."""

from collections.abc import Callable, Sequence
from functools import partial

from balken.drawing.layout_figure import layout_figure
from balken.drawing.roof_words import kind_word, square_facts
from balken.drawing.words import pretty
from balken.framing import kinds
from balken.framing.member import Member
from balken.geometry.plane import Point, direction_or, dot, left
from balken.model.catalogue import sections_of
from balken.model.edits.hosts import change_member, remove_host, remove_member
from balken.model.names import HostName, MemberName, Name, Rest, as_host, in_words
from balken.model.project import Change, Project, wall
from balken.model.sections import FAMILY_WORDS
from balken.model.walls import called, direction_of
from balken.session.desk import Desk, DragWay, Pull
from balken.session.rows import Checks, Fact, Figure, Heading, Line, Rows, Sizes, Title
from balken.session.things import pieces, trusses, wall_pieces
from balken.session.things.beam_fields import beam_fields
from balken.session.things.compared import compare_button
from balken.session.things.figures import figure_row
from balken.session.things.load_way import load_way
from balken.session.things.pieces import change_of, change_words
from balken.session.things.run_tops import under_wall
from balken.session.things.sized import hold, host_called
from balken.session.things.wall_pieces import PLATES, has_joint, slid
from balken.units import PCF, format_force, format_length, format_run
from balken.units.quantity import format_volume
from balken.works.building import Checked, checks_of

WOOD_WEIGHT = 32 * PCF
"""Weight of framing lumber for the line on the slip only, N/mm³; common practice, no source."""


def member_slip(desk: Desk, m: Member) -> Rows:
    """The slip of one member."""
    checked = desk.checked
    project, system = desk.project, desk.system
    alike = [
        x
        for x in checked.structure.members
        if (x.role, x.host, x.section, round(x.length))
        == (m.role, m.host, m.section, round(m.length))
    ]
    yield Title(m.mark, kind_word(m), f"{len(alike)} alike" if len(alike) > 1 else "")
    sized = checked.sizes.get(m.host)
    gap = (
        f" at {format_run(sized.size.spacing, system)}"
        if sized and m.carrier.area and sized.size.spacing
        else ""
    )
    weight = (
        format_force(m.solid.volume * WOOD_WEIGHT, system)
        if not m.kind.concrete
        else format_volume(checked.structure.volume(m), system)
    )
    product = sections_of(system, project.products).get(m.section)
    made_of = FAMILY_WORDS[product.family] if product and product.product else m.material
    yield Line(f"{pretty(m.section)} {made_of}{gap} · {format_length(m.length, system)} · {weight}")
    yield figure_row(desk, m)
    checks = checks_of(checked, m)
    if checks:
        yield Heading("Checks", checks[0].combination)
        yield Checks(checks)
    if sized and sized.choices and m.carrier.supports:
        name = host_called(desk, m.host)
        yield Heading(f"Other choices for {name}")
        yield Sizes(sized, lambda c: hold(desk, m.host, c))
        yield from compare_button(desk, m.host)
    yield Heading("Facts")
    if m.carrier.supports:
        names: dict[Rest | None, str] = {HostName("wall", x.id): called(x) for x in project.walls}
        marks: dict[Rest | None, str] = {x.id: x.mark for x in checked.structure.members}
        on = [
            f"{names.get(s.on) or marks.get(s.on) or 'nothing'}, {format_run(s.length, system)}"
            for s in m.carrier.supports
        ]
        yield Fact("sits on", " · ".join(on))
        if m.carrier.area:
            yield Fact("carries", _area(m.carrier.area, system))
    if m.cuts:
        yield Fact("cuts", ", ".join(m.cuts))
    change = change_of(project, m.id)
    yield Fact("by hand", "nothing changed" if change is None else change_words(change, system))
    yield from load_way(desk, m.id)
    if m.host in checked.structure.roofs:
        square = square_facts(project, checked.structure.roofs[m.host], m)
        if square:
            yield Heading("Laid out with the square")
            yield Figure(layout_figure(m, system))
        for name, words in square:
            yield Fact(name, words)
    if m.host.kind == "run":
        yield from under_wall(desk, m)
    yield from trusses.joints(desk, m)
    if m.kind is kinds.BEAM:
        yield from beam_fields(desk, m.host)
    if m.kind.movable or (m.kind is kinds.RAFTER and m.carrier.supports):
        yield from pieces.fields(desk, m)
    if m.kind.of_wall:
        yield from wall_pieces.fields(desk, m)


def _area(mm2: float, system: str) -> str:
    return (
        f"{mm2 / 304.8**2:.1f} sq ft of plan" if system == "us" else f"{mm2 / 1e6:.2f} m² of plan"
    )


def slip_or(host_slip: Callable[[Desk, str], Rows]) -> Callable[[Desk, Name], Rows]:
    """The slip of a member where a name names one, else that of its host by its key."""

    def slip(desk: Desk, name: Name) -> Rows:
        member = desk.member()
        if isinstance(name, MemberName) and member is not None:
            return member_slip(desk, member)
        return host_slip(desk, as_host(name).key)

    return slip


def tier_of(project: Project, name: Name) -> Name | None:
    """Members, and what they belong to, show in the tier of their host."""
    return as_host(name)


def called_member(project: Project, name: Name) -> str:
    """A member by its host, its family and its place; a host in plain words."""
    if isinstance(name, MemberName):
        return f"{name.host.key} {name.family} {name.place}"
    return in_words(name)


def alike_members(checked: Checked, name: Name) -> Sequence[Name]:
    """Members of one role and section in one host."""
    members = checked.structure.members
    one = next((m for m in members if m.id == name), None)
    return [
        m.id
        for m in members
        if one and (m.role, m.host, m.section) == (one.role, one.host, one.section)
    ]


def piece_ways(checked: Checked, name: Name, at: Point) -> DragWay | None:
    """One piece of a floor or bay can be dragged by hand."""
    kind = kinds.named(name) if isinstance(name, MemberName) else None
    if isinstance(name, MemberName) and kind is not None and kind.slides:
        item = next((m for m in checked.structure.members if m.id == name), None)
        if item is not None and kind in PLATES and not has_joint(checked, item):
            return None
        return DragWay(direction_of(wall(checked.project, name.host.key)))
    return DragWay() if kind is not None and kind.movable else None


def piece_moved(checked: Checked, base: Project, name: Name, pull: Pull) -> Project:
    """Move one piece by hand: across itself as its layout does, and along itself."""
    item = next((m for m in checked.structure.members if m.id == name), None)
    if item is None or not isinstance(name, MemberName):
        return base
    if item.kind.slides:
        way = direction_of(wall(base, name.host.key))
        return slid(base, name, dot(pull.by, way), pull.up)
    way = direction_or((item.end[0] - item.start[0], item.end[1] - item.start[1]), (1.0, 0.0))
    old = next((c for c in base.changes if c.member == name), Change(name))
    across, along = dot(pull.by, left(way)), dot(pull.by, way)
    if item.kind.by_row:  # rows are set out along +x with the pieces along +y
        across = -across
    # A hand that means to go sideways is not meant to slip along.
    if abs(along) < abs(across) / 3:
        along = 0.0
    return change_member(
        base, name, shift=round(old.shift + across, 3), along=round(old.along + along, 3)
    )


def take_away(desk: Desk, name: Name) -> None:
    """Take a member away, or the whole of what makes members."""
    member = desk.member()
    if isinstance(name, MemberName) and member is not None and member.kind.removable:
        alone = member.kind.of_wall and member.kind.carries
        if desk.edit(f"take {member.mark} away", partial(remove_member, member=member.id)):
            desk.select(None)
            share = "nothing carries what it did" if alone else "its neighbours carry its share"
            desk.say(f"{member.mark} is taken away; {share}. Ctrl+Z brings it back.")
        return
    if isinstance(name, HostName):
        take_host_away(desk, name)


def take_pieces_away(desk: Desk, names: Sequence[MemberName]) -> None:
    """Take several members away at once."""
    wanted = set(names)
    members = [m for m in desk.checked.structure.members if m.id in wanted and m.kind.removable]

    def without(project: Project) -> Project:
        for m in members:
            project = remove_member(project, m.id)
        return project

    words = f"{len(members)} pieces"
    if members and desk.edit(f"take {words} away", without):
        desk.select(None)
        desk.say(f"{words} are taken away. Ctrl+Z brings them back.")


def take_host_away(desk: Desk, host: HostName) -> None:
    """Take a foundation, a floor or a roof away."""
    tier = desk.tier_of(host)
    if tier is None:
        return
    of_several = host.kind == "run" and len(tier.hosts) > 1
    name = f"foundation {host.key}" if of_several else tier.name
    if desk.edit(f"take {name} away", partial(remove_host, host=host)):
        desk.select(None)
        desk.say(f"{name}: taken away. Ctrl+Z brings it back.")
