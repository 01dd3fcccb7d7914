"""What is changed by hand on one piece alone, and its holes and notches."""

from functools import partial
from typing import Any

from balken.drawing.words import pretty
from balken.framing import kinds
from balken.framing.member import Member
from balken.model.catalogue import sections_of
from balken.model.edits import drop_change
from balken.model.edits.bores import add_bore, drop_bore, set_bore
from balken.model.edits.hosts import change_member, remove_member
from balken.model.names import MemberName
from balken.model.project import Bore, Change, Project
from balken.session.desk import Desk
from balken.session.rows import Button, Field, Heading, Links, Options, Rows
from balken.units import System, format_run, parse_angle, parse_length


def change_of(project: Project, member: MemberName) -> Change | None:
    """What was changed by hand on a piece."""
    return next((c for c in project.changes if c.member == member), None)


def change_words(change: Change, system: System) -> str:
    """A change by hand in words."""
    found = [f"section {pretty(change.section)}"] if change.section else []
    found += ["taken away"] if change.removed else []
    for name, value in (
        ("sideways", change.shift),
        ("along itself", change.along),
        ("up", change.up),
    ):
        found += [f"moved {format_run(value, system)} {name}"] if value else []
    found += [f"turned {change.turn:g}°"] if change.turn else []
    for name, value in zip(("start", "end"), change.longer):
        found += (
            [
                f"{format_run(abs(value), system)} {'longer' if value > 0 else 'shorter'} at its"
                f" {name}"
            ]
            if value
            else []
        )
    return ", ".join(found)


def fields(desk: Desk, m: Member) -> Rows:
    """Add what can be changed on one piece alone."""
    system = desk.system
    change = change_of(desk.project, m.id) or Change(m.id)

    def edit(words: str, **values: Any) -> object:
        return desk.edit(f"{words} {m.mark}", partial(change_member, member=m.id, **values))

    def moved(words: str, make: Any) -> Any:
        return lambda text: edit(words, **make(parse_length(text, system, negative=True)))

    yield Heading("Only this one", "changed by hand" if m.touched else "")
    names = [n for n, s in sections_of(system, desk.project.products).items() if _fits(m, s)]
    yield Options(
        "section",
        [("as the others", None), *((pretty(n), n) for n in names)],
        change.section,
        lambda v: edit("change", section=v),
    )
    yield Field("moved by", format_run(change.shift, system), moved("move", lambda v: {"shift": v}))
    if m.kind.movable:
        yield Field(
            "along itself", format_run(change.along, system), moved("move", lambda v: {"along": v})
        )
        yield Field("up", format_run(change.up, system), moved("move", lambda v: {"up": v}))
        yield Field("turned", f"{change.turn:g}", lambda t: edit("turn", turn=parse_angle(t)))
        ends = change.longer
        yield Field(
            "longer at start",
            format_run(ends[0], system),
            moved("lengthen", lambda v: {"longer": (v, ends[1])}),
        )
        yield Field(
            "longer at end",
            format_run(ends[1], system),
            moved("lengthen", lambda v: {"longer": (ends[0], v)}),
        )
    yield Button(
        "Take away", lambda: desk.edit(f"take {m.mark} away", partial(remove_member, member=m.id))
    )
    if change_of(desk.project, m.id) is not None:
        yield Button(
            "As calculated again",
            lambda: desk.edit(f"reset {m.mark}", partial(drop_change, member=m.id)),
        )
    if m.kind in (
        kinds.JOIST,
        kinds.TRIMMER,
        kinds.HEADER,
        kinds.BEAM,
        kinds.RAFTER,
        kinds.CEILING_JOIST,
    ):
        yield from bores(desk, m)


def _fits(m: Member, s: Any) -> bool:
    if m.kind is kinds.BEAM:
        return s.plies > 1 or s.product is not None or min(s.nominal) >= 4
    return (s.family == "sawn" and s.nominal[0] <= 4) or s.family in ("lvl", "i-joist", "open web")


def bores(desk: Desk, m: Member) -> Rows:
    """Add the holes and notches of a piece."""
    yield Heading("Holes and notches for services")
    for bore in desk.project.bores:
        if bore.member == m.id:
            yield from _bore(desk, bore)
    zs = [z for _, z in m.solid.outline]
    depth = m.solid.depth if m.kind.of_wall else max(zs) - min(zs)
    hole = {"at": round(m.length / 2, 1), "size": round(depth / 5, 1), "up": round(depth / 2, 1)}
    notch = {"kind": "notch", "at": round(m.length * 0.2, 1), "size": round(depth / 8, 1)}

    def add(words: str, fields: dict[str, Any]) -> object:
        return desk.edit(words, lambda p: add_bore(p, m.id, **fields)[0])

    yield Links(
        [
            ("Bore a hole", lambda: add("bore a hole", hole)),
            ("Cut a notch", lambda: add("cut a notch", notch)),
        ]
    )


def _lies(bore: Bore) -> bool:
    """Whether the piece of a hole lies, and has an underside."""
    kind = kinds.named(bore.member)
    return kind is None or not kind.of_wall


def _bore(desk: Desk, bore: Bore) -> Rows:
    system = desk.system

    def edit(words: str, **values: Any) -> object:
        return desk.edit(words, partial(set_bore, key=bore.id, **values))

    kinds = [("hole", "hole"), ("notch in the edge", "notch")]
    yield Options(f"{bore.id} is a", kinds, bore.kind, lambda v: edit("kind of hole", kind=v))
    yield Field(
        "along it",
        format_run(bore.at, system),
        lambda t: edit("move a hole", at=parse_length(t, system)),
    )
    yield Field(
        "size",
        format_run(bore.size, system),
        lambda t: edit("size of a hole", size=parse_length(t, system)),
    )
    if bore.kind == "hole":
        yield Field(
            "middle above underside" if _lies(bore) else "middle from its outer face",
            format_run(bore.up, system),
            lambda t: edit("height of a hole", up=parse_length(t, system)),
        )
    yield Links([("Close it", lambda: desk.edit("close a hole", partial(drop_bore, key=bore.id)))])
