"""Rows of check values: ``pytest tests/checks --values FILE`` runs the same adapters on another
file of the same form."""

from pathlib import Path

import pytest


def pytest_addoption(parser: pytest.Parser) -> None:
    parser.addoption(
        "--values", default=str(Path(__file__).with_name("values.csv")), help="CSV of check values"
    )


def pytest_terminal_summary(terminalreporter: pytest.TerminalReporter) -> None:
    """Say how many rows have no adapter; they are skipped as not covered, never passed."""
    skipped = terminalreporter.stats.get("skipped", [])
    missing = [
        r for r in skipped if isinstance(r.longrepr, tuple) and "not covered" in r.longrepr[2]
    ]
    if missing:
        terminalreporter.write_line(f"{len(missing)} rows of check values are not covered yet")
