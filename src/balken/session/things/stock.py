"""The page of what lumber is cut from: lengths, kerf, trim, what is kept, offcuts at hand; and how near the
plan comes to the least that could be bought."""

from functools import partial
from typing import Any

from msgspec.structs import replace

from balken.errors import BalkenError
from balken.exchange.files import read_bytes, write_all
from balken.exchange.saw_csv import LARGEST, read_told, saw_list
from balken.model.catalogue import catalogue_of
from balken.model.edits.prices import add_offcut, drop_offcut, set_stock
from balken.model.stock import Offcut
from balken.progress import Tell
from balken.recall import remembering
from balken.session.desk import Desk
from balken.session.rows import Button, Fact, Field, Heading, Line, Link, Rows, Title
from balken.takeoff.boards import longest_first
from balken.takeoff.cutting import SectionPlan, cut_from_lengths, section_plans
from balken.units import format_length, format_run, parse_length


def stock(desk: Desk) -> Rows:
    """How lumber is bought and cut."""
    rule, system = desk.project.stock, desk.system

    def put(words: str, **fields: Any) -> object:
        return desk.edit(words, partial(set_stock, **fields))

    def length(field: str, text: str) -> object:
        return put("cutting", **{field: parse_length(text, system)})

    yield Title("Cutting", "what lumber comes from")
    sold = rule.lengths or catalogue_of(system).stock
    yield Field(
        "lengths sold",
        "as usual" if not rule.lengths else ", ".join(format_run(x, system) for x in sold),
        lambda t: put("lengths sold", lengths=_lengths(desk, t)),
        example="8', 12', 16'" if system == "us" else "2400, 3600, 4800",
    )
    yield Field("saw takes", format_run(rule.kerf, system), partial(length, "kerf"))
    yield Field("end trim", format_run(rule.trim, system), partial(length, "trim"))
    yield Field("offcuts kept from", format_run(rule.keep, system), partial(length, "keep"))
    yield Heading("Offcuts at hand", f"{sum(o.count for o in rule.offcuts)}")
    for n, o in enumerate(rule.offcuts):
        words = f"{o.count} × {o.section} {o.material}, {format_length(o.length, system)}"
        away = partial(desk.edit, "take an offcut out", partial(drop_offcut, number=n))
        yield Link(words, "take away", away)
    yield Field("one more", "", partial(_offcut, desk), example="2x10, DF-L No.2, 5', 3")
    yield from _plan(desk)


def _lengths(desk: Desk, text: str) -> tuple[float, ...]:
    """Lengths with commas between; as usual where nothing."""
    if text.strip().lower() in ("", "as usual"):
        return ()
    return tuple(sorted({parse_length(x, desk.system) for x in text.split(",") if x.strip()}))


def _offcut(desk: Desk, text: str) -> object:
    parts = [p.strip() for p in text.split(",")]
    if len(parts) not in (3, 4) or (len(parts) == 4 and not parts[3].isdigit()):
        raise BalkenError("Write section, material, length, how many: 2x10, DF-L No.2, 5', 3.")
    known = {(p.section, p.material) for p in section_plans(desk.checked)}
    section = parts[0].replace("×", "x")
    if (section, parts[1]) not in known:
        offered = ", ".join(f"{s} {m}" for s, m in sorted(known)[:6])
        raise BalkenError(f"Nothing of {parts[0]} {parts[1]} is cut here; there are {offered}.")
    count = int(parts[3]) if len(parts) == 4 else 1
    offcut = Offcut(section, parts[1], parse_length(parts[2], desk.system), count)
    return desk.edit("keep an offcut", partial(add_offcut, offcut=offcut))


