"""Undo and redo over frozen projects: a snapshot is a reference, so history costs next to
nothing."""

import msgspec

from balken.model.project import Project

DEEPEST = 1000


class Step(msgspec.Struct, frozen=True, gc=False):
    """One edit: what it was called, and the project before and after it."""

    words: str
    before: Project
    after: Project


class History(msgspec.Struct, frozen=True):
    """Done and undone steps, the latest last."""

    done: tuple[Step, ...] = ()
    undone: tuple[Step, ...] = ()


def record(
    history: History, words: str, before: Project, after: Project, *, joined: bool = False
) -> History:
    """Add an edit. ``joined`` makes it one step with the last, as while dragging."""
    if joined and history.done and history.done[-1].words == words:
        last = history.done[-1]
        if after == last.before:  # dragged back to where it was: nothing was done
            return History(history.done[:-1])
        return History((*history.done[:-1], Step(words, last.before, after)))
    return History((*history.done[-DEEPEST:], Step(words, before, after)))


def undo(history: History) -> tuple[History, Step] | None:
    """Take back the last step; None where there is none."""
    if not history.done:
        return None
    step = history.done[-1]
    return History(history.done[:-1], (*history.undone, step)), step


def redo(history: History) -> tuple[History, Step] | None:
    """Do the last undone step again; None where there is none."""
    if not history.undone:
        return None
    step = history.undone[-1]
    return History((*history.done, step), history.undone[:-1]), step
