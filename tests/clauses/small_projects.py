"""The small projects of this folder, as they are and with one thing changed."""

import json
from collections.abc import Callable
from pathlib import Path
from typing import Any

from balken.design.lines import Check
from balken.exchange.native import from_text
from balken.fit.finding import Finding
from balken.fit.findings import findings
from balken.framing.member import Member
from balken.works.building import Checked, checks_of, work_out

PROJECTS = Path(__file__).parent / "projects"

Raw = dict[str, Any]


def worked(name: str, change: Callable[[Raw], object] = lambda raw: None) -> Checked:
    """A project of this folder, worked out after a change to what its file says."""
    raw = json.loads((PROJECTS / f"{name}.balken").read_text())
    change(raw)
    return work_out(from_text(json.dumps(raw).encode()))


def one(checked: Checked, role: str) -> Member:
    """The most used member of a role; where none is used, the first."""
    mine = [m for m in checked.structure.members if m.role == role]
    return max(mine, key=lambda m: checked.used.get(m.id, (-1.0, ""))[0])


def ratio(checked: Checked, role: str) -> float:
    """How far the most used member of a role is used."""
    return checked.used[one(checked, role).id][0]


def check_of(checked: Checked, role: str, name: str) -> Check | None:
    """A check of the most used member of a role, by its name; None where it has none of that
    name."""
    return next((c for c in checks_of(checked, one(checked, role)) if c.name == name), None)


def told(checked: Checked, kind: str) -> list[Finding]:
    """The findings of a kind."""
    return [f for f in findings(checked) if f.kind == kind]