def _plan(desk: Desk) -> Rows:
    """What is bought, beside the least that could be and what a yard would buy by eye."""
    plans = cut_from_lengths(desk.checked)
    bought, least = sum(p.plan.bought for p in plans), sum(p.plan.bound for p in plans)
    yield Heading("The plan")
    if not plans or least <= 0:
        yield Line("Nothing is cut from lengths yet.", quiet=True)
        return
    refined = desk.project.stock.refined
    eye, say = sum(_by_eye(p) for p in plans), partial(format_length, system=desk.system)
    yield Fact("bought", f"{say(bought)} in {sum(len(p.plan.boards) for p in plans)} boards")
    word = "least there could be" if refined else "what the pieces take"
    yield Fact(word, f"{say(least)}; the plan has {bought / least:.3f} of it")
    yield Fact("longest first, by eye", f"{say(eye)}, {eye / least:.3f} of it")
    long = sum(len(p.plan.open) for p in plans)
    if long:
        yield Fact("longer than sold", f"{long} pieces: see the fit list")
    if refined:
        back = partial(desk.edit, "plan at once", partial(set_stock, refined=False))
        yield Button("Take the plan that is there at once", back)
    else:
        yield Button("Refine the plan", partial(_refine, desk))
    yield Line("The lists Boards and To order (5) have it board by board.", quiet=True)
    yield Heading(
        "At the saw", f"{len(desk.project.stock.sawn)} cut" if desk.project.stock.sawn else ""
    )
    yield Button("Write the list for the saw …", partial(_write_saw_list, desk))
    yield Button("Read what the saw told …", partial(_read_saw, desk))
    if desk.project.stock.sawn:
        forget = partial(desk.edit, "forget what was cut", partial(set_stock, sawn=()))
        yield Button("Forget what was cut", forget)


def _write_saw_list(desk: Desk) -> None:
    path = desk.face.file_to_write("List for the saw", "saw.csv", "Lists (*.csv)")
    if path is not None:
        write_all(path.parent, {path.name: saw_list(section_plans(desk.checked)).encode()})
        desk.say(f"Saved as {path}.")


def _read_saw(desk: Desk) -> None:
    """Take in which pieces the saw has cut; what it left open is told."""
    path = desk.face.file_to_open("What the saw told", "Lists (*.csv)")
    if path is None:
        return
    told = read_told(read_bytes(path, LARGEST).decode("utf-8-sig", "replace"))
    there = {m.mark for m in desk.checked.structure.members}
    cut = {x.mark for x in told if x.state == "cut"} & there
    left = [x for x in told if x.state == "open"]
    sawn = tuple(sorted({*desk.project.stock.sawn, *cut} - {x.mark for x in left}))
    desk.edit("what the saw cut", partial(set_stock, sawn=sawn))
    why = f"; open: {left[0].mark}, {left[0].why}" if left else ""
    desk.say(f"{len(cut)} pieces of this building are cut, {len(left)} open{why}.")


def _by_eye(of: SectionPlan) -> float:
    cuts = [c for b in of.plan.boards if not b.at_hand for c in b.cuts]
    return sum(b.length for b in longest_first(cuts, of.saw))


def _refine(desk: Desk) -> None:
    """Look for less to buy apart from the window; where some is found, the lists have it from then on."""
    checked, recall = desk.checked, desk.building.recall
    rule = replace(checked.project.stock, refined=True)
    asked = replace(checked, project=replace(checked.project, stock=rule))

    def work(tell: Tell) -> tuple[float, float]:
        with remembering(recall):  # the lists find it there
            fine = cut_from_lengths(asked, tell)
        return sum(p.plan.bought for p in fine), sum(p.plan.bound for p in fine)

    def done(found: tuple[float, float]) -> None:
        better, least = found
        less = sum(p.plan.bought for p in cut_from_lengths(checked)) - better
        words = f"{better / least:.4f} of the least there could be"
        if less < 1.0:
            desk.say(f"Nothing less was found: the plan that is there has {words}.")
            return
        desk.edit("refine the cutting plan", partial(set_stock, refined=True))
        desk.say(f"{format_length(less, desk.system)} less to buy: {words}.")

    desk.face.apart_telling(work, done, desk.say)
