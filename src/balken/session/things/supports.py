"""A post, pad or pier."""

from collections.abc import Callable, Sequence
from functools import partial
from typing import Any

from balken.drawing.figure import figure
from balken.drawing.words import pretty
from balken.model.catalogue import sections_of
from balken.model.edits.supports import set_supports, size_supports
from balken.model.edits.transform import move
from balken.model.names import HostName, MemberName, Name, as_host, keys_of
from balken.model.project import PointSupport, Project, level
from balken.model.usual import WOOD
from balken.session.desk import Desk, DragWay, Pull, Thing
from balken.session.rows import (
    Button,
    Checks,
    Fact,
    Field,
    Figure,
    Heading,
    Line,
    Options,
    Rows,
    Title,
)
from balken.session.things.fields import level_options, various
from balken.session.things.groups import ALONE, group_named
from balken.session.things.load_way import load_way
from balken.session.things.members import tier_of
from balken.session.things.typed_loads import load_fields
from balken.units import (
    format_force,
    format_length,
    format_moment,
    format_run,
    parse_angle,
    parse_length,
)
from balken.units.quantity import parse_force, parse_moment
from balken.works.building import Checked, checks_of
from balken.works.pads import propose_pad


def _one(desk: Desk, name: Name) -> Rows:
    key = as_host(name).key
    item = _support(desk, key)
    crossing = ""
    if item.grid:
        of = next(g for g in desk.project.grids if g.id == item.grid)
        labels = {x.id: x.label for x in of.lines}
        crossing = f"at {labels[item.lines[0]]}/{labels[item.lines[1]]}"
    yield Title(item.id, item.kind, crossing)
    low, high = (level(desk.project, k).elevation for k in (item.base, item.top))
    rise = high + item.top_offset - low - item.base_offset
    if item.kind == "pad" and item.thickness:
        rise = item.thickness
    yield Line(f"{format_length(rise, desk.system)} {'high' if item.kind != 'pad' else 'thick'}")
    if item.kind == "pad":
        yield from _pad(desk, key)
    if item.kind == "post":
        yield from _post(desk, item)
    for member in desk.members_of(HostName("support", key))[:1]:
        yield from load_way(desk, member.id)
    yield from _fields(desk, (key,))
    yield from _typed_on(desk, item)


def _post(desk: Desk, item: PointSupport) -> Rows:
    """Add what a post carries, and its checks."""
    checked, project = desk.checked, desk.project
    member = next(
        (m for m in checked.structure.members if m.host == HostName("support", item.id)), None
    )
    if member is None:
        return
    yield Line(
        f"{pretty(member.section)} {member.material}, fitted"
        f" {format_length(member.length, project.system)} long"
    )
    forces = checked.path.onto.get(member.id)
    if forces:
        yield Fact("carries", format_force(sum(forces.down), project.system))
    checks = checks_of(checked, member)
    if checks:
        yield Heading("Checks", checks[0].combination)
        yield Checks(checks)


def _cut(desk: Desk, keys: tuple[str, ...], items: list[PointSupport]) -> Rows:
    """Add what posts are cut from, and what they are fitted to."""
    sections = sections_of(desk.system, desk.project.products)
    names = [
        n
        for n, s in sections.items()
        if s.family in ("glulam", "steel hollow") or min(s.nominal) >= 4 or s.plies > 1
    ]

    def cut(name: str | None) -> None:
        if name is None:
            return
        values: dict[str, Any] = {"section": name}
        if name:
            values["size"] = (sections[name].breadth, sections[name].depth)
            values["species"], values["grade"] = (
                WOOD[desk.project.code][:2] if not sections[name].product else ("", "")
            )
        desk.edit("section of post", partial(set_supports, keys=keys, **values))

    def fit(tied: bool | None) -> None:
        if tied is not None:
            desk.edit("fit of post", partial(set_supports, keys=keys, tied=tied))

    section, tied = various(s.section for s in items), various(s.tied for s in items)
    choices: list[tuple[str, str | None]] = [
        ("its size alone", ""),
        *((pretty(n), n) for n in names),
    ]
    ties: list[tuple[str, bool | None]] = [
        ("to beam and pad", True),
        ("to its levels alone", False),
    ]
    yield Options(
        "cut from", [("various", None), *choices] if section is None else choices, section, cut
    )
    yield Options("fitted", [("various", None), *ties] if tied is None else ties, tied, fit)


def _support(desk: Desk, key: str) -> PointSupport:
    return next(s for s in desk.project.point_supports if s.id == key)


def _sized(desk: Desk, keys: tuple[str, ...], name: str, text: str) -> object:
    value = parse_length(text, desk.system)
    return desk.edit(f"{name} of supports", lambda p: size_supports(p, keys, **{name: value}))


