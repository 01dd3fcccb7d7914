"""Lists under the board: chosen, filtered by what is typed, put in order by a click on a heading, grouped; a
line that is chosen selects its pieces, and what is selected stands out in the list."""

from collections.abc import Callable
from functools import partial
from typing import Any, Final

from PySide6.QtCore import (
    QAbstractTableModel,
    QItemSelection,
    QItemSelectionModel,
    QModelIndex,
    QPersistentModelIndex,
    Qt,
)
from PySide6.QtGui import QColor, QKeyEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QPushButton,
    QTableView,
    QVBoxLayout,
    QWidget,
)

from balken.desk.chooser import Chooser
from balken.desk.paint import polish
from balken.desk.plain import PlainLabel
from balken.desk.slip_parts import Refusal
from balken.desk.theme import Theme, font
from balken.errors import BalkenError
from balken.recall import remembering
from balken.session.desk import Desk
from balken.session.lists import (
    Asked,
    Lines,
    by_column,
    lines_of,
    lines_with,
    listing_of,
    save_list,
)
from balken.session.setting import look_at_step
from balken.takeoff.compared import Earlier, differences_list
from balken.takeoff.listing import Listing
from balken.takeoff.lists import TITLES
from balken.works.building import Checked

COMPARED: Final = "compared"
SETTING: Final = "setting"
WIDEST: Final = 320
"""A column is no wider before it is drawn wider, px."""
ROW: Final = 22

Index = QModelIndex | QPersistentModelIndex


class ListModel(QAbstractTableModel):
    """The lines of a list for the table."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.lines = Lines("", (), (), (), 0)

    def show_lines(self, lines: Lines) -> None:
        """Show other lines."""
        self.beginResetModel()
        self.lines = lines
        self.endResetModel()

    def rowCount(self, parent: Index | None = None) -> int:
        return len(self.lines.lines)

    def columnCount(self, parent: Index | None = None) -> int:
        return len(self.lines.columns)

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        line = self.lines.lines[index.row()]
        match role:
            case Qt.ItemDataRole.DisplayRole | Qt.ItemDataRole.ToolTipRole:
                return polish(line.cells[index.column()])
            case Qt.ItemDataRole.FontRole:
                return font(13, bold=line.is_group, column=True)
            case Qt.ItemDataRole.BackgroundRole:
                return QColor(self.theme.panel) if line.is_group else None
            case Qt.ItemDataRole.TextAlignmentRole:
                return _aligned(self.lines, index.column())
        return None

    def headerData(
        self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole
    ) -> Any:
        if orientation is not Qt.Orientation.Horizontal:
            return None
        if role == Qt.ItemDataRole.DisplayRole:
            return self.lines.columns[section].title
        if role == Qt.ItemDataRole.TextAlignmentRole:
            return _aligned(self.lines, section)
        return None


def _aligned(lines: Lines, column: int) -> Qt.AlignmentFlag:
    across = (
        Qt.AlignmentFlag.AlignLeft
        if lines.columns[column].measure == "text"
        else Qt.AlignmentFlag.AlignRight
    )
    return across | Qt.AlignmentFlag.AlignVCenter


class ListTable(QTableView):
    """The table: arrows and the like are its own, every other key is the desk's."""

    OWN: Final = frozenset(
        [
            Qt.Key.Key_Up,
            Qt.Key.Key_Down,
            Qt.Key.Key_Left,
            Qt.Key.Key_Right,
            Qt.Key.Key_Home,
            Qt.Key.Key_End,
        ]
    )

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in self.OWN:
            super().keyPressEvent(event)
        else:
            event.ignore()


