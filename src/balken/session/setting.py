"""The order of setting looked at step by step: what stands so far, and what is set now."""

from balken.session.desk import Desk
from balken.session.veil import NONE, isolate
from balken.takeoff.setting import Setting, steps_of
from balken.units import format_force


def look_at_step(desk: Desk, by: int) -> None:
    """Look at the next step or the one before; at the first where none is looked at. After the last, all is
    shown as before."""
    checked, now = desk.checked, desk.setting
    if now is None:
        _look(desk, Setting(checked, steps_of(checked), 0 if by > 0 else -1))
        return
    steps = now.steps if now.checked is checked else steps_of(checked)
    _look(desk, Setting(checked, steps, now.number + by))


def look_at_number(desk: Desk, number: int) -> None:
    """Look at a step by its number, from 0."""
    _look(desk, Setting(desk.checked, steps_of(desk.checked), number))


def _look(desk: Desk, wanted: Setting) -> None:
    if not wanted.steps:
        desk.say("There is nothing to set yet.")
        return
    if not 0 <= wanted.number < len(wanted.steps):
        end_setting(desk)
        return
    desk.setting = wanted
    there = [m.id for s in wanted.steps[: wanted.number + 1] for m in s.stage.members]
    step = wanted.steps[wanted.number]
    desk.veil = isolate(desk.veil, frozenset(there))
    desk.view = "space"
    desk.select_rows([m.id for m in step.stage.members])
    desk.say(words_of_step(desk, wanted))


def end_setting(desk: Desk) -> None:
    """Show everything as before: what was hidden or locked still is."""
    desk.setting, desk.veil = None, isolate(desk.veil, NONE)
    desk.select(None)
    desk.say("All is set.")


def words_of_step(desk: Desk, setting: Setting) -> str:
    """What is set in a step, the heaviest lift, on what it sits and what is propped."""
    step = setting.steps[setting.number]
    stage = step.stage
    count = len(stage.members)
    told = [
        f"Step {setting.number + 1} of {len(setting.steps)}: {stage.words},"
        f" {count} piece{'s' if count != 1 else ''}"
    ]
    if stage.lift is not None:
        told.append(f"heaviest lift {format_force(stage.lift, desk.system)}")
    if step.propped:
        told.append(f"propped until {', '.join(step.propped)} is there")
    return f"{'; '.join(told)}."
