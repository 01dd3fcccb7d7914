"""What carries and has no check, and why: silence is the worst error, so every kind of member is
asked.

A member is *silent* where a load comes to it and nothing is held against anything. What is said
here goes to the fit list; the kinds that are never checked, and why they need not be, stand in
``docs/rules.md``.
"""

from collections.abc import Callable, Mapping
from typing import Final

import msgspec
from msgspec.structs import replace

from balken.design.plain_supports import is_pedestal
from balken.design.posts import why_not_checked
from balken.framing.member import CARRYING_ROLES, SPANNING_ROLES, Member, clear_span
from balken.framing.structure import Structure
from balken.loads.path import LoadPath
from balken.loads.statics import apart
from balken.model.catalogue import sections_of
from balken.model.names import HostName, MemberName
from balken.model.project import Project
from balken.model.sections import Section


class Silent(msgspec.Struct, frozen=True):
    """Members of one host that carry and are not checked, and what is missing."""

    members: tuple[Member, ...]
    why: str


NEEDS_NONE: Final = (
    "subfloor",
    "blinding",
    "fascia",
    "rim",
    "blocking",
    "squash block",
    "splice",
    "sill",
    "link",
    "collar tie",
    "valley plate",
    "stud",
)
"""Roles that rest all along, or carry nothing that the way of loads gives them (``docs/rules.md``
says why of each)."""


def silent_members(
    project: Project, structure: Structure, path: LoadPath, used: Mapping[MemberName, object]
) -> tuple[Silent, ...]:
    """All members that carry without a utilisation, by host and reason."""
    ask = _Asking(project, structure, path)
    found: dict[tuple[HostName, str], list[Member]] = {}
    for m in structure.members:
        if m.role not in NEEDS_NONE and m.id not in used:
            why = ask.why(m)
            if why:
                found.setdefault((m.host, why), []).append(m)
    return tuple(Silent(tuple(members), why) for (_, why), members in found.items())


class _Asking:
    """Asks members why they are silent."""

    def __init__(self, project: Project, structure: Structure, path: LoadPath) -> None:
        self._sections = sections_of(project.system, project.products)
        self._project, self._structure, self._path = project, structure, path

    def why(self, m: Member) -> str:
        """What is missing; empty where nothing comes to a member, or a finding of another kind
        tells what is wrong with it."""
        section = self._sections.get(m.section)
        reasons: dict[str, Callable[[Member, Section | None], str]] = {
            "post": self._post,
            "strut": self._post,
            "pier": self._pier,
            "stem": self._stem,
            "slab": self._slab,
            "floor slab": self._floor_slab,
            "corbel": self._corbel,
            "tie": self._tie,
            "ledger": self._ledger,
            "lookout": self._rake,
            "barge rafter": self._rake,
            "ridge": self._ridge,
            **dict.fromkeys(("top chord", "bottom chord", "web"), self._truss),
            **dict.fromkeys(SPANNING_ROLES, self._spanning),
            **dict.fromkeys((r for r in CARRYING_ROLES if r != "ledger"), self._spanning),
            **dict.fromkeys(("footing", "edge", "grade beam", "pad"), self._on_soil),
        }
        return reasons[m.role](m, section)

    def _laden(self, m: Member) -> bool:
        return bool(self._path.onto.get(m.id)) or m.id in self._path.carried

    def _post(self, m: Member, section: Section | None) -> str:
        if not any(self._path.onto_most(m.id) or ()):
            return ""
        return why_not_checked(m, section) or "its load has no sum"

    def _pier(self, m: Member, section: Section | None) -> str:
        if not self._laden(m) or is_pedestal(m):
            return ""
        return "it is higher than three times its width: a column with bars, which is not checked"

    def _stem(self, m: Member, section: Section | None) -> str:
        return "its compression is not checked" if self._laden(m) else ""

    def _slab(self, m: Member, section: Section | None) -> str:
        if not any(p.source != m.id for p in self._path.points.get(m.id, ())):
            return ""
        return (
            "walls or posts stand on it: slabs on the ground are not checked under loads that"
            " stand on them"
        )

    def _floor_slab(self, m: Member, section: Section | None) -> str:
        return "" if not self._path.rests.get(m.id) else "its thickness is not checked"

    def _corbel(self, m: Member, section: Section | None) -> str:
        return "corbels are not checked" if self._laden(m) else ""

    def _tie(self, m: Member, section: Section | None) -> str:
        names = {x.id for x in self._structure.of("rafter")}
        pair = replace(m.id, family="rafter")
        return (
            "" if pair not in names or section is not None else f"{m.section} has no tension value"
        )

    def _ledger(self, m: Member, section: Section | None) -> str:
        return "the fasteners that hold it to the wall are not checked" if self._laden(m) else ""

    def _rake(self, m: Member, section: Section | None) -> str:
        return "lookouts and barge rafters at the rake are not checked"

    def _ridge(self, m: Member, section: Section | None) -> str:
        return f"{m.section} is no section of the catalogue" if section is None else ""

    def _truss(self, m: Member, section: Section | None) -> str:
        if m.id.row.startswith("V") and m.role != "top chord":
            # Of a frame set on another roof: its plate lies on that roof all along, its post stands
            # on the plate.
            return ""
        return (
            f"its analysis came to nothing: {m.material} may have no values in {m.section}, or it"
            " would fold"
        )

    def _on_soil(self, m: Member, section: Section | None) -> str:
        return "its pressure on the soil is not checked"

    def _spanning(self, m: Member, section: Section | None) -> str:
        if len(apart(m.carrier.supports)) < 2 or any(not s.on for s in m.carrier.supports):
            return ""  # a finding of its own: nothing under an end
        if m.role in SPANNING_ROLES and clear_span(m) <= 0:
            return ""  # it lies on its bearings all along
        if section is None:
            return (
                f"{m.section} is no section of the catalogue: choose one, or type a product with"
                " its values"
            )
        return (
            f"there are no values for {m.material or 'it'} in {m.section}: choose another grade or"
            " size, or type a product"
        )
