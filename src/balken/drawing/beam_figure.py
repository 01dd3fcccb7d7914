"""A beam on the slip: what lies on it and what it lies on, and its shear, moment and deflection
along it."""

from collections.abc import Callable
from typing import Final, Literal

from balken.design.beam_checks import Asked
from balken.design.effects import Diagram, diagram_of
from balken.drawing.marks import Drawing, Fill, Label, Mark, Patch, Stroke, rectangle
from balken.framing.member import Member, Support, apart
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
    steel = asked.strength.lateral is not None
    marks: list[Mark] = [
        Patch(rectangle(LEFT, 0, RIGHT, 5), "shade" if steel else "timber", "seen")
    ]
    if m.carrier.area or m.carrier.line.variable:
        marks.append(Patch(rectangle(LEFT, 5.2, RIGHT, 7.0), "shade", "none"))
    marks += _arrows(asked, system)
    reactions = checked.carrying[m.id].effects.reaction.max(axis=0)
    rests = apart(m.carrier.supports)
    for i, s in enumerate(rests):
        marks += _support(m, s)
        is_end = i in (0, len(rests) - 1)
        if len(rests) <= 4 or is_end:
            x = max(LEFT, min(RIGHT, along(m, s.at)))
            words = format_force(float(reactions[i]), system)
            marks.append(Label(words, (x, -8.6), TEXT, _anchor(i, len(rests))))
    marks += [Label("o", (along(m, h), 1.2), TEXT, bold=True) for h in m.carrier.hinges]
    return marks


def _anchor(i: int, count: int) -> Literal["start", "middle", "end"]:
    """How words under one of some supports stand, so that they stay within the figure."""
    if i == 0:
        return "start"
    return "end" if i == count - 1 else "middle"


def _arrows(asked: Asked, system: System) -> list[Mark]:
    """Forces on a beam as arrows, as long as they are large, with the greatest and the total."""
    m = asked.member
    places: dict[int, float] = {}
    for p in asked.loaded.parcels:
        at = round(station(m, p.x, p.y) / 50)
        places[at] = places.get(at, 0.0) + sum(p.forces.down)
    if not places:
        return []
    greatest = max(abs(f) for f in places.values()) or 1.0
    marks: list[Mark] = []
    for at, force in sorted(places.items(), key=lambda i: -abs(i[1]))[:MOST_ARROWS]:
        x, tall = along(m, at * 50.0), 3.0 + 7.0 * abs(force) / greatest
        marks.append(Stroke(((x, 5.6 + tall), (x, 6.2)), "hair"))
        marks.append(Patch(((x - 0.7, 7.2), (x + 0.7, 7.2), (x, 5.4)), "ink", "none"))
    total = format_force(sum(places.values()), system)
    words = f"most {format_force(greatest, system)}, total {total}"
    return [*marks, Label(words, (50, 18.2), TEXT, quiet=True)]


def _support(m: Member, s: Support) -> list[Mark]:
    """A support: what it hangs at beside its end, or what it lies on under it."""
    x = along(m, s.at)
    if s.hung:
        side = LEFT if s.at < m.length / 2 else RIGHT
        return [
            Stroke(((side, 6.5), (side, -1.5)), "cut"),
            Stroke(((side, -1.0), (x, -1.0)), "cut"),
        ]
    fill: Fill = "none" if s.on else "mark"
    return [Patch(((x, 0), (x - 2.2, -4.0), (x + 2.2, -4.0)), fill, "seen")]


def _band(
    m: Member,
    x: tuple[float, ...],
    pairs: tuple[tuple[float, float], ...],
    name: str,
    zero: float,
    reach: float,
    sign: float,
    write: Callable[[float, System], str],
    system: System,
) -> list[Mark]:
    lows, highs = [low for low, _ in pairs], [high for _, high in pairs]
    top = max((abs(v) for v in (*lows, *highs)), default=0.0)
    if top <= 0:
        return []
    scale = sign * reach / top
    places = [along(m, s) for s in x]
    high = tuple((p, zero + scale * v) for p, v in zip(places, highs))
    low = tuple((p, zero + scale * v) for p, v in zip(places, lows))
    marks: list[Mark] = [
        Patch((*high, *low[::-1]), "shade", "none"),
        Stroke(high, "seen"),
        Stroke(low, "seen"),
        Stroke(((LEFT, zero), (RIGHT, zero)), "cut"),
        Label(name, (LEFT, zero - reach - 4.6), TEXT, "start", quiet=True),
    ]
    for values, value in ((highs, max(highs)), (lows, min(lows))):
        if abs(value) < top / 20:
            continue
        at = min(RIGHT - 9, max(LEFT + 9, places[values.index(value)]))
        beside = zero + scale * value + (1.2 if scale * value > 0 else -4.4)
        text = write(abs(value) if name == "deflection" else value, system)
        marks.append(Label(text, (at, beside), TEXT, bold=True))
    return marks
