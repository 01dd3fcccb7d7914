"""Remembering: what was asked before is not worked out again, alone or together with others."""

from balken.model.memo import Memo


def test_many_are_worked_out_together_and_each_only_once() -> None:
    asked: list[list[int]] = []

    def squares(numbers: list[int]) -> list[int]:
        asked.append(list(numbers))
        return [n * n for n in numbers]

    memo = Memo()
    assert memo.each(squares, [3, 1, 3]) == [9, 1, 9]
    assert memo.each(squares, [1, 2]) == [1, 4]
    assert asked == [[3, 1], [2]]


def test_what_does_not_change_the_result_is_handed_on_and_not_remembered_by() -> None:
    calls: list[str] = []

    def words(keys: list[str], how: str) -> list[str]:
        calls.append(how)
        return [k.upper() for k in keys]

    memo = Memo()
    assert memo.each(words, ["a"], "first") == ["A"]
    assert memo.each(words, ["a"], "second") == ["A"]
    assert calls == ["first"]


def test_more_items_than_are_kept_still_come_out_whole() -> None:
    memo = Memo(small=4)
    assert memo.each(lambda ns: [n + 1 for n in ns], list(range(20))) == list(range(1, 21))


def test_what_is_asked_for_again_and_again_outlasts_what_only_passes_by() -> None:
    asked: list[int] = []

    def square(n: int) -> int:
        asked.append(n)
        return n * n

    memo = Memo(small=20)
    for passing in range(100, 160):
        assert memo.small(square, 3) == 9
        assert memo.small(square, passing) == passing**2
    assert asked.count(3) == 1, "the one in use was never dropped"
    memo.small(square, 100)
    assert asked.count(100) == 2, "the one that passed by was"


def test_each_finds_what_was_kept_one_by_one_and_the_other_way_round() -> None:
    calls: list[list[int]] = []

    def halves(ns: list[int]) -> list[float]:
        calls.append(list(ns))
        return [n / 2 for n in ns]

    memo = Memo(small=8)
    for start in range(6):
        assert memo.each(halves, [1, 2, start + 10]) == [0.5, 1.0, (start + 10) / 2]
    assert sum(1 in ns for ns in calls) == 1
