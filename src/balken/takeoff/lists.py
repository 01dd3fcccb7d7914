"""The lists of a building: each piece, lumber and its boards, posts, headers, footings, pads, walls, trusses,
sheets, concrete, fasteners, and what to order."""

from collections import Counter
from collections.abc import Callable, Iterable, Mapping, Sequence
from typing import Final

from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.member import Member
from balken.model.catalogue import sections_of
from balken.model.fasteners import IN_ROWS
from balken.model.names import HostName, Name, ThingName
from balken.model.project import host_records, level, wall_base, wall_build_up, wall_top
from balken.model.walls import called, name_of, wall_length
from balken.takeoff.bars import bar_plans, bars_of
from balken.takeoff.boards import alike_boards
from balken.takeoff.concrete import poured
from balken.takeoff.cost import cost_list
from balken.takeoff.cutting import SectionPlan, cutting_list, section_plans
from balken.takeoff.fasteners import fasteners_to_order
from balken.takeoff.listing import Column, Listing, Row
from balken.takeoff.setting import setting_list
from balken.takeoff.sheets import deck_panels, sheets_of
from balken.takeoff.trusses import truss_kinds
from balken.takeoff.weights import CONCRETE_WEIGHT, called_host, weight_of_member
from balken.units import INCH, format_length
from balken.works.building import Checked
from balken.works.fasteners import demands_of

MARK = Column("mark", "mark")
ROLE = Column("role", "is")
SECTION = Column("section", "section")
MATERIAL = Column("material", "material")
COUNT = Column("count", "count", "count", sums=True)
LENGTH = Column("length", "length", "length")
IN_ALL = Column("in_all", "in all", "length", sums=True)
WEIGHT = Column("weight", "weight", "weight", sums=True)
VOLUME = Column("volume", "volume", "volume", sums=True)
USED = Column("used", "used to", "ratio")
COST = Column("cost", "cost", "money", sums=True)


TITLES: Final[dict[str, str]] = {
    "members": "Pieces",
    "lumber": "Lumber",
    "boards": "Boards",
    "order": "To order",
    "cost": "Cost",
    "setting": "Order of setting",
    "headers": "Headers and lintels",
    "posts": "Posts",
    "beams": "Beams",
    "footings": "Footings and walls",
    "pads": "Pads and piers",
    "walls": "Walls",
    "openings": "Doors and windows",
    "trusses": "Trusses",
    "sheets": "Sheets and insulation",
    "concrete": "Concrete and formwork",
    "bars": "Bars in concrete",
    "fasteners": "Fasteners",
}
"""What the lists are called, by the word they are asked for with."""


def _listing(key: str, columns: Sequence[Column], rows: Iterable[Row]) -> Listing:
    return Listing(key, TITLES[key], tuple(columns), tuple(rows))


def members_list(checked: Checked) -> Listing:
    """Every member with its storey, size, weight and how far it is used."""
    hosts = {h: called_host(r, h.key) for h, r in host_records(checked.built).items()}
    levels = {x.id: x.name for x in checked.project.levels}
    sections = sections_of(checked.project.system, checked.project.products)
    rows = [
        Row(
            (
                m.mark,
                m.role,
                hosts.get(m.host, str(m.host)),
                levels.get(m.level, ""),
                m.section,
                m.material,
                m.length,
                weight_of_member(checked, m, sections),
                *_used(checked, m),
            ),
            (m.id,),
        )
        for m in checked.structure.members
    ]
    columns = (
        MARK,
        ROLE,
        Column("of", "of"),
        Column("level", "level"),
        SECTION,
        MATERIAL,
        LENGTH,
        WEIGHT,
        USED,
        Column("by", "by"),
    )
    return _listing("members", columns, rows)


def _used(checked: Checked, m: Member) -> tuple[float | None, str]:
    found = checked.used.get(m.id)
    return (None, "") if found is None else found


def lumber_list(checked: Checked) -> Listing:
    """Equal pieces together, with what is bought for them."""
    by_mark = {m.mark: m.id for m in checked.structure.members}
    rows = [
        Row(
            (
                x.section,
                x.material,
                x.role,
                x.host.key,
                float(x.count),
                x.length,
                x.count * x.length,
                x.bought or None,
                x.cost,
                "; ".join(x.cuts),
                ", ".join(x.marks),
            ),
            tuple(by_mark[mark] for mark in x.marks if mark in by_mark),
        )
        for x in cutting_list(checked)
    ]
    columns = (
        SECTION,
        MATERIAL,
        ROLE,
        Column("of", "of"),
        COUNT,
        LENGTH,
        IN_ALL,
        Column("bought", "bought", "length", sums=True),
        COST,
        Column("cuts", "end cuts"),
        Column("marks", "marks"),
    )
    return _listing("lumber", columns, rows)


