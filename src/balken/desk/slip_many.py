"""The slip of several things at once: how many of what, and the fields they share; and of posts,
pads and piers."""

from collections.abc import Callable, Iterable
from functools import partial
from typing import TYPE_CHECKING, Any, TypeVar

from balken.desk.names import by_kind
from balken.drawing.words import pretty
from balken.model.catalogue import sections_of
from balken.model.edits.supports import set_supports, size_supports
from balken.model.names import HostName, Name, keys_of, things_of
from balken.model.project import PointSupport, column, level
from balken.units import format_force, format_length, format_run, parse_angle, parse_length
from balken.works.building import checks_of

if TYPE_CHECKING:
    from balken.desk.window import Window

_T = TypeVar("_T")


def various(values: Iterable[_T]) -> _T | None:
    """The value all share; None where they differ."""
    found = list(values)
    return found[0] if found and all(v == found[0] for v in found) else None


def level_options(w: "Window", name: str, now: str | None, change: Callable[[str], object]) -> None:
    """Offer the levels."""
    values = [(x.name, x.id) for x in reversed(column(w.building.project))]
    w.slip.options(
        name,
        values if now else [("various", ""), *values],
        now or "",
        lambda v: change(v) if v else None,
    )


def fill(w: "Window", keys: tuple[Name, ...]) -> None:
    """Fill the slip for several things."""
    from balken.desk import slip_grids, slip_walls

    there = by_kind(keys)
    slip = w.slip
    slip.title(f"{len(keys)} selected", "")
    words = {"grid": "grid line"}
    slip.line(
        ", ".join(
            f"{len(v)} {words.get(k, k)}{'' if len(v) == 1 else 's'}" for k, v in there.items()
        )
    )
    if len(there) > 1:
        slip.line(
            "Fields stand under each kind; they change all of that kind.", quiet=True, small=True
        )
    for kind, names in there.items():
        slip.heading(f"{words.get(kind, kind)}s", str(len(names)))
        if kind == "wall":
            slip_walls.several_walls(w, tuple(keys_of(names, "wall")))
        elif kind == "opening":
            slip_walls.several_openings(w, tuple(things_of(names, "opening")))
        elif kind == "support":
            supports(w, tuple(keys_of(names, "support")))
        elif kind == "grid":
            slip_grids.several(w, tuple(things_of(names, "grid")))


def one_support(w: "Window", key: str) -> None:
    """Fill the slip for one post, pad or pier."""
    from balken.desk import slip_ground

    item = _support(w, key)
    crossing = ""
    if item.grid:
        of = next(g for g in w.building.project.grids if g.id == item.grid)
        labels = {x.id: x.label for x in of.lines}
        crossing = f"at {labels[item.lines[0]]}/{labels[item.lines[1]]}"
    w.slip.title(item.id, item.kind, crossing)
    low, high = (level(w.building.project, k).elevation for k in (item.base, item.top))
    rise = high + item.top_offset - low - item.base_offset
    if item.kind == "pad" and item.thickness:
        rise = item.thickness
    w.slip.line(
        f"{format_length(rise, w.building.project.system)}"
        f" {'high' if item.kind != 'pad' else 'thick'}"
    )
    if item.kind == "pad":
        slip_ground.pad(w, key)
    if item.kind == "post":
        _post(w, item)
    supports(w, (key,))
    slip_ground.typed_on(w, item)


def _post(w: "Window", item: PointSupport) -> None:
    """Add what a post carries, and its checks."""
    checked, project = w.building.checked, w.building.project
    member = next(
        (m for m in checked.structure.members if m.host == HostName("support", item.id)), None
    )
    if member is None:
        return
    w.slip.line(
        f"{pretty(member.section)} {member.material}, fitted"
        f" {format_length(member.length, project.system)} long"
    )
    forces = checked.path.onto.get(member.id)
    if forces:
        w.slip.fact("carries", format_force(sum(forces), project.system))
    checks = checks_of(checked, member)
    if checks:
        w.slip.heading("Checks", checks[0].combination)
        w.slip.checks(checks, project.system, w.refresh)


