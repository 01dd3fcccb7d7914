"""The slip: the column at the right, which paints the rows of the desk's slip."""

from collections.abc import Callable
from functools import cached_property, partial
from typing import Any

from PySide6.QtCore import QEvent, QSize, Qt, QTimer
from PySide6.QtWidgets import (
    QApplication,
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from balken.desk.chooser import Chooser
from balken.desk.diagram import BeamFigure
from balken.desk.paint import polish
from balken.desk.plain import PlainLabel
from balken.desk.slip_parts import (
    PAD,
    WIDTH,
    Bars,
    Choices,
    Field,
    Figure,
    Lines,
    Refusal,
    caption,
)
from balken.desk.theme import Theme, font
from balken.desk.truss_view import TrussFigure
from balken.errors import BalkenError
from balken.model.names import ThingName, kind_of
from balken.session import rows
from balken.session.desk import Desk
from balken.session.slips import rows_of


class Slip(QScrollArea):
    """The column at the right: the rows of the desk's slip, painted anew for each selection."""

    def __init__(self, theme: Theme, desk: Desk) -> None:
        super().__init__()
        self.theme, self.desk = theme, desk
        self.setFixedWidth(WIDTH)
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName("Slip of the selected piece")
        self._about = ""
        """What kind of thing was shown last."""
        self._clear()

    def sizeHint(self) -> QSize:
        return QSize(WIDTH, 600)

    def fill(self) -> None:
        """Paint the rows of the slip as they are now."""
        self._clear()
        about = self._kind_shown()
        if about != self._about:  # of things alike the same part stays in view, of others the top
            self._about, self._keep = about, 0
        for row in rows_of(self.desk):
            self._painters[type(row)](row)
        self._done()

    def _kind_shown(self) -> str:
        name = self.desk.selection
        if isinstance(name, ThingName) and name.kind == "page":
            return f"page {name.key}"
        return kind_of(name) if name is not None else ""

    @cached_property
    def _painters(self) -> dict[type, Callable[[Any], object]]:
        return {
            rows.Title: self._title,
            rows.Line: self._line,
            rows.Heading: self._heading,
            rows.Fact: self._fact,
            rows.Figure: lambda row: self._drawn(Figure(self.theme, row.drawing)),
            rows.BeamFigure: self._beam,
            rows.TrussFigure: self._truss,
            rows.Checks: self._checks,
            rows.Sizes: self._sizes,
            rows.Options: self._options,
            rows.Field: self._field,
            rows.Button: self._button,
            rows.Link: self._link,
            rows.Links: self._links,
        }

    def _clear(self) -> None:
        """Begin an empty slip."""
        keep = self.verticalScrollBar().value()
        old = self.takeWidget()
        if old:  # it may be in the middle of the click that led here
            old.hide()
            old.deleteLater()
        self.body = body = QWidget()
        self.column = QVBoxLayout(body)
        self.column.setContentsMargins(PAD, 16, PAD, 16)
        self.column.setSpacing(4)
        self.setWidget(body)
        self._keep = keep

    def _done(self) -> None:
        """Finish filling: laid out at once, for a view that takes long to draw would show it
        crushed till then."""
        self.column.addStretch(1)
        body = self.body
        for child in body.findChildren(QWidget, options=Qt.FindChildOption.FindDirectChildrenOnly):
            # A layout shows what is put into it on the next pass only, and till then leaves it no room.
            if not isinstance(child, Refusal):
                child.show()
        body.show()
        QApplication.sendPostedEvents(None, QEvent.Type.LayoutRequest)
        self.verticalScrollBar().setValue(self._keep)

    def _title(self, row: rows.Title) -> None:
        """The head of the slip."""
        line = QHBoxLayout()
        name = PlainLabel(polish(row.mark))
        name.setFont(font(18, bold=True))
        name.setStyleSheet("font-size: 18px; font-weight: 600;")
        line.addWidget(name)
        line.addWidget(caption(row.kind, quiet=True), 1, Qt.AlignmentFlag.AlignBottom)
        if row.right:
            line.addWidget(caption(row.right, quiet=True), 0, Qt.AlignmentFlag.AlignBottom)
        self.column.addLayout(line)

    def _line(self, row: rows.Line) -> None:
        label = caption(polish(row.text), quiet=row.quiet, bold=row.bold, small=row.small)
        self.column.addWidget(label)

    def _heading(self, row: rows.Heading) -> None:
        """A heading between parts."""
        self.column.addSpacing(10)
        line = QHBoxLayout()
        line.addWidget(caption(row.text.upper(), caps=True), 1)
        if row.right:
            line.addWidget(caption(polish(row.right), quiet=True, small=True))
        self.column.addLayout(line)

    def _fact(self, row: rows.Fact) -> None:
        """A line of two columns."""
        grid = QGridLayout()
        grid.setColumnMinimumWidth(0, 92)
        grid.setColumnStretch(1, 1)
        grid.addWidget(caption(polish(row.name), quiet=True), 0, 0, Qt.AlignmentFlag.AlignTop)
        grid.addWidget(caption(polish(row.text)), 0, 1)
        self.column.addLayout(grid)

    def _drawn(self, figure: QWidget) -> None:
        self.column.addSpacing(6)
        self.column.addWidget(figure)

    def _beam(self, row: rows.BeamFigure) -> None:
        system = self.desk.system
        self._drawn(BeamFigure(self.theme, row.drawing, row.member, row.diagram, system))

    def _truss(self, row: rows.TrussFigure) -> None:
        system = self.desk.system
        self._drawn(TrussFigure(self.theme, row.drawing, row.truss, row.put, system))

    def _checks(self, row: rows.Checks) -> None:
        """The bars, and the lines of the one that is open."""
        checks, opened = row.checks, self.desk.open_check
        bars = Bars(self.theme, checks, opened)
        bars.opened.connect(self._open)
        self.column.addWidget(bars)
        if 0 <= opened < len(checks):
            self._heading(rows.Heading(f"{checks[opened].name}, step by step"))
            self.column.addWidget(Lines(self.theme, checks[opened], self.desk.system))

    def _open(self, check: int) -> None:
        self.desk.open_check = check
        self.fill()

    def _sizes(self, row: rows.Sizes) -> None:
        """The table of alternatives."""
        table = Choices(self.theme, row.sized, self.desk.system)
        table.held.connect(row.hold)
        self.column.addWidget(table)

    def _field(self, row: rows.Field) -> None:
        """A typed field; what cannot be read is refused where it is typed, saying what is
        accepted."""
        edit = Field(row.value.replace("−", "-"))
        edit.setAccessibleName(row.name)
        edit.setPlaceholderText(row.example)
        edit.passed.connect(partial(self._pass_on, edit))
        if row.heard is not None:
            edit.textChanged.connect(row.heard)
        refusal = Refusal(edit)
        edit.returnPressed.connect(partial(self._typed, edit, refusal, row))
        self._pair(row.name, edit)
        self.column.addWidget(refusal)

    def _typed(self, edit: Field, refusal: Refusal, row: rows.Field) -> None:
        """Take what is typed; what is refused stays, and why stands under it."""
        refused = rows.type_into(row, edit.text(), lambda: self.desk.said)
        if refused is not None:
            self.desk.say(refused.why)
            refusal.tell(refused.why)
            self.ensureWidgetVisible(refusal)

    def _pass_on(self, edit: QLineEdit, by: int) -> None:
        """Take what is typed, as Enter does, and go on to the field after it, or before it; what is
        refused stays."""
        names = [e.accessibleName() for e in self._fields()]
        here = self._fields().index(edit)
        edit.returnPressed.emit()
        if edit.property("wrong"):
            return
        wanted = names[(here + by) % len(names)]
        QTimer.singleShot(
            0, lambda: self.to_field(wanted)
        )  # a slip filled anew takes keys once it is shown

    def first(self) -> QWidget:
        """The first thing of the slip that takes keys; the slip itself where there is none."""
        takes = Qt.FocusPolicy.TabFocus
        found = (w for w in self.body.findChildren(QWidget) if w.focusPolicy() & takes)
        return next((w for w in found if w.isVisible() and w.isEnabled()), self)

    def to_field(self, name: str) -> None:
        """Put the keys into the field of a name, with all of it selected."""
        found = next((e for e in self._fields() if e.accessibleName() == name), None)
        if found is not None:
            found.setFocus()
            found.selectAll()

    def _fields(self) -> list[QLineEdit]:
        """The fields of the slip as it is now, from the top."""
        return self.body.findChildren(QLineEdit)

    def _options(self, row: rows.Options) -> None:
        """A list to choose from."""
        box = Chooser(self.theme)
        box.setAccessibleName(row.name)
        box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        box.setMinimumContentsLength(6)
        for text, value in row.values:
            box.addItem(polish(text), value)
        here = next((i for i, (_, v) in enumerate(row.values) if v == row.now), 0)
        box.setCurrentIndex(here)
        box.activated.connect(lambda i: row.choose(row.values[i][1]))
        self._pair(row.name, box)

    def _button(self, row: rows.Button) -> None:
        button = QPushButton(row.text.replace("&", "&&"))
        button.setProperty("act", True)
        button.clicked.connect(lambda: self._act(row.press))
        self.column.addWidget(button)

    def _act(self, act: rows.Act) -> None:
        """Do what a button does; why it is refused is said."""
        try:
            act()
        except BalkenError as error:
            self.desk.say(str(error))

    def _link(self, row: rows.Link) -> None:
        """A line of two columns, the second to be clicked."""
        button = self._go(row.text, row.press)
        button.setAccessibleName(f"{row.name}: {row.text}" if row.name else row.text)
        self._pair(row.name, button)

    def _go(self, text: str, act: rows.Act) -> QPushButton:
        button = QPushButton(polish(text).replace("&", "&&"))  # one alone underlines a letter
        button.setProperty("word", True)
        button.setProperty("go", True)
        button.setCursor(Qt.CursorShape.PointingHandCursor)
        button.clicked.connect(lambda: self._act(act))
        button.setAccessibleName(text)
        return button

    def _links(self, row: rows.Links) -> None:
        """One line of words to be clicked."""
        line = QHBoxLayout()
        for text, act in row.words:
            line.addWidget(self._go(text, act))
        line.addStretch(1)
        self.column.addLayout(line)

    def _pair(self, name: str, widget: QWidget) -> None:
        row = QHBoxLayout()
        label = caption(name, quiet=True)
        label.setFixedWidth(112)
        row.addWidget(label)
        widget.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        row.addWidget(widget, 1)
        self.column.addLayout(row)
