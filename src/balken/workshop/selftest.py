"""Every check in one command: format, lint, types, layers, tests with the window on a virtual
screen."""

import os
import subprocess
import sys
import time
from pathlib import Path
from typing import Final

from balken.workshop.screen import virtual_screen

WHOLE: Final = ("-n", str(min(os.cpu_count() or 1, 6)), "--dist", "worksteal")
"""All tests are shared among the processors, six at most: each worker has a building and a screen
of its own (tests/conftest.py)."""


def run(args: tuple[str, ...]) -> int:
    """Run all checks, or pytest alone when arguments are given; return the exit code."""
    root = Path(os.environ.get("BALKEN_ROOT", "."))
    tools = Path(sys.executable).parent
    steps: list[tuple[str, list[str]]] = [
        ("format", [str(tools / "ruff"), "format", "--check", "."]),
        ("lint", [str(tools / "ruff"), "check", "."]),
        ("types", [str(tools / "mypy")]),
        ("layers", [str(tools / "lint-imports")]),
    ]
    tests = ("tests", [sys.executable, "-m", "pytest", *(args or WHOLE)])
    failed = []
    with virtual_screen() as environment:
        environment.setdefault("PYTHONPATH", str(root / "src"))
        for name, command in [tests] if args else [*steps, tests]:
            start = time.monotonic()
            print(f"── {name}", flush=True)
            code = subprocess.call(command, cwd=root, env=environment)
            print(
                f"   {'passed' if code == 0 else 'FAILED'} in {time.monotonic() - start:.0f} s",
                flush=True,
            )
            if code:
                failed.append(name)
    print(f"failed: {', '.join(failed)}" if failed else "everything passed")
    return 1 if failed else 0