def _fields(desk: Desk, keys: tuple[str, ...]) -> Rows:
    """Add the fields of posts, pads and piers."""
    system = desk.system
    items = [_support(desk, k) for k in keys]

    def edit(words: str, **fields: Any) -> object:
        return desk.edit(words, partial(set_supports, keys=keys, **fields))

    def typed(
        words: str, make: Callable[[float], dict[str, Any]], *, negative: bool = False
    ) -> Callable[[str], object]:
        return lambda t: edit(words, **make(parse_length(t, system, negative=negative)))

    def show(value: float | None) -> str:
        return "various" if value is None else format_run(value, system)

    kinds = [("post", "post"), ("pad", "pad"), ("pier", "pier")]
    kind = various(s.kind for s in items)
    yield Options(
        "are" if len(keys) > 1 else "is a",
        kinds if kind else [("various", ""), *kinds],
        kind or "",
        lambda v: edit("kind of support", kind=v) if v else None,
    )
    sections: list[tuple[str, bool | None]] = [("rectangle", False), ("round", True)]
    section = various(s.round for s in items)
    yield Options(
        "section",
        [("various", None), *sections] if section is None else sections,
        section,
        lambda v: edit("section of support", round=v),
    )
    for i, name in enumerate(("width", "depth")):
        yield Field(
            name, show(various(s.size[i] for s in items)), partial(_sized, desk, keys, name)
        )
    yield level_options(
        desk.project,
        "from",
        various(s.base for s in items),
        lambda v: edit("base of support", base=v),
    )
    yield level_options(
        desk.project, "to", various(s.top for s in items), lambda v: edit("top of support", top=v)
    )
    yield Field(
        "foot above it",
        show(various(s.base_offset for s in items)),
        typed("foot", lambda v: {"base_offset": v}, negative=True),
    )
    yield Field(
        "top above it",
        show(various(s.top_offset for s in items)),
        typed("top", lambda v: {"top_offset": v}, negative=True),
    )

    if kind == "pad":
        yield Field(
            "own thickness",
            show(various(s.thickness for s in items)),
            typed("thickness", lambda v: {"thickness": v}),
        )
    if kind == "post":
        yield from _cut(desk, keys, items)
    group = various(s.group for s in items)
    yield Field(
        "sized with",
        "various" if group is None else group or ALONE,
        lambda t: edit("group of supports", group=group_named(t)),
        example="posts on A",
    )
    lean = various(s.turn for s in items)
    yield Field(
        "turned by",
        "various" if lean is None else f"{lean:g}°",
        lambda t: edit("turn support", turn=parse_angle(t)),
    )


def _pad(desk: Desk, key: str) -> Rows:
    """Add a pad's figure, its checks, and the size that would do."""
    checked = desk.checked
    m = next((x for x in checked.structure.members if x.host == HostName("support", key)), None)
    if m is None:
        return
    system = checked.project.system
    yield Figure(figure(checked, m))
    checks = checks_of(checked, m)
    yield Heading("Checks", checks[0].combination)
    yield Checks(checks)
    size = propose_pad(checked.project, checked.structure, checked.path, m)
    if size is None:
        yield Line(
            "No square pad within reach would pass: the soil is too weak for this load.", quiet=True
        )
        return
    side, thick = (round(v, 6) for v in size)
    words = f"Make it {format_run(side, system)} square, {format_run(thick, system)} thick"
    change = partial(set_supports, keys=[key], size=(side, side), thickness=thick, round=False)
    yield Button(words, lambda: desk.edit(f"size of pad {key}", change))


def _typed_on(desk: Desk, item: PointSupport) -> Rows:
    """Add the loads typed on a post, pad or pier; until beams bring their own, they stand for what
    comes down there."""
    system = desk.system
    yield Heading("Typed load on it")
    yield from load_fields(
        desk, item.loads, parse_force, format_force, partial(set_supports, keys=[item.id])
    )
    if item.kind != "pad":
        return
    yield Field(
        "uplift",
        format_force(item.uplift, system),
        lambda t: desk.edit(
            "uplift", partial(set_supports, keys=[item.id], uplift=parse_force(t, system))
        ),
    )
    for i, name in enumerate(("moment along width", "moment along depth")):

        def tilt(text: str, i: int = i) -> object:
            value = parse_moment(text, system)
            moments = tuple(value if k == i else q for k, q in enumerate(item.moments))
            return desk.edit("moment", partial(set_supports, keys=[item.id], moments=moments))

        yield Field(name, format_moment(item.moments[i], system), tilt)


def _several(desk: Desk, names: tuple[Name, ...]) -> Rows:
    return _fields(desk, tuple(keys_of(names, "support")))


def _found(project: Project, name: Name) -> PointSupport | None:
    return next((s for s in project.point_supports if s.id == as_host(name).key), None)


def _called(project: Project, name: Name) -> str:
    found = _found(project, name)
    return f"{found.kind} {found.id}" if found else ""


def _alike(checked: Checked, name: Name) -> Sequence[Name]:
    """Posts, pads or piers of one size on one level."""
    one = _found(checked.project, name)
    return [
        MemberName(HostName("support", s.id), s.kind, "1")
        for s in checked.project.point_supports
        if one and (s.kind, s.size, s.base) == (one.kind, one.size, one.base)
    ]


def _here(desk: Desk) -> Sequence[Name]:
    return [m.id for m in desk.checked.structure.members if m.host.kind == "support"]


def _moved(checked: Checked, base: Project, name: Name, pull: Pull) -> Project:
    return move(base, (name,), pull.by)


SUPPORT = Thing(
    "support",
    "support",
    _one,
    there=lambda project, name: _found(project, name) is not None,
    called=_called,
    tier=tier_of,
    alike=_alike,
    here=_here,
    ways=lambda checked, name, at: DragWay(),
    moved=_moved,
    several=_several,
)
