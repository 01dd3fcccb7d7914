"""Long work apart from the window, so that it can still be used; what comes back is handed over in the window's turn."""

from collections.abc import Callable
from contextlib import suppress
from typing import Any

from PySide6.QtCore import QObject, QRunnable, QThreadPool, Signal

from balken.exchange.files import FileError


class Errand(QObject):
    """One piece of long work that is under way."""

    done = Signal(object)
    failed = Signal(str)

    def leave(self) -> None:
        """Want nothing of it any more; what it brings is dropped."""
        self.blockSignals(True)


class _Job(QRunnable):
    def __init__(self, work: Callable[[], Any], errand: Errand) -> None:
        super().__init__()
        self.work, self.errand = work, errand
        self.setAutoDelete(True)

    def run(self) -> None:
        try:
            result = self.work()
        except FileError as error:
            self._tell("failed", str(error))
        except Exception as error:  # said in the window instead of lost in a thread
            self._tell("failed", f"That went wrong inside the program: {type(error).__name__}: {error}.")
        else:
            self._tell("done", result)

    def _tell(self, signal: str, what: object) -> None:
        # The window may have been closed meanwhile; then nobody waits for this.
        with suppress(RuntimeError):
            getattr(self.errand, signal).emit(what)


def run_apart(
    owner: QObject, work: Callable[[], Any], done: Callable[[Any], None], failed: Callable[[str], None]
) -> Errand:
    """Run work in another thread, and call ``done`` or ``failed`` in the window's."""
    errand = Errand(owner)
    errand.done.connect(done)
    errand.failed.connect(failed)
    QThreadPool.globalInstance().start(_Job(work, errand))
    return errand
