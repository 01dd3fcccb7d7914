"""Remembering: what was asked before is not worked out again, alone or together with others."""

import threading

import pytest

from balken.recall import (
    Recall,
    remembered,
    remembered_each,
    remembered_piece,
    remembering,
)

pytestmark = pytest.mark.forgetful


def test_without_a_recall_nothing_is_remembered() -> None:
    asked: list[int] = []

    @remembered
    def square(n: int) -> int:
        asked.append(n)
        return n * n

    assert (square(3), square(3)) == (9, 9)
    assert asked == [3, 3]
    with remembering():
        assert (square(3), square(3)) == (9, 9)
    assert asked == [3, 3, 3]


def test_a_recall_asks_once_and_forgets_the_least_used() -> None:
    asked: list[int] = []

    @remembered
    def square(n: int) -> int:
        asked.append(n)
        return n * n

    with remembering(Recall(limit=2)):
        assert [square(n) for n in (1, 2, 1, 3, 1, 2)] == [1, 4, 1, 9, 1, 4]
    assert asked == [1, 2, 3, 2], "1 was used again and again, 2 had to go for 3"


def test_what_is_named_is_part_of_the_question() -> None:
    @remembered
    def product(n: int, by: int = 2) -> int:
        return n * by

    with remembering():
        assert [product(3), product(3, by=5), product(3, by=2), product(3)] == [6, 15, 6, 6]


def test_within_another_the_open_one_goes_on() -> None:
    asked: list[int] = []

    @remembered_piece
    def square(n: int) -> int:
        asked.append(n)
        return n * n

    with remembering() as outer:
        square(3)
        with remembering() as inner:
            assert inner is outer
            square(3)
        with remembering(Recall()):
            square(3)
        square(3)
    assert asked == [3, 3]


def test_other_threads_remember_only_what_they_opened_themselves() -> None:
    asked: list[int] = []

    @remembered
    def square(n: int) -> int:
        asked.append(n)
        return n * n

    def work(recall: Recall | None) -> None:
        if recall is None:
            square(3)
        else:
            with remembering(recall):
                square(3)

    with remembering() as mine:
        square(3)
        for given in (None, mine):
            other = threading.Thread(target=work, args=(given,))
            other.start()
            other.join()
    assert asked == [3, 3]


def test_many_are_worked_out_together_and_each_only_once() -> None:
    asked: list[list[int]] = []

    @remembered_each
    def squares(numbers: list[int]) -> list[int]:
        asked.append(list(numbers))
        return [n * n for n in numbers]

    with remembering():
        assert squares([3, 1, 3]) == [9, 1, 9]
        assert squares([1, 2]) == [1, 4]
    assert asked == [[3, 1], [2]]


def test_what_does_not_change_the_result_is_handed_on_and_not_remembered_by() -> None:
    calls: list[str] = []

    @remembered_each
    def words(keys: list[str], how: str) -> list[str]:
        calls.append(how)
        return [k.upper() for k in keys]

    with remembering():
        assert words(["a"], "first") == ["A"]
        assert words(["a"], "second") == ["A"]
    assert calls == ["first"]


def test_more_items_than_are_kept_still_come_out_whole() -> None:
    @remembered_each
    def nexts(ns: list[int]) -> list[int]:
        return [n + 1 for n in ns]

    with remembering(Recall(pieces=4)):
        assert nexts(list(range(20))) == list(range(1, 21))


def test_what_is_asked_for_again_and_again_outlasts_what_only_passes_by() -> None:
    asked: list[int] = []

    @remembered_piece
    def square(n: int) -> int:
        asked.append(n)
        return n * n

    with remembering(Recall(pieces=20)):
        for passing in range(100, 160):
            assert square(3) == 9
            assert square(passing) == passing**2
        assert asked.count(3) == 1, "the one in use was never dropped"
        square(100)
    assert asked.count(100) == 2, "the one that passed by was"


def test_each_finds_what_was_kept_one_by_one_and_the_other_way_round() -> None:
    calls: list[list[int]] = []

    @remembered_each
    def halves(ns: list[int]) -> list[float]:
        calls.append(list(ns))
        return [n / 2 for n in ns]

    with remembering(Recall(pieces=8)):
        for start in range(6):
            assert halves([1, 2, start + 10]) == [0.5, 1.0, (start + 10) / 2]
    assert sum(1 in ns for ns in calls) == 1