def boards_list(checked: Checked) -> Listing:
    """The boards to cut: alike ones together, with their pieces in order and what is left of each."""
    by_mark = {m.mark: m.id for m in checked.structure.members}
    rows = [row for plan in section_plans(checked) for row in _boards(checked, plan, by_mark)]
    columns = (
        SECTION,
        MATERIAL,
        Column("from", "board", "length"),
        COUNT,
        Column("pieces", "pieces, in order"),
        Column("left", "left of each", "length"),
        Column("bought", "bought", "length", sums=True),
        Column("state", "state"),
        Column("marks", "marks"),
    )
    return _listing("boards", columns, rows)


def _boards(checked: Checked, plan: SectionPlan, by_mark: Mapping[str, Name]) -> Iterable[Row]:
    system = checked.project.system
    for board, count, marks in alike_boards(plan.plan.boards):
        counts = Counter(round(c.length, 1) for c in board.cuts)
        words = ", ".join(
            f"{n} × {format_length(x, system)}" if n > 1 else format_length(x, system)
            for x, n in counts.items()
        )
        yield Row(
            (
                plan.section,
                plan.material + (", at hand" if board.at_hand else ""),
                board.length,
                float(count),
                words,
                board.rest(plan.saw),
                0.0 if board.at_hand else board.length * count,
                _sawn(checked, marks),
                ", ".join(marks),
            ),
            tuple(by_mark[m] for m in marks if m in by_mark),
        )
    for cut in plan.plan.open:
        words = "longer than anything sold"
        yield Row(
            (plan.section, plan.material, None, 1.0, words, None, 0.0, "open", cut.mark),
            (by_mark[cut.mark],) if cut.mark in by_mark else (),
        )


def _sawn(checked: Checked, marks: Sequence[str]) -> str:
    """How much of what a row is cut into the saw has told as cut; nothing where it told nothing yet."""
    sawn = frozenset(checked.project.stock.sawn)
    count = sum(mark in sawn for mark in marks)
    if not sawn:
        return ""
    return "cut" if count == len(marks) else f"{count} of {len(marks)} cut" if count else "open"


def _of_kinds(key: str, *wanted: MemberKind) -> Callable[[Checked], Listing]:
    """A list of some kinds of members: alike ones of one host together."""

    def made(checked: Checked) -> Listing:
        alike: dict[tuple[str, str, str, str, float], list[Member]] = {}
        for m in checked.structure.of(*wanted):
            size = (m.role, m.host.key, m.section, m.material, round(m.length, 1))
            alike.setdefault(size, []).append(m)
        sections = sections_of(checked.project.system, checked.project.products)
        rows = []
        for (role, host, section, material, length), found in alike.items():
            weights = [weight_of_member(checked, m, sections) or 0.0 for m in found]
            worst = max((checked.used[m.id] for m in found if m.id in checked.used), default=None)
            cells = (
                ", ".join(m.mark for m in found),
                role,
                host,
                section,
                material,
                float(len(found)),
                length,
                length * len(found),
                sum(weights),
                worst[0] if worst else None,
                worst[1] if worst else "",
            )
            rows.append(Row(cells, tuple(m.id for m in found)))
        columns = (
            MARK,
            ROLE,
            Column("of", "of"),
            SECTION,
            MATERIAL,
            COUNT,
            LENGTH,
            IN_ALL,
            WEIGHT,
            USED,
            Column("by", "by"),
        )
        return _listing(key, columns, rows)

    return made


def walls_list(checked: Checked) -> Listing:
    """The walls with their type, length, height and area less openings."""
    project = checked.built
    rows = []
    for w in project.walls:
        body = wall_build_up(project, w)
        tall = wall_top(project, w) - wall_base(project, w)
        holes = sum(o.width * o.height for o in w.openings)
        cells = (
            called(w),
            name_of(body, checked.project.system) if body else "",
            level(project, w.base).name,
            wall_length(w),
            tall,
            w.thickness,
            float(len(w.openings)),
            wall_length(w) * tall - holes,
        )
        rows.append(Row(cells, (HostName("wall", w.id),)))
    columns = (
        Column("wall", "wall"),
        Column("type", "built up of"),
        Column("level", "from"),
        Column("length", "length", "length", sums=True),
        Column("height", "height", "length"),
        Column("thick", "thick", "length"),
        Column("openings", "openings", "count", sums=True),
        Column("area", "area without openings", "area", sums=True),
    )
    return _listing("walls", columns, rows)


