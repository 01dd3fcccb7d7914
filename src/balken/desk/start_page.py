"""The first start: the demo building, a file, or a new building from a few numbers."""

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from balken.desk.chooser import Chooser
from balken.desk.paint import Easel, polish
from balken.desk.plain import PlainLabel
from balken.desk.theme import Theme
from balken.desk.work import run_apart, run_telling
from balken.drawing.marks import Drawing, extent
from balken.errors import BalkenError
from balken.exchange.files import FileError

if TYPE_CHECKING:
    from balken.session.beginning import Beside
    from balken.session.building import Building
    from balken.session.journal import Left


def _text(text: str, height: int) -> QLabel:
    """Quiet words in a place of fixed height, so that the columns stay in line."""
    label = PlainLabel(text)
    label.setProperty("quiet", True)
    label.setWordWrap(True)
    label.setFixedHeight(height)
    label.setAlignment(Qt.AlignmentFlag.AlignTop)
    return label


def _quiet(text: str) -> QLabel:
    label = PlainLabel(text)
    label.setProperty("quiet", True)
    return label


class Section(QWidget):
    """The wall section of the demo building down the left side, from footing to eaves. It is drawn
    when it comes."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.drawing: Drawing = ()
        self.setFixedWidth(330)
        self.setAccessibleName("A wall section from footing to eaves")

    def show_drawing(self, drawing: Drawing) -> None:
        """Draw the section."""
        self.drawing = drawing
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(self.theme.panel))
        box = extent(self.drawing)
        if box is None:
            return
        x0, y0, x1, y1 = box
        scale = min((self.height() - 96) / (y1 - y0), self.width() / (x1 - x0))

        def at(p: tuple[float, float]) -> QPointF:
            return QPointF(
                self.width() - (x1 - p[0]) * scale, self.height() - 48 - (p[1] - y0) * scale
            )

        Easel(painter, self.theme, at, 3.6).paint(self.drawing)


class StartPage(QWidget):
    """Three ways to begin, side by side."""

    def __init__(self, theme: Theme, begin: Callable[["Building"], None]) -> None:
        super().__init__()
        self.theme, self.begin = theme, begin
        self.resize(1280, 800)
        self.setWindowTitle("Balken")
        self.setStyleSheet(f"StartPage {{ background: {theme.paper}; }}")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        whole = QHBoxLayout(self)
        whole.setContentsMargins(0, 0, 72, 0)
        self.section = Section(theme)
        whole.addWidget(self.section)
        outer = QVBoxLayout()
        outer.setSpacing(6)
        outer.setContentsMargins(64, 150, 0, 48)
        whole.addLayout(outer, 1)
        head = PlainLabel("Balken")
        head.setStyleSheet("font-size: 44px; font-weight: 600;")
        outer.addWidget(head)
        outer.addWidget(
            _text(
                "Structure between building levels: from an architect’s walls to a cutting list.",
                24,
            )
        )
        outer.addSpacing(44)
        row = QHBoxLayout()
        row.setSpacing(40)
        outer.addLayout(row)
        for column in (self._demo(), self._file(), self._new()):
            row.addLayout(column, 1)
        self.message = _text("", 48)
        self.message.setProperty("quiet", False)
        outer.addSpacing(24)
        outer.addWidget(self.message)
        self.left = QVBoxLayout()
        outer.addLayout(self.left)
        outer.addStretch(1)
        run_apart(self, _beside, self._show_beside, self.say)

    def _show_beside(self, beside: "Beside") -> None:
        self.section.show_drawing(beside.section)
        for path in beside.recent:
            button = QPushButton(path.name)
            button.setToolTip(str(path))
            button.setProperty("word", True)
            button.clicked.connect(lambda _=False, p=path: self.open_path(p))
            self.recent.addWidget(button)
        for item in beside.left:
            self.left.addLayout(self._unsaved(item))

    def _unsaved(self, left: "Left") -> QHBoxLayout:
        """A line about a building that was never saved when its program was killed."""
        from balken.session.building import Building
        from balken.session.files import words_of_left
        from balken.session.journal import forget

        row = QHBoxLayout()
        words = PlainLabel(f"{words_of_left(left)} It was never saved.")

        def take() -> None:
            building = Building(left.project, identity=left.head.identity)
            try:
                building.take_up(left)
            except FileError as error:
                self.say(str(error))
                return
            self.begin(building)

        def drop() -> None:
            forget(left)
            for i in range(row.count()):
                item = row.itemAt(i)
                widget = item.widget() if item is not None else None
                if widget is not None:
                    widget.hide()

        row.addWidget(words)
        for word, act in (("Go on with it", take), ("Drop it", drop)):
            button = QPushButton(word)
            button.setProperty("act", True)
            button.clicked.connect(lambda _=False, a=act: a())
            row.addWidget(button)
        row.addStretch(1)
        return row

    def say(self, text: str) -> None:
        """Say what went wrong."""
        self.message.setText(polish(text))

    def _column(self, title: str, text: str) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(10)  # a layout without one of its own takes its parent's
        head = PlainLabel(title)
        head.setStyleSheet("font-size: 18px; font-weight: 600;")
        column.addWidget(head)
        column.addWidget(_text(text, 66))
        return column

    def _demo(self) -> QVBoxLayout:
        column = self._column(
            "The bakehouse",
            "An invented two-storey building with a foundation, joist floors and a gable roof, to"
            " look round in.",
        )
        button = QPushButton("Open the demo building")
        button.setProperty("act", True)
        button.clicked.connect(lambda: self._begin_demo("bakehouse"))
        column.addWidget(button)
        hall = QPushButton("Open the ferry hall")
        hall.setProperty("act", True)
        hall.setToolTip(
            "A second invented building: metric, on posts, with glued beams, bays and a round slab."
        )
        hall.clicked.connect(lambda: self._begin_demo("ferry hall"))
        column.addWidget(hall)
        column.addStretch(1)
        return column

    def _begin_demo(self, name: str) -> None:
        from balken.session.beginning import demo_building

        self.begin(demo_building(name))

    def _file(self) -> QVBoxLayout:
        column = self._column(
            "A file",
            "A project of yours, or an architect’s IFC file with storeys and walls to begin from.",
        )
        button = QPushButton("Choose a file")
        button.setProperty("act", True)
        button.clicked.connect(self._choose)
        column.addWidget(button)
        self.recent = QVBoxLayout()
        column.addLayout(self.recent)
        column.addStretch(1)
        return column

    def _choose(self) -> None:
        from balken.session.files import OPENED

        name, _ = QFileDialog.getOpenFileName(self, "Open", str(Path.home()), OPENED)
        if name:
            self.open_path(Path(name))

    def open_path(self, path: Path) -> None:
        """Open a file; what is wrong with it is said here."""
        from balken.session.building import open_building

        self.say(f"Reading {path.name} …")
        run_telling(
            self, lambda tell: open_building(path, tell=tell), self.begin, self.say, self.say
        )

    def _new(self) -> QVBoxLayout:
        column = self._column(
            "A new building",
            "A rectangle of walls with foundation, floors and roof sized by calculation, or an"
            " empty sheet to set out on.",
        )
        grid = QGridLayout()
        grid.setSpacing(8)
        self.system = Chooser(self.theme)
        self.system.addItem("feet and inches", "us")
        self.system.addItem("millimetres", "metric")
        self.length, self.width_, self.storeys = (
            QLineEdit("36'"),
            QLineEdit("26'"),
            Chooser(self.theme),
        )
        for n in range(1, 5):
            self.storeys.addItem(str(n), n)
        self.storeys.setCurrentIndex(1)
        self.system.activated.connect(self._units)
        self.what = Chooser(self.theme)
        self.what.addItem("walls, floors and a roof", "whole")
        self.what.addItem("an empty sheet", "empty")
        self.what.addItem("a template of yours", "template")
        self.what.activated.connect(self._whole)
        fields = (
            ("begin with", self.what),
            ("units", self.system),
            ("length", self.length),
            ("width", self.width_),
            ("floors", self.storeys),
        )
        for i, (name, widget) in enumerate(fields):
            grid.addWidget(_quiet(name), i, 0)
            widget.setAccessibleName(name)
            grid.addWidget(widget, i, 1)
        column.addLayout(grid)
        button = QPushButton("Begin")
        button.setProperty("act", True)
        button.clicked.connect(self._make)
        column.addWidget(button)
        column.addStretch(1)
        return column

    def _units(self) -> None:
        us = self.system.currentData() == "us"
        self.length.setText("36'" if us else "11000")
        self.width_.setText("26'" if us else "8000")

    def _whole(self) -> None:
        for widget in (self.length, self.width_, self.storeys):
            widget.setEnabled(self.what.currentData() == "whole")
        # A template has its own units.
        self.system.setEnabled(self.what.currentData() != "template")

    def _make(self) -> None:
        from balken.session.beginning import empty_sheet, rectangle

        system = self.system.currentData()
        if self.what.currentData() == "empty":
            self.begin(empty_sheet(system))
            return
        if self.what.currentData() == "template":
            self._from_template()
            return
        size = self.length.text(), self.width_.text()
        try:
            building = rectangle(*size, self.storeys.currentData(), system)
        except BalkenError as error:
            self.say(str(error))
            return
        self.begin(building)

    def _from_template(self) -> None:
        from balken.exchange.native import SUFFIX
        from balken.session.beginning import on_template

        kinds = f"Projects (*{SUFFIX})"
        name, _ = QFileDialog.getOpenFileName(self, "Template", str(Path.home()), kinds)
        if not name:
            return
        try:
            self.begin(on_template(Path(name)))
        except BalkenError as error:
            self.say(str(error))


def _beside() -> "Beside":
    from balken.session.beginning import beside

    return beside()
