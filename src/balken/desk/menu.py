"""The menu of what can be done with what is at hand, at the pointer or by key."""

from PySide6.QtCore import QPoint
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QMenu, QWidget

from balken.desk.paint import polish
from balken.session.commands import Command, about_selected, changing, placing
from balken.session.desk import Desk

MOST = 14


def commands_at_hand(desk: Desk) -> list[Command]:
    """What can be done with what is selected, or placed where nothing is."""
    if desk.selected:
        return [*changing(desk), *about_selected(desk)]
    return placing(desk)[:MOST]


def menu_of(desk: Desk, parent: QWidget) -> QMenu:
    """The menu, headed by what it is about."""
    menu = QMenu(parent)
    menu.setAccessibleName("What can be done here")
    head = QAction(polish(_about(desk)), menu)
    head.setEnabled(False)
    menu.addAction(head)
    menu.addSeparator()
    for command in commands_at_hand(desk):
        words = command.words.replace("&", "&&")
        action = QAction(f"{words}\t{command.key}" if command.key else words, menu)
        action.triggered.connect(lambda _=False, act=command.act: act())
        menu.addAction(action)
    return menu


def _about(desk: Desk) -> str:
    name, tier = desk.selection, desk.current_tier()
    if len(desk.selected) > 1:
        return f"{len(desk.selected)} selected"
    if name is not None:
        member = desk.member()
        return member.mark if member else desk.thing(name).called(desk.project, name)
    return tier.name if tier else desk.project.name


def show_menu(desk: Desk, parent: QWidget, place: QPoint) -> None:
    """Show the menu at a place of the screen."""
    menu = menu_of(desk, parent)
    menu.popup(place)
    menu.aboutToHide.connect(menu.deleteLater)