def _cut(w: "Window", keys: tuple[str, ...], items: list[PointSupport]) -> None:
    """Add what posts are cut from, and what they are fitted to."""
    sections = sections_of(w.building.project.system, w.building.project.products)
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
                ("DF-L", "No.2") if not sections[name].product else ("", "")
            )
        w.edit("section of post", partial(set_supports, keys=keys, **values))

    def fit(tied: bool | None) -> None:
        if tied is not None:
            w.edit("fit of post", partial(set_supports, keys=keys, tied=tied))

    section, tied = various(s.section for s in items), various(s.tied for s in items)
    choices: list[tuple[str, str | None]] = [
        ("its size alone", ""),
        *((pretty(n), n) for n in names),
    ]
    ties: list[tuple[str, bool | None]] = [
        ("to beam and pad", True),
        ("to its levels alone", False),
    ]
    w.slip.options(
        "cut from", [("various", None), *choices] if section is None else choices, section, cut
    )
    w.slip.options("fitted", [("various", None), *ties] if tied is None else ties, tied, fit)


def _support(w: "Window", key: str) -> PointSupport:
    return next(s for s in w.building.project.point_supports if s.id == key)


def _sized(w: "Window", keys: tuple[str, ...], name: str, text: str) -> object:
    value = parse_length(text, w.building.project.system)
    return w.edit(f"{name} of supports", lambda p: size_supports(p, keys, **{name: value}))


def supports(w: "Window", keys: tuple[str, ...]) -> None:
    """Add the fields of posts, pads and piers."""
    slip, system = w.slip, w.building.project.system
    items = [_support(w, k) for k in keys]

    def edit(words: str, **fields: Any) -> object:
        return w.edit(words, partial(set_supports, keys=keys, **fields))

    def typed(
        words: str, make: Callable[[float], dict[str, Any]], *, negative: bool = False
    ) -> Callable[[str], object]:
        return lambda t: edit(words, **make(parse_length(t, system, negative=negative)))

    def show(value: float | None) -> str:
        return "various" if value is None else format_run(value, system)

    kinds = [("post", "post"), ("pad", "pad"), ("pier", "pier")]
    kind = various(s.kind for s in items)
    slip.options(
        "are" if len(keys) > 1 else "is a",
        kinds if kind else [("various", ""), *kinds],
        kind or "",
        lambda v: edit("kind of support", kind=v) if v else None,
    )
    sections: list[tuple[str, bool | None]] = [("rectangle", False), ("round", True)]
    section = various(s.round for s in items)
    slip.options(
        "section",
        [("various", None), *sections] if section is None else sections,
        section,
        lambda v: edit("section of support", round=v),
    )
    for i, name in enumerate(("width", "depth")):
        slip.field(name, show(various(s.size[i] for s in items)), partial(_sized, w, keys, name))
    level_options(
        w, "from", various(s.base for s in items), lambda v: edit("base of support", base=v)
    )
    level_options(w, "to", various(s.top for s in items), lambda v: edit("top of support", top=v))
    slip.field(
        "foot above it",
        show(various(s.base_offset for s in items)),
        typed("foot", lambda v: {"base_offset": v}, negative=True),
    )
    slip.field(
        "top above it",
        show(various(s.top_offset for s in items)),
        typed("top", lambda v: {"top_offset": v}, negative=True),
    )

    if kind == "pad":
        slip.field(
            "own thickness",
            show(various(s.thickness for s in items)),
            typed("thickness", lambda v: {"thickness": v}),
        )
    if kind == "post":
        _cut(w, keys, items)
    lean = various(s.turn for s in items)
    slip.field(
        "turned by",
        "various" if lean is None else f"{lean:g}°",
        lambda t: edit("turn support", turn=parse_angle(t)),
    )