def openings_list(checked: Checked) -> Listing:
    """Doors, windows and plain openings with their rough sizes."""
    rows = [
        Row(
            (o.id, o.kind, called(w), o.width, o.height, o.sill, o.width * o.height),
            (ThingName("opening", w.id, o.id),),
        )
        for w in checked.built.walls
        for o in w.openings
    ]
    columns = (
        MARK,
        ROLE,
        Column("wall", "in"),
        Column("width", "rough width", "length"),
        Column("height", "rough height", "length"),
        Column("sill", "sill", "length"),
        Column("area", "area", "area", sums=True),
    )
    return _listing("openings", columns, rows)


def trusses_list(checked: Checked) -> Listing:
    """Trusses by kind, with the rows of all that are alike."""
    by_row: dict[tuple[HostName, str], list[Name]] = {}
    for m in checked.structure.members:
        if m.host in checked.trusses:
            by_row.setdefault((m.host, m.id.row), []).append(m.id)
    rows = []
    for k in truss_kinds(checked):
        t, host = k.roof.placed[k.first], HostName("roof", k.record.id)
        names = [n for row in k.rows for n in by_row.get((host, row), ())]
        high = max(z for _, z in t.profile.points)
        worst = k.roof.checks[k.first].worst
        cells = (
            t.row,
            k.record.name,
            f"{t.truss.kind}, {t.use}",
            float(len(k.rows)),
            t.profile.span,
            high,
            float(t.plies),
            worst[0],
            worst[1],
            ", ".join(k.rows),
        )
        rows.append(Row(cells, tuple(names)))
    columns = (
        MARK,
        Column("of", "of"),
        Column("kind", "kind"),
        COUNT,
        Column("span", "span", "length"),
        Column("height", "height", "length"),
        Column("plies", "plies", "count"),
        USED,
        Column("by", "by"),
        Column("rows", "rows"),
    )
    return _listing("trusses", columns, rows)


def sheets_list(checked: Checked) -> Listing:
    """Panels, boards and batts of framed walls, layer by layer, and the panels of decks."""
    rows = [
        Row(
            (
                x.name,
                x.material,
                x.thickness,
                None if x.layer < 0 else x.size.width,
                None if x.layer < 0 else x.size.length,
                float(x.sheets),
                float(x.whole),
                x.area,
            ),
            (HostName("wall", x.wall),),
        )
        for x in sheets_of(checked)
    ]
    rows += [
        Row(
            (
                f"deck {d.member.host.key}",
                "subfloor",
                d.member.solid.depth,
                d.size.width,
                d.size.length,
                float(d.sheets),
                None,
                d.area,
            ),
            (d.member.id,),
        )
        for d in deck_panels(checked)
    ]
    columns = (
        Column("wall", "wall"),
        MATERIAL,
        Column("thick", "thick", "length"),
        Column("width", "width", "length"),
        Column("length", "length", "length"),
        Column("count", "sheets", "count", sums=True),
        Column("whole", "whole", "count", sums=True),
        Column("area", "covers", "area", sums=True),
    )
    return _listing("sheets", columns, rows)


def concrete_table(checked: Checked) -> Listing:
    """Concrete with its volume counted once, and its formwork."""
    rows = [
        Row((p.mark, p.role, p.host.key, p.volume, p.volume * CONCRETE_WEIGHT, p.formed), (p.id,))
        for p in poured(checked)
    ]
    columns = (
        MARK,
        ROLE,
        Column("of", "of"),
        VOLUME,
        WEIGHT,
        Column("forms", "formwork", "area", sums=True),
    )
    return _listing("concrete", columns, rows)


