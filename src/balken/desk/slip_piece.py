"""What is changed by hand on one piece: its fields, its holes and notches, and the list of all such
changes."""

from functools import partial
from typing import TYPE_CHECKING, Any

from balken.drawing.words import pretty
from balken.framing import kinds
from balken.framing.member import Member
from balken.model.catalogue import sections_of
from balken.model.edits import change_member, drop_change
from balken.model.edits.bores import add_bore, drop_bore, set_bore
from balken.model.edits.hosts import drop_changes, remove_member
from balken.model.names import MemberName, added_key, added_row, in_words
from balken.model.project import AddedMember, Bore, Change
from balken.units import format_run, parse_angle, parse_length

if TYPE_CHECKING:
    from balken.desk.window import Window


def change_of(w: "Window", member: MemberName) -> Change | None:
    """What was changed by hand on a piece."""
    return next((c for c in w.building.project.changes if c.member == member), None)


def words_of(w: "Window", change: Change) -> str:
    """A change by hand in words."""
    system = w.building.project.system
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


def fields(w: "Window", m: Member) -> None:
    """Add what can be changed on one piece alone."""
    slip, system = w.slip, w.building.project.system
    change = change_of(w, m.id) or Change(m.id)

    def edit(words: str, **values: Any) -> object:
        return w.edit(f"{words} {m.mark}", partial(change_member, member=m.id, **values))

    def moved(words: str, make: Any) -> Any:
        return lambda text: edit(words, **make(parse_length(text, system, negative=True)))

    slip.heading("Only this one", "changed by hand" if m.touched else "")
    names = [n for n, s in sections_of(system, w.building.project.products).items() if _fits(m, s)]
    slip.options(
        "section",
        [("as the others", None), *((pretty(n), n) for n in names)],
        change.section,
        lambda v: edit("change", section=v),
    )
    slip.field("moved by", format_run(change.shift, system), moved("move", lambda v: {"shift": v}))
    if m.kind.movable:
        slip.field(
            "along itself", format_run(change.along, system), moved("move", lambda v: {"along": v})
        )
        slip.field("up", format_run(change.up, system), moved("move", lambda v: {"up": v}))
        slip.field("turned", f"{change.turn:g}", lambda t: edit("turn", turn=parse_angle(t)))
        ends = change.longer
        slip.field(
            "longer at start",
            format_run(ends[0], system),
            moved("lengthen", lambda v: {"longer": (v, ends[1])}),
        )
        slip.field(
            "longer at end",
            format_run(ends[1], system),
            moved("lengthen", lambda v: {"longer": (ends[0], v)}),
        )
    slip.button(
        "Take away", lambda: w.edit(f"take {m.mark} away", partial(remove_member, member=m.id))
    )
    if change_of(w, m.id) is not None:
        slip.button(
            "As calculated again",
            lambda: w.edit(f"reset {m.mark}", partial(drop_change, member=m.id)),
        )
    if m.kind in (
        kinds.JOIST,
        kinds.TRIMMER,
        kinds.HEADER,
        kinds.BEAM,
        kinds.RAFTER,
        kinds.CEILING_JOIST,
    ):
        bores(w, m)


def _fits(m: Member, s: Any) -> bool:
    if m.kind is kinds.BEAM:
        return s.plies > 1 or s.product is not None or min(s.nominal) >= 4
    return (s.family == "sawn" and s.nominal[0] <= 4) or s.family in ("lvl", "i-joist", "open web")


def bores(w: "Window", m: Member) -> None:
    """Add the holes and notches of a piece."""
    slip = w.slip
    slip.heading("Holes and notches for services")
    for bore in w.building.project.bores:
        if bore.member == m.id:
            _bore(w, bore)
    zs = [z for _, z in m.solid.outline]
    depth = max(zs) - min(zs)
    hole = {"at": round(m.length / 2, 1), "size": round(depth / 5, 1), "up": round(depth / 2, 1)}
    notch = {"kind": "notch", "at": round(m.length * 0.2, 1), "size": round(depth / 8, 1)}

    def add(words: str, fields: dict[str, Any]) -> object:
        return w.edit(words, lambda p: add_bore(p, m.id, **fields)[0])

    slip.links(
        [
            ("Bore a hole", lambda: add("bore a hole", hole)),
            ("Cut a notch", lambda: add("cut a notch", notch)),
        ]
    )


def _bore(w: "Window", bore: Bore) -> None:
    slip, system = w.slip, w.building.project.system

    def edit(words: str, **values: Any) -> object:
        return w.edit(words, partial(set_bore, key=bore.id, **values))

    kinds = [("hole", "hole"), ("notch in the edge", "notch")]
    slip.options(f"{bore.id} is a", kinds, bore.kind, lambda v: edit("kind of hole", kind=v))
    slip.field(
        "along it",
        format_run(bore.at, system),
        lambda t: edit("move a hole", at=parse_length(t, system)),
    )
    slip.field(
        "size",
        format_run(bore.size, system),
        lambda t: edit("size of a hole", size=parse_length(t, system)),
    )
    if bore.kind == "hole":
        slip.field(
            "middle above underside",
            format_run(bore.up, system),
            lambda t: edit("height of a hole", up=parse_length(t, system)),
        )
    slip.links([("Close it", lambda: w.edit("close a hole", partial(drop_bore, key=bore.id)))])


def by_hand(w: "Window") -> None:
    """Fill the slip with everything that was changed by hand: to go to, and to take back one by one
    or all."""
    slip, project = w.slip, w.building.project
    count = len(project.changes) + len(project.added)
    slip.title("Changed by hand", "", str(count))
    if not count:
        slip.line(
            "Nothing was changed by hand: every piece is as the rules and the calculation make it.",
            quiet=True,
        )
        return
    slip.line("These stay through every regeneration, until they are taken back.", quiet=True)
    marks = {m.id: m.mark for m in w.building.checked.structure.members}
    hosts = sorted({c.member.host for c in project.changes} | {a.host for a in project.added})
    for host in hosts:
        slip.heading(in_words(host))
        for change in project.changes:
            if change.member.host == host:
                _line(w, change, marks)
        for item in project.added:
            if item.host == host:
                _added(w, item, marks)
        words = f"Take back all of {in_words(host)}"
        slip.links(
            [(words, partial(_edit, w, "take changes back", partial(drop_changes, host=host)))]
        )
    slip.button("Take back everything", lambda: w.edit("take all changes back", drop_changes))


def _edit(w: "Window", words: str, change: Any) -> object:
    return w.edit(words, change)


def _line(w: "Window", change: Change, marks: dict[MemberName, str]) -> None:
    mark = marks.get(change.member, f"{change.member.family} {change.member.place}")
    w.slip.fact(mark, words_of(w, change))
    words: list[tuple[str, Any]] = []
    if change.member in marks:
        words.append(("show", lambda: w.select(change.member)))
    words.append(
        (
            "take back",
            lambda: w.edit("take a change back", partial(drop_change, member=change.member)),
        )
    )
    w.slip.links(words)


def _added(w: "Window", item: AddedMember, marks: dict[MemberName, str]) -> None:
    name = next((k for k in marks if k.host == item.host and added_key(k) == item.id), None)
    w.slip.fact(marks[name] if name else added_row(item.id), "added")
    words: list[tuple[str, Any]] = [("show", lambda: w.select(name))] if name else []
    key = MemberName(item.host, "joist", added_row(item.id))
    words.append(
        ("take back", lambda: w.edit("take a piece back", partial(remove_member, member=key)))
    )
    w.slip.links(words)
