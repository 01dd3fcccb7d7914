"""The first start: the demo building, a file, or a new building from a few numbers."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from balken.design.building import settle
from balken.desk.paint import polish
from balken.desk.slip import caption
from balken.desk.theme import Theme
from balken.desk.work import run_apart
from balken.exchange.native import SUFFIX
from balken.model.new import new_building
from balken.model.start import propose_structure
from balken.session.building import Building, demo_project, journal_path, open_building
from balken.units import parse_length


class StartPage(QWidget):
    """Three ways to begin, side by side."""

    def __init__(self, theme: Theme, begin: Callable[[Building], None]) -> None:
        super().__init__()
        self.begin = begin
        self.resize(1280, 800)
        self.setWindowTitle("Balken")
        self.setStyleSheet(f"StartPage {{ background: {theme.paper}; }}")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(120, 140, 120, 80)
        head = QLabel("Balken")
        head.setStyleSheet("font-size: 40px; font-weight: 600;")
        outer.addWidget(head)
        outer.addWidget(
            caption("Structure between building levels: from an architect’s walls to a cutting list.", quiet=True)
        )
        outer.addSpacing(40)
        row = QHBoxLayout()
        row.setSpacing(56)
        outer.addLayout(row)
        row.addLayout(self._demo(), 1)
        row.addLayout(self._file(), 1)
        row.addLayout(self._new(), 1)
        self.message = caption("", quiet=False)
        outer.addSpacing(24)
        outer.addWidget(self.message)
        outer.addStretch(1)

    def say(self, text: str) -> None:
        """Say what went wrong."""
        self.message.setText(polish(text))

    def _column(self, title: str, text: str) -> QVBoxLayout:
        column = QVBoxLayout()
        head = QLabel(title)
        head.setStyleSheet("font-size: 18px; font-weight: 600;")
        column.addWidget(head)
        column.addWidget(caption(text, quiet=True))
        column.addSpacing(12)
        return column

    def _demo(self) -> QVBoxLayout:
        column = self._column(
            "The bakehouse",
            "An invented two-storey building with a foundation, joist floors and a gable roof, to look round in.",
        )
        button = QPushButton("Open the demo building")
        button.setProperty("act", True)
        button.clicked.connect(lambda: self.begin(Building(demo_project())))
        column.addWidget(button)
        column.addStretch(1)
        return column

    def _file(self) -> QVBoxLayout:
        column = self._column(
            "A file", "A project of yours, or an architect’s IFC file with storeys and walls to begin from."
        )
        button = QPushButton("Choose a file")
        button.setProperty("act", True)
        button.clicked.connect(self._choose)
        column.addWidget(button)
        column.addStretch(1)
        return column

    def _choose(self) -> None:
        kinds = f"Projects and architects’ files (*{SUFFIX} *.ifc);;All files (*)"
        name, _ = QFileDialog.getOpenFileName(self, "Open", str(Path.home()), kinds)
        if name:
            self.open_path(Path(name))

    def open_path(self, path: Path) -> None:
        """Open a file; what is wrong with it is said here."""
        self.say(f"Reading {path.name} …")
        run_apart(self, partial(open_building, path, journal_path(path)), self.begin, self.say)

    def _new(self) -> QVBoxLayout:
        column = self._column(
            "A new building", "A rectangle of walls, with foundation, floors and roof sized by calculation."
        )
        grid = QGridLayout()
        self.system = QComboBox()
        self.system.addItem("feet and inches", "us")
        self.system.addItem("millimetres", "metric")
        self.length, self.width_, self.storeys = QLineEdit("36'"), QLineEdit("26'"), QComboBox()
        for n in range(1, 5):
            self.storeys.addItem(str(n), n)
        self.storeys.setCurrentIndex(1)
        self.system.activated.connect(self._units)
        fields = (("units", self.system), ("length", self.length), ("width", self.width_), ("floors", self.storeys))
        for i, (name, widget) in enumerate(fields):
            grid.addWidget(caption(name, quiet=True), i, 0)
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

    def _make(self) -> None:
        system = self.system.currentData()
        try:
            length, width = parse_length(self.length.text(), system), parse_length(self.width_.text(), system)
            project = new_building("New building", length, width, self.storeys.currentData(), system)
        except ValueError as error:
            self.say(str(error))
            return
        project, _ = propose_structure(project)
        self.begin(Building(settle(project)))