def fasteners_list(checked: Checked) -> Listing:
    """What each fastener, or each row of them, must hold."""
    marks: dict[Name, str] = {m.id: m.mark for m in checked.structure.members}
    chosen = {f.use: f.name for f in checked.project.fasteners}
    rows = []
    for d in demands_of(checked):
        in_rows = d.use in IN_ROWS
        cells = (
            d.use,
            marks.get(d.what, str(d.what)),
            marks.get(d.on, str(d.on)) if d.on is not None else "",
            None if in_rows else d.force,
            d.force * 1000.0 if in_rows else None,
            d.combination,
            chosen.get(d.use, "not chosen"),
        )
        rows.append(Row(cells, (d.what,)))
    columns = (
        Column("use", "use"),
        Column("mark", "of"),
        Column("on", "on"),
        Column("holds", "must hold", "weight"),
        Column("per_metre", "along each metre", "weight"),
        Column("by", "by"),
        Column("chosen", "chosen"),
    )
    return _listing("fasteners", columns, rows)


ALLOWANCE: Final = 1.05
"""Of concrete: what is spilt and what the ground takes more (common practice, no source)."""
ORDER_STEP: Final = {"us": 0.5 * (36 * INCH) ** 3, "metric": 0.25e9}
"""Concrete is ordered in half yards and quarter cubic metres (common practice, no source)."""


def order_list(checked: Checked) -> Listing:
    """What to buy, by the unit it is sold in."""
    rows: list[Row] = []
    for plan in section_plans(checked):
        counts = Counter(b.length for b in plan.plan.boards if not b.at_hand)
        for length, count in sorted(counts.items()):
            words = f"{plan.section} {plan.material}"
            cost = count * length * plan.price
            rows.append(Row(("lumber", words, length, float(count), None, cost)))
    sheets: Counter[tuple[str, float]] = Counter()
    for x in sheets_of(checked):
        if x.layer >= 0:
            sheets[x.material, x.size.length] += x.sheets
    for d in deck_panels(checked):
        sheets["subfloor", d.size.length] += d.sheets
    rows += [
        Row(("sheets", what, long, float(n), None, None))
        for (what, long), n in sorted(sheets.items())
    ]
    whole = sum(p.volume for p in poured(checked)) * ALLOWANCE
    if whole > 0:
        step = ORDER_STEP[checked.project.system]
        ordered = -(-whole // step) * step
        rows.append(Row(("concrete", "ready mixed, 5 % more", None, None, ordered, None)))
    for bar, bars in bar_plans(checked):
        whole_bars = Counter(b.length for b in bars.boards)
        rows += [
            Row(("bars", bar.name, length, float(n), None, None))
            for length, n in sorted(whole_bars.items())
        ]
    rows += [
        Row(("fasteners", x.words, None, float(x.bags or x.number), None, None))
        for x in fasteners_to_order(checked)
    ]
    columns = (
        Column("kind", "kind"),
        Column("what", "what"),
        Column("length", "length", "length"),
        COUNT,
        VOLUME,
        COST,
    )
    return _listing("order", columns, rows)


def bars_list(checked: Checked) -> Listing:
    """The bars that checks chose, with their shape, length and weight."""
    rows = [
        Row(
            (
                x.member.mark,
                x.member.role,
                x.bar.name,
                x.shape,
                float(x.number),
                x.length,
                x.number * x.length,
                x.weight,
            ),
            (x.member.id,),
        )
        for x in bars_of(checked)
    ]
    columns = (
        MARK,
        ROLE,
        Column("bar", "bar"),
        Column("shape", "shape"),
        COUNT,
        LENGTH,
        IN_ALL,
        WEIGHT,
    )
    return _listing("bars", columns, rows)


LISTS: Final[dict[str, Callable[[Checked], Listing]]] = {
    "members": members_list,
    "lumber": lumber_list,
    "boards": boards_list,
    "order": order_list,
    "cost": cost_list,
    "setting": setting_list,
    "headers": _of_kinds("headers", kinds.WALL_HEADER, kinds.LINTEL),
    "posts": _of_kinds("posts", kinds.POST),
    "beams": _of_kinds("beams", kinds.BEAM, kinds.RIDGE_BEAM, kinds.PURLIN),
    "footings": _of_kinds("footings", kinds.FOOTING, kinds.EDGE, kinds.GRADE_BEAM, kinds.STEM),
    "pads": _of_kinds("pads", kinds.PAD, kinds.PIER),
    "walls": walls_list,
    "openings": openings_list,
    "trusses": trusses_list,
    "sheets": sheets_list,
    "concrete": concrete_table,
    "bars": bars_list,
    "fasteners": fasteners_list,
}
"""By the word they are asked for with."""
