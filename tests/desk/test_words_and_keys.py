"""Keys mean one thing each, words read as print, and the two themes can be read."""

import re
from collections import Counter

import pytest
from PySide6.QtGui import QColor

from balken.desk.paint import polish
from balken.desk.slip_parts import shortlist
from balken.desk.theme import DARK, LIGHT, Theme
from balken.desk.window import Window
from balken.session.commands import commands
from named import the


@pytest.mark.parametrize(
    ("plain", "printed"),
    [
        ("12'-6 1/2\"", "12'-6½\""),
        ('3/4"', '¾"'),
        ('gap 3/4"', 'gap ¾"'),
        ('1 5/16"', '1 5/16"'),
        ("B/3", "B/3"),
        ("11/24", "11/24"),
    ],
)
def test_fractions_in_print(plain: str, printed: str) -> None:
    assert polish(plain) == printed


@pytest.mark.parametrize(
    "tier", [the("run:G1"), the("walls:L1"), the("floor:F1"), the("floor:C1"), the("roof:R1")]
)
def test_no_key_means_two_things(window: Window, tier: str) -> None:
    window.desk.work_in(tier)
    keys = Counter(c.key for c in commands(window.desk) if c.key)
    assert [k for k, n in keys.items() if n > 1] == []
    assert all(c.words for c in commands(window.desk))


def luminance(colour: str) -> float:
    """Relative luminance, WCAG 2.1."""
    parts = QColor(colour).getRgbF()[:3]
    linear = [c / 12.92 if c <= 0.03928 else ((c + 0.055) / 1.055) ** 2.4 for c in parts]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


@pytest.mark.parametrize("theme", [LIGHT, DARK], ids=["light", "dark"])
def test_words_stand_out_from_their_ground(theme: Theme) -> None:
    """WCAG 2.1, 1.4.3: 4.5 to 1 for text; quiet words, which repeat what is said elsewhere, 3 to
    1."""
    for ground in (theme.paper, theme.panel, theme.strip):
        for colour, least in ((theme.ink, 7.0), (theme.accent, 4.5), (theme.quiet, 3.0)):
            a, b = sorted((luminance(colour), luminance(ground)))
            assert (b + 0.05) / (a + 0.05) >= least, (colour, ground)


def test_the_short_list_holds_the_choice_and_what_lies_round_it(window: Window) -> None:
    sized = window.desk.building.checked.sizes[the("floor:F2")]
    rows = shortlist(sized, 7)
    assert 3 <= len(rows) <= 7
    assert len(set(rows)) == len(rows)
    assert any((c.section, c.spacing) == (sized.size.section, sized.size.spacing) for c in rows)
    assert [c.cost for c in rows] == sorted(c.cost for c in rows)
    assert any(not c.passes for c in rows), "what just fails shows how far it is"


def test_every_finding_is_told_to_assistive_tools(window: Window) -> None:
    name = window.fit_list.rows.accessibleName()
    assert re.search(r"Plate 1.* gap", name)
