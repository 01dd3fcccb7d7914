"""Long work apart from the window, so that it can still be used; what comes back is handed over in
the window's turn."""

import gc
import threading
from collections.abc import Callable
from functools import partial
from typing import Any, TypeVar

from PySide6.QtCore import (
    QCoreApplication,
    QEvent,
    QEventLoop,
    QObject,
    QRunnable,
    Qt,
    QThreadPool,
    QTimer,
    Signal,
    Slot,
)
from PySide6.QtGui import QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QWidget
from shiboken6 import isValid

from balken.errors import BalkenError
from balken.progress import Tell, unheard
from balken.session.face import LeftError

_T = TypeVar("_T")


class _Uncollected:
    """While work goes on in other threads, dead cycles are not searched for: Python would free them
    in whichever thread finds them, and widgets and drawing windows must go where they were made.
    The search is the process's, and so is this count."""

    def __init__(self) -> None:
        self._door, self._busy = threading.Lock(), 0

    def __enter__(self) -> None:
        with self._door:
            self._busy += 1
            gc.disable()

    def __exit__(self, *_: object) -> None:
        with self._door:
            self._busy -= 1
            if not self._busy:
                gc.enable()


_UNCOLLECTED = _Uncollected()


class Errand(QObject):
    """One piece of long work that is under way.

    It belongs to the application, not to the widget that waits for it: that one may be deleted
    while the other thread is about to tell.
    """

    came = Signal(bool, object)
    """Whether it went well, and what it brought."""
    reached = Signal(str)
    """How far it is."""

    def __init__(
        self,
        owner: QObject,
        done: Callable[[Any], object],
        failed: Callable[[str], None],
        heard: Tell = unheard,
    ) -> None:
        super().__init__(QCoreApplication.instance())
        self._owner, self._done, self._failed = owner, done, failed
        self._heard = heard
        self._wanted = True
        self.came.connect(self._deliver)
        self.reached.connect(self._hear)

    def tell(self, words: str) -> None:
        """Say how far it is; called by the work, in its own thread.

        Raises:
            LeftError: nobody wants it any more.
        """
        if not self._wanted:
            raise LeftError(words)
        self.reached.emit(words)

    def leave(self) -> None:
        """Want nothing of it any more; what it brings is dropped."""
        self._wanted = False

    def settle(self) -> None:
        """Wait for it, and take in what it brings."""
        QThreadPool.globalInstance().waitForDone()
        QCoreApplication.sendPostedEvents(self)

    @Slot(str)
    def _hear(self, words: str) -> None:
        if self._wanted and isValid(self._owner):
            self._heard(words)

    @Slot(bool, object)
    def _deliver(self, well: bool, what: Any) -> None:
        self.deleteLater()
        if self._wanted and isValid(self._owner):
            (self._done if well else self._failed)(what)


class _Job(QRunnable):
    def __init__(self, work: Callable[[], Any], errand: Errand) -> None:
        super().__init__()
        self.work, self.errand = work, errand
        self.setAutoDelete(True)

    def run(self) -> None:
        with _UNCOLLECTED:
            self._run()

    def _run(self) -> None:
        try:
            self.errand.came.emit(True, self.work())
        except BalkenError as error:
            self.errand.came.emit(False, str(error))
        except Exception as error:  # said in the window instead of lost in a thread
            self.errand.came.emit(
                False, f"That went wrong inside the program: {type(error).__name__}: {error}."
            )


def run_apart(
    owner: QObject,
    work: Callable[[], Any],
    done: Callable[[Any], object],
    failed: Callable[[str], None],
) -> Errand:
    """Run work in another thread, and call ``done`` or ``failed`` in the window's."""
    errand = Errand(owner, done, failed)
    QThreadPool.globalInstance().start(_Job(work, errand))
    return errand


