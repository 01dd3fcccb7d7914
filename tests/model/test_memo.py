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
