"""The ladder by mouse and keys: tiers and levels are taken where a person would take them, and its
words can be read."""

import itertools
from collections.abc import Callable

import pytest
from desk_hands import Hands
from PySide6.QtCore import Qt
from PySide6.QtGui import QFontMetricsF
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from balken.desk.ladder import LINE, LINE_END, NAMES_END, ROW, Ladder
from balken.desk.paint import polish
from balken.desk.theme import SMALL_PX, font
from balken.desk.window import Window
from balken.model.edits import add_level
from balken.model.names import ThingName
from balken.model.project import Project, level
from balken.session.building import Building
from balken.session.demo import shown_demo
from balken.session.ferry_hall import ferry_hall

BUILDINGS = [shown_demo, ferry_hall]
ACROSS = (20.0, 108.0, 130.0, 150.0, 170.0, 181.0, 228.0)
"""Places across the ladder: names, leaders, lines, heights."""


@pytest.mark.parametrize("building", BUILDINGS)
def test_a_click_anywhere_in_a_tier_where_no_level_is_works_in_it(
    window: Window, qtbot: QtBot, building: Callable[[], Project]
) -> None:
    window.desk.show_building(Building(building()))
    QApplication.processEvents()
    ladder, tried = window.ladder, 0
    for tier in window.desk.tiers:
        middle = (ladder.y_of(tier.low) + ladder.y_of(tier.high)) / 2
        if ladder.tier_at(middle) != tier:
            continue  # a thinner one lies inside it
        for x in ACROSS:
            if not ladder.taken_at(x, middle):
                window.desk.work_in(window.desk.tiers[0].id)
                Hands(qtbot, ladder).click(x, middle)
                assert window.desk.tier_id == tier.id, (tier.name, x)
                tried += 1
        rows = range(int(ladder.y_of(tier.high)) + 1, int(ladder.y_of(tier.low)) + 1)
        free = [y for y in rows if ladder.tier_at(y) == tier and not ladder.taken_at(150.0, y)]
        assert free, f"{tier.name} cannot be taken in its band"
    assert tried > 3 * len(window.desk.tiers)


@pytest.mark.parametrize("building", BUILDINGS)
def test_a_level_is_taken_by_its_name_its_height_and_its_line(
    window: Window, qtbot: QtBot, building: Callable[[], Project]
) -> None:
    window.desk.show_building(Building(building()))
    QApplication.processEvents()
    ladder = window.ladder
    for item in window.desk.project.levels:
        row = next(y for w, y in ladder.words() if w.key == item.id)
        for x, y in (
            (16.0, row),
            (ladder.width() - 12.0, row),
            (145.0, ladder.y_of(item.elevation)),
        ):
            window.desk.select(None)
            Hands(qtbot, ladder).click(x, y)
            found = window.desk.selection
            assert isinstance(found, ThingName), (item.name, x)
            height = level(window.desk.project, found.key).elevation
            assert height == item.elevation, (item.name, x)
            assert found.key == item.id or x == 145.0, "lines may lie on one another, words do not"


def boxes(ladder: Ladder) -> list[tuple[float, float, float, float]]:
    """The boxes of all words, px."""
    metrics, small = QFontMetricsF(font(12)), QFontMetricsF(font(SMALL_PX))
    found = []
    for word, y in ladder.words():
        up, down = y - metrics.capHeight() / 2 - 1, y + metrics.capHeight() / 2 + 2
        if word.name:
            end = min(NAMES_END, 12 + metrics.horizontalAdvance(polish(word.name)))
            found.append((12.0, up, end, down))
        if word.number:
            start = ladder.width() - 5 - small.horizontalAdvance(polish(word.number))
            found.append((start, up, ladder.width() - 5.0, down))
    return found


@pytest.mark.parametrize("building", BUILDINGS)
def test_close_levels_keep_their_words_clear_of_each_other_and_of_all_lines(
    window: Window, building: Callable[[], Project]
) -> None:
    project = building()
    base = project.levels[0].elevation
    for i in range(6):  # six more within a hand's breadth
        project = add_level(project, role="floor", name=f"Near {i}", elevation=base + 20.0 * i + 7)
    window.desk.show_building(Building(project))
    QApplication.processEvents()
    found = boxes(window.ladder)
    for i, (x0, y0, x1, y1) in enumerate(found):
        assert x1 <= LINE or x0 >= LINE_END, "lines lie between names and heights"
        for a0, b0, a1, b1 in found[:i]:
            assert a1 <= x0 or a0 >= x1 or b1 <= y0 or b0 >= y1, "words lie on each other"
    rows = [y for _, y in window.ladder.words()]
    assert all(b - a >= ROW - 0.01 for a, b in itertools.pairwise(rows))


def test_keys_step_through_tiers_and_the_ladder_says_so(window: Window, qtbot: QtBot) -> None:
    window.activateWindow()
    window.ladder.setFocus()
    QApplication.processEvents()
    assert "step through the tiers" in window.desk.said
    ids = [t.id for t in window.desk.tiers]
    window.desk.work_in(ids[0])
    for wanted in ids[1:]:
        qtbot.keyClick(window.ladder, Qt.Key.Key_PageUp)
        assert window.desk.tier_id == wanted
        name = next(t.name for t in window.desk.tiers if t.id == wanted)
        assert name in window.desk.said
        assert name in window.ladder.accessibleName()
    qtbot.keyClick(window.ladder, Qt.Key.Key_PageUp)
    assert window.desk.tier_id == ids[-1], "there it ends"
    qtbot.keyClick(window.ladder, Qt.Key.Key_PageDown)
    assert window.desk.tier_id == ids[-2]
