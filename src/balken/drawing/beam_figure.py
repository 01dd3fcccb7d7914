"""A beam on the slip: what lies on it and what it lies on, and its shear, moment and deflection
along it."""

from typing import Final

from balken.design.beam_checks import Asked
from balken.design.effects import Diagram, diagram_of
from balken.drawing.marks import Drawing, Label, Mark, Patch, Stroke, rectangle
from balken.framing.member import Member, apart
from balken.geometry.plane import Point
from balken.loads.parcels import station
from balken.units import System, format_force, format_length, format_moment, format_run
from balken.works.building import Checked

LEFT: Final = 4.0
RIGHT: Final = 96.0
TEXT: Final = 3.4
BANDS: Final = (("shear", -28.0, 9.0), ("moment", -54.0, 10.0), ("deflection", -79.0, 8.0))
"""Each diagram: its name, the height of its zero line, and how far it reaches."""
MOST_ARROWS: Final = 40


def along(member: Member, x: float) -> float:
    """Where a place along a member lies in the figure."""
    return LEFT + (RIGHT - LEFT) * x / member.length


def place_in(member: Member, x: float) -> float:
    """The place along a member under a place of the figure, kept within the member, mm."""
    return min(member.length, max(0.0, (x - LEFT) / (RIGHT - LEFT) * member.length))


def values_at(diagram: Diagram, x: float) -> tuple[float, float, float]:
    """Shear, moment and deflection of greatest size at a place, N, N mm, mm; between
    stations in a straight line."""
    x = min(diagram.x[-1], max(diagram.x[0], x))
    i = next((k for k, s in enumerate(diagram.x) if s >= x - 1e-9), len(diagram.x) - 1)
    j = max(0, i - 1)
    gap = diagram.x[i] - diagram.x[j]
    t = (x - diagram.x[j]) / gap if gap > 1e-9 else 1.0

    def value(pairs: tuple[tuple[float, float], ...]) -> float:
        low = pairs[j][0] + t * (pairs[i][0] - pairs[j][0])
        high = pairs[j][1] + t * (pairs[i][1] - pairs[j][1])
        return high if abs(high) >= abs(low) else low

    return value(diagram.shear), value(diagram.moment), value(diagram.sag)


def words_at(diagram: Diagram, x: float, system: System) -> str:
    """What is told under the pointer."""
    v, m, s = values_at(diagram, x)
    sag = format_run(abs(s), system) + (" up" if s < 0 else "")
    return (
        f"{format_length(x, system)}:  V {format_force(v, system)}   M {format_moment(m, system)} "
        f"  Δ {sag}"
    )


def beam_figure(checked: Checked, member: Member) -> tuple[Drawing, Diagram | None]:
    """The figure of a member that carries others, and its diagram for the pointer."""
    asked = checked.carrying[member.id].asked
    diagram = diagram_of(asked.loaded, asked.strength.ei)
    system = checked.project.system
    marks = _elevation(asked, checked)
    if diagram is not None:
        for (name, zero, reach), pairs, write in zip(
            BANDS,
            (diagram.shear, diagram.moment, diagram.sag),
            (format_force, format_moment, format_run),
        ):
            # Moments and deflections are drawn on the side they stretch: down where they sag.
            marks += _band(
                member,
                diagram.x,
                pairs,
                name,
                zero,
                reach,
                1.0 if name == "shear" else -1.0,
                write,
                system,
            )
    return tuple(marks), diagram


def _elevation(asked: Asked, checked: Checked) -> list[Mark]:
    m, system = asked.member, checked.project.system
    steel = asked.strength.code != "NDS"
    marks: list[Mark] = [
        Patch(rectangle(LEFT, 0, RIGHT, 5), "shade" if steel else "timber", "seen")
    ]
    if m.carrier.area or m.carrier.line.variable:
        marks.append(Patch(rectangle(LEFT, 5.2, RIGHT, 7.0), "shade", "none"))
    places: dict[int, float] = {}
    for p in asked.loaded.parcels:
        at = round(station(m, p.x, p.y) / 50)
        places[at] = places.get(at, 0.0) + sum(p.forces)
    greatest = max((abs(f) for f in places.values()), default=1.0) or 1.0
    for at, force in sorted(places.items(), key=lambda i: -abs(i[1]))[:MOST_ARROWS]:
        x, tall = along(m, at * 50.0), 3.0 + 7.0 * abs(force) / greatest
        marks.append(Stroke(((x, 5.6 + tall), (x, 6.2)), "hair"))
        marks.append(Patch(((x - 0.7, 7.2), (x + 0.7, 7.2), (x, 5.4)), "ink", "none"))
    if places:
        marks.append(
            Label(
                f"most {format_force(greatest, system)}, total"
                f" {format_force(sum(places.values()), system)}",
                (50, 18.2),
                TEXT,
                quiet=True,
            )
        )
    reactions = checked.carrying[m.id].effects.reaction.max(axis=0)
    rests = apart(m.carrier.supports)
    for i, s in enumerate(rests):
        x = along(m, s.at)
        if s.hung:
            side = LEFT if s.at < m.length / 2 else RIGHT
            marks += [
                Stroke(((side, 6.5), (side, -1.5)), "cut"),
                Stroke(((side, -1.0), (x, -1.0)), "cut"),
            ]
        else:
            marks.append(
                Patch(
                    ((x, 0), (x - 2.2, -4.0), (x + 2.2, -4.0)), "none" if s.on else "mark", "seen"
                )
            )
        if len(rests) <= 4 or i in (0, len(rests) - 1):
            anchor = "start" if i == 0 else "end" if i == len(rests) - 1 else "middle"
            spot: Point = (max(LEFT, min(RIGHT, x)), -8.6)
            marks.append(Label(format_force(float(reactions[i]), system), spot, TEXT, anchor))  # type: ignore[arg-type]
    for h in m.carrier.hinges:
        marks.append(Label("o", (along(m, h), 1.2), TEXT, bold=True))
    return marks


def _band(
    m: Member,
    x: tuple[float, ...],
    pairs: tuple[tuple[float, float], ...],
    name: str,
    zero: float,
    reach: float,
    sign: float,
    write: object,
    system: System,
) -> list[Mark]:
    top = max((abs(v) for pair in pairs for v in pair), default=0.0)
    if top <= 0:
        return []
    scale = sign * reach / top
    high = tuple((along(m, s), zero + scale * pair[1]) for s, pair in zip(x, pairs))
    low = tuple((along(m, s), zero + scale * pair[0]) for s, pair in zip(x, pairs))
    marks: list[Mark] = [
        Patch((*high, *low[::-1]), "shade", "none"),
        Stroke(high, "seen"),
        Stroke(low, "seen"),
        Stroke(((LEFT, zero), (RIGHT, zero)), "cut"),
        Label(name, (LEFT, zero - reach - 4.6), TEXT, "start", quiet=True),
    ]
    for k, pick in ((1, max), (0, min)):
        value = pick(pair[k] for pair in pairs)
        if abs(value) < top / 20:
            continue
        i = next(n for n, pair in enumerate(pairs) if pair[k] == value)
        at = (min(RIGHT - 9, max(LEFT + 9, along(m, x[i]))), zero + scale * value)
        text = write(abs(value) if name == "deflection" else value, system)  # type: ignore[operator]
        marks.append(
            Label(text, (at[0], at[1] + (1.2 if scale * value > 0 else -4.4)), TEXT, bold=True)
        )
    return marks
