"""Long work apart from the window, so that it can still be used; what comes back is handed over in the window's own turn."""

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QRunnable, QThreadPool, Signal

from balken.exchange.files import FileError


class _Bell(QObject):
    done = Signal(object)
    failed = Signal(str)


class _Job(QRunnable):
    def __init__(self, work: Callable[[], Any], bell: _Bell) -> None:
        super().__init__()
        self.work, self.bell = work, bell
        self.setAutoDelete(True)

    def run(self) -> None:
        try:
            result = self.work()
        except FileError as error:
            self.bell.failed.emit(str(error))
        except Exception as error:  # said in the window instead of lost in a thread
            self.bell.failed.emit(f"That went wrong inside the program: {type(error).__name__}: {error}.")
        else:
            self.bell.done.emit(result)


def run_apart(
    owner: QObject, work: Callable[[], Any], done: Callable[[Any], None], failed: Callable[[str], None]
) -> None:
    """Run work in another thread, and call ``done`` or ``failed`` in the window's."""
    bell = _Bell(owner)
    bell.done.connect(done)
    bell.failed.connect(failed)
    QThreadPool.globalInstance().start(_Job(work, bell))
