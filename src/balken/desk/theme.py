"""Paper and ink: the colours of the light and the dark desk, and the one font family."""

from pathlib import Path

import msgspec
from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication

FONTS = Path(__file__).parent / "fonts"
FAMILY = "Barlow"
TEXT_PX = 13
SMALL_PX = 11


class Theme(msgspec.Struct, frozen=True):
    """Colours by what they mean."""

    name: str
    paper: str
    """Ground of the board."""
    panel: str
    """Ground of ladder and slip."""
    strip: str
    """Ground of tools and fit list."""
    ink: str
    quiet: str
    hairline: str
    accent: str
    """What is selected or wrong."""
    wash: str
    """Behind what is selected."""
    lit: str
    """What hands its load to what is selected, or takes it from there."""
    timber: str
    steel: str
    grain: str
    panel_wood: str
    concrete: str
    stipple: str
    wall: str
    earth: str
    field: str


LIGHT = Theme(
    "light",
    paper="#FBFAF6",
    panel="#ECE8DD",
    strip="#F4F1E9",
    ink="#1E282D",
    quiet="#6B6F6C",
    hairline="#CBC5B6",
    accent="#9E3D22",
    wash="#F3DACB",
    lit="#CF8A6E",
    timber="#E6D3A9",
    steel="#A9B1B6",
    grain="#8B6C3C",
    panel_wood="#CDB27E",
    concrete="#D6D6D0",
    stipple="#8E928E",
    wall="#E4DFD2",
    earth="#B9B2A0",
    field="#FFFFFF",
)
DARK = Theme(
    "dark",
    paper="#20272B",
    panel="#181E21",
    strip="#1C2326",
    ink="#E9E4D8",
    quiet="#99A09F",
    hairline="#3A4347",
    accent="#E58A66",
    wash="#47302A",
    lit="#A0644C",
    timber="#7A6440",
    steel="#68747C",
    grain="#C9A971",
    panel_wood="#92784A",
    concrete="#4A5154",
    stipple="#8B9496",
    wall="#333C40",
    earth="#59605F",
    field="#12171A",
)


def load_fonts() -> None:
    """Make the shipped fonts known to Qt, once."""
    if FAMILY in QFontDatabase.families():
        return
    for path in sorted(FONTS.glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(path))


def font(px: float = TEXT_PX, *, bold: bool = False, column: bool = False) -> QFont:
    """The desk's font at a size in pixels; in a ``column`` of numbers, with figures of one
    width."""
    found = QFont(FAMILY)
    found.setPixelSize(max(6, round(px)))
    found.setWeight(QFont.Weight.DemiBold if bold else QFont.Weight.Normal)
    if column:
        found.setFeature(QFont.Tag("tnum"), 1)
    return found


def apply(app: QApplication, theme: Theme) -> None:
    """Give the whole application a theme; every widget is styled anew, so it is done only when it
    changes."""
    if app.property("theme") == theme.name:
        return
    app.setProperty("theme", theme.name)
    palette = QPalette()
    roles = {
        QPalette.ColorRole.Window: theme.panel,
        QPalette.ColorRole.Base: theme.field,
        QPalette.ColorRole.Button: theme.strip,
        QPalette.ColorRole.Text: theme.ink,
        QPalette.ColorRole.WindowText: theme.ink,
        QPalette.ColorRole.ButtonText: theme.ink,
        QPalette.ColorRole.Highlight: theme.accent,
        QPalette.ColorRole.HighlightedText: theme.paper,
        QPalette.ColorRole.PlaceholderText: theme.quiet,
        QPalette.ColorRole.ToolTipBase: theme.strip,
        QPalette.ColorRole.ToolTipText: theme.ink,
    }
    for role, colour in roles.items():
        palette.setColor(role, QColor(colour))
    app.setPalette(palette)
    app.setFont(font())
    app.setStyleSheet(_sheet(theme))


def _sheet(t: Theme) -> str:
    return f"""
    QWidget {{ color: {t.ink}; font-family: {FAMILY}; font-size: {TEXT_PX}px; }}
    QLineEdit, QComboBox {{ background: {t.field}; border: 1px solid {t.hairline}; border-radius: 3px;
        padding: 2px 6px; min-height: 20px;
        selection-background-color: {t.accent}; selection-color: {t.paper}; }}
    QLineEdit:focus, QComboBox:focus {{ border: 1px solid {t.accent}; }}
    QLineEdit[wrong="true"] {{ border: 1px solid {t.accent}; background: {t.wash}; }}
    QComboBox::drop-down {{ border: 0; width: 16px; }}
    QComboBox QAbstractItemView {{ background: {t.field}; border: 1px solid {t.hairline}; outline: 0;
        selection-background-color: {t.wash}; selection-color: {t.ink}; }}
    QScrollArea, QScrollArea > QWidget > QWidget {{ background: transparent; border: 0; }}
    QScrollBar:vertical {{ background: transparent; width: 8px; margin: 0; }}
    QScrollBar::handle:vertical {{ background: {t.hairline}; border-radius: 4px; min-height: 24px; }}
    QScrollBar:horizontal {{ background: transparent; height: 8px; margin: 0; }}
    QScrollBar::handle:horizontal {{ background: {t.hairline}; border-radius: 4px; min-width: 24px; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ height: 0; width: 0; }}
    QScrollBar::add-page, QScrollBar::sub-page {{ background: transparent; }}
    QPushButton[word="true"] {{ background: transparent; border: 0; border-radius: 3px; padding: 3px 6px;
        text-align: left; }}
    QPushButton[word="true"]:hover {{ background: {t.wash}; }}
    QPushButton[word="true"]:focus {{ outline: 0; border: 1px solid {t.accent}; padding: 2px 5px; }}
    QPushButton[word="true"]:checked {{ background: {t.wash}; color: {t.accent}; font-weight: 600; }}
    QPushButton[word="true"]:disabled {{ color: {t.hairline}; }}
    QPushButton[go="true"], QPushButton[veil="true"] {{ color: {t.accent}; }}
    QPushButton[act="true"] {{ background: {t.strip}; border: 1px solid {t.hairline}; border-radius: 3px;
        padding: 4px 10px; }}
    QPushButton[act="true"]:hover, QPushButton[act="true"]:focus {{ border: 1px solid {t.accent}; }}
    QLabel[quiet="true"] {{ color: {t.quiet}; }}
    QLabel[small="true"] {{ font-size: {SMALL_PX}px; }}
    QLabel[caps="true"] {{ color: {t.quiet}; font-size: {SMALL_PX}px; font-weight: 600; }}
    QLabel[bold="true"] {{ font-weight: 600; }}
    QLabel[accent="true"] {{ color: {t.accent}; }}
    QListWidget {{ background: {t.field}; border: 1px solid {t.hairline}; outline: 0; padding: 4px; }}
    QListWidget::item {{ padding: 4px 6px; border-radius: 3px; }}
    QListWidget::item:selected {{ background: {t.wash}; color: {t.ink}; }}
    QMenu {{ background: {t.field}; border: 1px solid {t.hairline}; padding: 4px; }}
    QMenu::item {{ padding: 4px 22px 4px 12px; border-radius: 3px; }}
    QMenu::item:selected {{ background: {t.wash}; color: {t.ink}; }}
    QMenu::item:disabled {{ color: {t.quiet}; font-weight: 600; }}
    QMenu::separator {{ height: 1px; background: {t.hairline}; margin: 3px 6px; }}
    QToolTip {{ background: {t.strip}; color: {t.ink}; border: 1px solid {t.hairline}; padding: 3px; }}
    """