class ListPanel(QWidget):
    """One list of the building, with what is asked of it."""

    def __init__(self, theme: Theme, desk: Desk) -> None:
        super().__init__()
        self.theme, self.desk = theme, desk
        self.asked = Asked()
        self.model = ListModel(theme)
        self._listed: tuple[Checked, Asked] | None = None
        """What is shown is of this."""
        self._made: tuple[Checked, dict[str, Listing]] | None = None
        self._compared: Earlier | None = None
        self._settling = False
        """While the table is brought in line with what is selected, it selects nothing itself."""
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setStyleSheet(f"ListPanel {{ border-top: 1px solid {theme.hairline}; }}")
        self.which = self._chooser("List", [(word, key) for key, word in TITLES.items()])
        self.which.currentIndexChanged.connect(lambda _: self._ask_for(self.which.currentData()))
        self.filter = QLineEdit()
        self.filter.setPlaceholderText("Filter: joist, used>0.9, length>10', section~2x10")
        self.filter.setAccessibleName("Filter")
        self.filter.setClearButtonEnabled(True)
        self.filter.textChanged.connect(lambda text: self._ask(self.asked._replace(phrase=text)))
        self.refusal = Refusal(self.filter)
        self.group = self._chooser("Group by", [("no groups", "")])
        self.group.currentIndexChanged.connect(self._grouped)
        save = self._word("Save …", self._save)
        self.before = self._word("◀ step", partial(look_at_step, desk, -1))
        self.next = self._word("next step ▶", partial(look_at_step, desk, 1))
        self.table = self._table()
        self.sums = PlainLabel()
        self.sums.setProperty("quiet", True)
        self.sums.setContentsMargins(8, 2, 8, 4)
        head = QHBoxLayout()
        head.setContentsMargins(8, 6, 8, 2)
        head.setSpacing(6)
        parts = (self.which, self.filter, self.group, self.before, self.next, save)
        for widget in parts:
            head.addWidget(widget, 1 if widget is self.filter else 0)
        self._offer_steps()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(head)
        column.addWidget(self.refusal)
        column.addWidget(self.table, 1)
        column.addWidget(self.sums)

    def _word(self, text: str, act: Callable[[], None]) -> QPushButton:
        found = QPushButton(text)
        found.setProperty("word", True)
        found.clicked.connect(lambda _: act())
        return found

    def _offer_steps(self) -> None:
        """The order of setting is gone through step by step."""
        for word in (self.before, self.next):
            word.setVisible(self.asked.key == SETTING)

    def _chooser(self, name: str, items: list[tuple[str, str]]) -> Chooser:
        found = Chooser(self.theme)
        found.setAccessibleName(name)
        for word, key in items:
            found.addItem(word, key)
        return found

    def _table(self) -> QTableView:
        t, found = self.theme, ListTable()
        found.setModel(self.model)
        found.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        found.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        found.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        found.setShowGrid(False)
        found.setWordWrap(False)
        found.setTabKeyNavigation(False)
        found.setAccessibleName("Lines of the list")
        found.verticalHeader().hide()
        found.verticalHeader().setDefaultSectionSize(ROW)
        heads = found.horizontalHeader()
        heads.setSectionsClickable(True)
        heads.setHighlightSections(False)
        heads.setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
        heads.sectionClicked.connect(self._order)
        found.selectionModel().selectionChanged.connect(self._chosen)
        found.setStyleSheet(
            f"QTableView {{ background: {t.paper}; border: 0; outline: 0;"
            f" selection-background-color: {t.wash}; selection-color: {t.ink}; }}"
            f"QTableView::item {{ padding: 0 6px; }}"
            f"QHeaderView {{ background: {t.strip}; }}"
            f"QHeaderView::section {{ background: {t.strip}; color: {t.quiet}; border: 0;"
            f" border-bottom: 1px solid {t.hairline}; padding: 3px 6px; }}"
        )
        return found

    # -- what is asked ---------------------------------------------------------------------------

    def _ask_for(self, key: str) -> None:
        """Another list: nothing of the last one's order and groups holds."""
        self._ask(Asked(key, self.asked.phrase))
        self._offer_steps()

    def _ask(self, asked: Asked) -> None:
        self.asked = asked
        self.show_list()

    def _grouped(self, at: int) -> None:
        if not self._settling and at >= 0:
            self._ask(self.asked._replace(group=self.group.itemData(at)))

    def _order(self, section: int) -> None:
        self._ask(by_column(self.asked, self.model.lines.columns[section].key))

    def _save(self) -> None:
        try:
            save_list(self.desk, self.asked)
        except BalkenError as error:
            self.desk.say(str(error))

    # -- what is shown ---------------------------------------------------------------------------

    def show_list(self) -> None:
        """Show the list of the building as it is, and in it what is selected."""
        self._offer_comparison()
        now = (self.desk.checked, self.asked)
        before = self._listed
        if before is None or before[0] is not now[0] or before[1] != now[1]:
            self._listed = now
            self._settling = True
            lines = lines_of(self._listing(), self.asked, self.desk.system)
            self.model.show_lines(lines)
            self._fit_columns(before is None or before[1].key != self.asked.key)
            self._tell(lines)
            self._settling = False
        self._mark_selected()

    def _listing(self) -> Listing:
        """The list that is asked for; those of one building are made once."""
        checked = self.desk.checked
        if self._made is None or self._made[0] is not checked:
            self._made = (checked, {})
        made = self._made[1]
        if self.asked.key not in made:
            with remembering(self.desk.building.recall):
                made[self.asked.key] = self._make(checked)
        return made[self.asked.key]

    def _make(self, checked: Checked) -> Listing:
        if self.asked.key == COMPARED and self.desk.earlier is not None:
            return differences_list(self.desk.earlier.checked, checked)
        return listing_of(checked, self.asked.key)

    def _offer_comparison(self) -> None:
        """The list of two versions is there while they are compared."""
        at, wanted = self.which.findData(COMPARED), self.desk.earlier is not None
        if wanted and self._compared is not self.desk.earlier:
            self._made = self._listed = None
        self._compared = self.desk.earlier
        if wanted and at < 0:
            self.which.addItem("Two versions", COMPARED)
        elif not wanted and at >= 0:
            self.which.removeItem(at)

    def _fit_columns(self, other: bool) -> None:
        """Fit columns and groups to another list; widths drawn by hand stay while it is the same."""
        if not other:
            return
        self.table.resizeColumnsToContents()
        for n in range(self.model.columnCount()):
            self.table.setColumnWidth(n, min(WIDEST, self.table.columnWidth(n) + 8))
        self.group.clear()
        for word, key in [("no groups", ""), *((f"by {c.title}", c.key) for c in self._groups())]:
            self.group.addItem(word, key)

    def _groups(self) -> list[Any]:
        return [c for c in self.model.lines.columns if c.measure == "text"]

    def _tell(self, lines: Lines) -> None:
        self.refusal.tell(lines.fault)
        heads = self.table.horizontalHeader()
        keys = [c.key for c in lines.columns]
        heads.setSortIndicatorShown(self.asked.by in keys)
        if self.asked.by in keys:
            order = Qt.SortOrder.DescendingOrder if self.asked.down else Qt.SortOrder.AscendingOrder
            heads.setSortIndicator(keys.index(self.asked.by), order)
        sums = [
            f"{c.title} {s}"
            for c, s in zip(lines.columns, lines.sums)
            if s not in ("", "0", "0.00")
        ]
        words = [f"{lines.number} line{'s' if lines.number != 1 else ''}", *sums]
        self.sums.setText(polish("   ·   ".join(words)))

    # -- what is selected, here and everywhere ---------------------------------------------------

    def _chosen(self, _: QItemSelection, __: QItemSelection) -> None:
        if self._settling:
            return
        rows = sorted(i.row() for i in self.table.selectionModel().selectedRows())
        names = dict.fromkeys(n for r in rows for n in self.model.lines.lines[r].names)
        if tuple(names) != self.desk.selected:
            self.desk.select_rows(tuple(names))

    def _mark_selected(self) -> None:
        """The lines of what is selected stand out; the first is brought in sight."""
        wanted = lines_with(self.model.lines.lines, frozenset(self.desk.selected))
        there = {i.row() for i in self.table.selectionModel().selectedRows()}
        names = {n for r in there for n in self.model.lines.lines[r].names}
        if there == set(wanted) or (there and names == set(self.desk.selected)):
            return
        self._settling = True
        chosen = QItemSelection()
        last = self.model.columnCount() - 1
        for r in wanted:
            chosen.select(self.model.index(r, 0), self.model.index(r, last))
        act = QItemSelectionModel.SelectionFlag.ClearAndSelect
        self.table.selectionModel().select(chosen, act | QItemSelectionModel.SelectionFlag.Rows)
        if wanted:
            self.table.scrollTo(self.model.index(wanted[0], 0))
        self._settling = False
