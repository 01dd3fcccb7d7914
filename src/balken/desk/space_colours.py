"""By what pieces are coloured in space: what they are of, how far they are used, what changed since an
earlier version."""

import math
from collections.abc import Callable

from PySide6.QtGui import QColor

from balken.desk.space_meshes import rgb
from balken.desk.theme import Theme
from balken.drawing.drawn_over import Over
from balken.drawing.kinds import DRAWN
from balken.framing.member import Member
from balken.framing.rolled import is_rolled
from balken.model.catalogue import sections_of
from balken.model.names import Name
from balken.session.shown import Shown
from balken.works.building import is_over

Colouring = Callable[[Shown, Member, frozenset[Name], frozenset[Name], Theme], str]


def by_reserve(
    building: Shown, m: Member, chosen: frozenset[Name], lit: frozenset[Name], theme: Theme
) -> str:
    """The darker the more it is used; what is over in the colour of what is wrong."""
    del lit
    used = building.checked.used.get(m.id)
    if m.id in chosen:
        return theme.lit
    if used is None:
        return theme.panel
    if is_over(used[0]):
        return theme.accent
    step = min(RESERVE_STEPS, math.ceil(used[0] * RESERVE_STEPS)) / RESERVE_STEPS
    return _between(theme.panel, theme.ink, 0.15 + 0.75 * step)


RESERVE_STEPS = 5
"""Of greys between unused and used up: a fifth each."""


def _between(first: str, second: str, share: float) -> str:
    a, b = rgb(first), rgb(second)
    return QColor.fromRgbF(*(x + (y - x) * share for x, y in zip(a, b))).name()


def by_material(
    building: Shown, m: Member, chosen: frozenset[Name], lit: frozenset[Name], theme: Theme
) -> str:
    """By what they are of; what is selected or lit stands out."""
    if m.id in chosen or m.host in chosen:
        return theme.accent
    if m.id in lit:
        return theme.lit
    sections = sections_of(building.project.system, building.project.products)
    if is_rolled(sections.get(m.section)):
        return theme.steel
    tones = {"concrete": theme.concrete, "pale": theme.panel_wood, "timber": theme.timber}
    return tones[DRAWN[m.kind].tone]


def by_change(
    over: Over,
    building: Shown,
    m: Member,
    chosen: frozenset[Name],
    lit: frozenset[Name],
    theme: Theme,
) -> str:
    """What came or changed since an earlier version stands out of what stayed."""
    if m.id in chosen or m.host in chosen:
        return by_material(building, m, chosen, lit, theme)
    if m.id in over.came:
        return theme.grain
    return theme.timber if m.id in over.changed else theme.panel
