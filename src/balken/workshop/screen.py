"""A virtual screen for machines without one: started when needed, stopped at the end (Xvfb,
software OpenGL)."""

import os
import shutil
import subprocess
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def virtual_screen(width: int = 1600, height: int = 1000) -> Iterator[dict[str, str]]:
    """Give an environment with a screen of its own; the caller runs its work in it.

    Raises:
        RuntimeError: Xvfb is missing or does not start.
    """
    if shutil.which("Xvfb") is None:
        raise RuntimeError("Xvfb is missing. On Debian 12: apt-get install xvfb")
    with tempfile.TemporaryFile() as log:
        read, write = os.pipe()
        command = [
            "Xvfb",
            "-displayfd",
            str(write),
            "-screen",
            "0",
            f"{width}x{height}x24",
            "-nolisten",
            "tcp",
            "-noreset",
        ]
        process = subprocess.Popen(command, pass_fds=[write], stdout=log, stderr=log)
        os.close(write)
        try:
            number = _number(read, process)
            environment = {
                **os.environ,
                "DISPLAY": f":{number}",
                "QT_QPA_PLATFORM": "xcb",
                "LIBGL_ALWAYS_SOFTWARE": "1",
            }
            environment.pop("WAYLAND_DISPLAY", None)
            yield environment
        finally:
            os.close(read)
            process.terminate()
            try:
                process.wait(5)
            except subprocess.TimeoutExpired:
                process.kill()


def _number(read: int, process: "subprocess.Popen[bytes]") -> str:
    import select

    end = time.monotonic() + 20
    text = b""
    while time.monotonic() < end and process.poll() is None:
        ready, _, _ = select.select([read], [], [], 0.2)
        if ready:
            text += os.read(read, 16)
            if b"\n" in text:
                return text.decode().strip()
    raise RuntimeError("Xvfb did not start.")