def run_telling(
    owner: QObject,
    work: Callable[[Tell], Any],
    done: Callable[[Any], object],
    failed: Callable[[str], None],
    heard: Tell,
) -> Errand:
    """Run work in another thread that tells how far it is; ``heard`` is called in the window's.
    Left, it ends at its next step."""
    errand = Errand(owner, done, failed, heard)
    QThreadPool.globalInstance().start(_Job(partial(work, errand.tell), errand))
    return errand


PATIENCE = 0.2
"""After so many seconds people wonder: then it is said what is under way, and that it can be
left."""


class _OnlyEscape(QObject):
    """Holds mouse and keys back while something is waited for, but for Escape. The last click is
    kept, and made when the wait is over."""

    HELD = frozenset(
        {
            QEvent.Type.KeyPress,
            QEvent.Type.KeyRelease,
            QEvent.Type.Shortcut,
            QEvent.Type.ShortcutOverride,
            QEvent.Type.Close,
            QEvent.Type.MouseButtonPress,
            QEvent.Type.MouseButtonRelease,
            QEvent.Type.MouseButtonDblClick,
            QEvent.Type.MouseMove,
            QEvent.Type.Wheel,
            QEvent.Type.ContextMenu,
        }
    )

    def __init__(self, leave: Callable[[], object]) -> None:
        super().__init__()
        self.leave = leave
        self.last: tuple[QWidget, QMouseEvent] | None = None

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() not in self.HELD:
            return False
        pressed = event.type() == QEvent.Type.MouseButtonPress
        if pressed and isinstance(event, QMouseEvent) and isinstance(watched, QWidget):
            self.last = (watched, event.clone())
        if (
            event.type() == QEvent.Type.KeyPress
            and isinstance(event, QKeyEvent)
            and event.key() == Qt.Key.Key_Escape
        ):
            self.leave()
        return True


def _click_again(click: tuple[QWidget, QMouseEvent] | None) -> None:
    """Make a click that came while something was waited for, at the window's next turn."""
    if click is None:
        return
    widget, event = click

    def go() -> None:
        if not isValid(widget) or not widget.isVisible():
            return
        for kind in (QEvent.Type.MouseButtonPress, QEvent.Type.MouseButtonRelease):
            made = QMouseEvent(
                kind,
                event.position(),
                event.globalPosition(),
                event.button(),
                event.button(),
                event.modifiers(),
            )
            QCoreApplication.sendEvent(widget, made)

    QTimer.singleShot(0, go)


def waited_for(work: Callable[[], _T], say: Callable[[str], object], words: str) -> _T:
    """Do work apart from the window and wait for it. Where it lasts, the window goes on painting,
    says what is under way, and Escape leaves it: what it brings then is dropped.

    Args:
        work: changes nothing; what it raises is raised here.
        say: how the window says something.
        words: what is under way.

    Raises:
        LeftError: it was left.
    """
    found: list[_T] = []
    raised: list[BaseException] = []
    ready = threading.Event()

    def do() -> None:
        with _UNCOLLECTED:
            try:
                found.append(work())
            except BaseException as error:  # whatever it is, it belongs to the one who waits
                raised.append(error)
        ready.set()

    with _UNCOLLECTED:  # held here too, so that the search begins again in the window's own thread
        threading.Thread(target=do, daemon=True).start()
        if not ready.wait(PATIENCE):
            say(f"Working out: {words} …  Esc leaves it.")
            _wait(ready)
    if not ready.is_set():
        raise LeftError(words)
    if raised:
        raise raised[0]
    return found[0]


def _wait(ready: threading.Event) -> None:
    """Let the window live until something is ready, or Escape is pressed."""
    app = QCoreApplication.instance()
    assert app is not None
    loop, look = QEventLoop(), QTimer()
    keys = _OnlyEscape(loop.quit)
    look.timeout.connect(lambda: loop.quit() if ready.is_set() else None)
    look.start(20)
    app.installEventFilter(keys)
    try:
        loop.exec()
    finally:
        app.removeEventFilter(keys)
        look.stop()
    if ready.is_set():
        _click_again(keys.last)
