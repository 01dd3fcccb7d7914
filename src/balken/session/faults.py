"""Something went wrong inside the program: what is told of it, and the report that can be saved."""

import platform
import sys
import traceback
from datetime import datetime
from typing import Final

import msgspec

from balken import __version__
from balken.exchange.native import to_text
from balken.fit.finding import Finding, Mend
from balken.model.project import Project

REPORT: Final = "Save a report"
"""What can be done about a fault."""


class Fault(msgspec.Struct, frozen=True):
    """One fault: what was being done, what went wrong, and where in the program."""

    doing: str
    what: str
    trace: str
    when: str


def fault_of(error: BaseException, doing: str) -> Fault:
    """What is known of an error that nobody foresaw."""
    trace = "".join(traceback.format_exception(error))
    return Fault(
        doing,
        f"{type(error).__name__}: {error}",
        trace,
        datetime.now().isoformat(timespec="seconds"),
    )


def finding_of(fault: Fault) -> Finding:
    """A fault as a line of the fit list."""
    doing = f" at “{fault.doing}”" if fault.doing else ""
    return Finding(
        "fault",
        fault.doing or "inside the program",
        1.0,
        "count",
        f"Something went wrong inside the program{doing}: {fault.what[:300]}. Nothing of it was"
        " made; your work is as it was."
        f" {REPORT}, so that it can be mended.",
        None,
        mend=Mend(REPORT, lambda project: project),
    )


def report_of(fault: Fault, project: Project) -> str:
    """Everything that helps to mend a fault, as text: the program, the fault and the project."""
    head = f"Balken {__version__}, Python {sys.version.split()[0]}, {platform.platform()}"
    doing = f"at “{fault.doing}”" if fault.doing else ""
    return "\n".join([head, fault.when, doing, "", fault.trace, "", to_text(project).decode()])
