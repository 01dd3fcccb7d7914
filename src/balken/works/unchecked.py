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
from balken.design.thrust import pushes
from balken.framing import kinds
from balken.framing.kinds import MemberKind
from balken.framing.member import Member, apart, clear_span
from balken.framing.structure import Structure
from balken.loads.path import LoadPath
from balken.model.catalogue import sections_of
from balken.model.names import HostName, MemberName
from balken.model.project import Project
from balken.model.sections import Section
from balken.works.terms import terms_of


class Silent(msgspec.Struct, frozen=True):
    """Members of one host that carry and are not checked, and what is missing."""

    members: tuple[Member, ...]
    why: str


def silent_members(
    project: Project, structure: Structure, path: LoadPath, used: Mapping[MemberName, object]
) -> tuple[Silent, ...]:
    """All members that carry without a utilisation, by host and reason."""
    ask = _Asking(project, structure, path)
    found: dict[tuple[HostName, str], list[Member]] = {}
    for m in structure.members:
        if not m.kind.why_no_check and m.id not in used:
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
        return WHY[m.kind](self, m, section)

    def _laden(self, m: Member) -> bool:
        return bool(self._path.onto.get(m.id)) or m.id in self._path.carried

    def _post(self, m: Member, section: Section | None) -> str:
        if not any(self._path.onto_most(m.id) or ()):
            return ""
        return why_not_checked(terms_of(self._project), m, section) or "its load has no sum"

    def _pier(self, m: Member, section: Section | None) -> str:
        if not self._laden(m) or is_pedestal(m):
            return ""
        return "it is higher than three times its width: a column with bars, which is not checked"

    def _stem(self, m: Member, section: Section | None) -> str:
        return "its compression is not checked" if self._laden(m) else ""

    def _slab(self, m: Member, section: Section | None) -> str:
        stands = any(p.source != m.id for p in self._path.points.get(m.id, ()))
        return "what stands on it is not checked" if stands else ""

    def _floor_slab(self, m: Member, section: Section | None) -> str:
        return "" if not self._path.rests.get(m.id) else "its thickness is not checked"

    def _corbel(self, m: Member, section: Section | None) -> str:
        return "corbels are not checked" if self._laden(m) else ""

    def _tie(self, m: Member, section: Section | None) -> str:
        pair = replace(m.id, family="rafter")
        if not any(x.id == pair and pushes(x) for x in self._structure.of(kinds.RAFTER)):
            return ""
        return f"there are no tension values for {m.material} in {m.section}"

    def _ledger(self, m: Member, section: Section | None) -> str:
        chosen = any(f.use == "ledger" for f in self._project.fasteners)
        if chosen or not self._laden(m):
            return ""  # what is chosen too weak, or cannot be reckoned, is a finding of its own
        return (
            "the fasteners that hold it to the wall are not chosen: choose them on the page of"
            " fasteners"
        )

    def _rake(self, m: Member, section: Section | None) -> str:
        return "lookouts and barge rafters at the rake are not checked"

    def _ridge(self, m: Member, section: Section | None) -> str:
        return f"{m.section} is no section of the catalogue" if section is None else ""

    def _truss(self, m: Member, section: Section | None) -> str:
        if m.id.row.startswith("V") and m.kind is not kinds.TOP_CHORD:
            # Of a frame set on another roof: its plate lies on that roof all along, its post stands
            # on the plate.
            return ""
        return (
            f"its analysis came to nothing: {m.material} may have no values in {m.section}, or it"
            " would fold"
        )

    def _upright(self, m: Member, section: Section | None) -> str:
        laden = bool(self._path.on_walls.get(m.host))
        if section is None or not laden:
            return ""
        species, _, grade = m.material.partition(" ")
        worth = terms_of(self._project).timber.worth(species, grade, section)
        return f"there are no values for {m.material} in {m.section}" if worth is None else ""

    def _on_soil(self, m: Member, section: Section | None) -> str:
        return "its pressure on the soil is not checked"

    def _spanning(self, m: Member, section: Section | None) -> str:
        if len(apart(m.carrier.supports)) < 2 or any(not s.on for s in m.carrier.supports):
            return ""  # a finding of its own: nothing under an end
        if m.kind.spans and clear_span(m) <= 0:
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


WHY: Final[dict[MemberKind, Callable[[_Asking, Member, Section | None], str]]] = {
    **dict.fromkeys(kinds.those(lambda k: k.spans or k.carries), _Asking._spanning),
    **dict.fromkeys(kinds.those(lambda k: k.of_truss), _Asking._truss),
    **dict.fromkeys(kinds.those(lambda k: k.on_soil), _Asking._on_soil),
    kinds.LEDGER: _Asking._ledger,
    kinds.POST: _Asking._post,
    kinds.STRUT: _Asking._post,
    kinds.WALL_STUD: _Asking._upright,
    kinds.KING: _Asking._upright,
    kinds.GABLE_STUD: _Asking._upright,
    kinds.JACK: _Asking._upright,
    kinds.PIER: _Asking._pier,
    kinds.STEM: _Asking._stem,
    kinds.SLAB: _Asking._slab,
    kinds.FLOOR_SLAB: _Asking._floor_slab,
    kinds.CORBEL: _Asking._corbel,
    kinds.TIE: _Asking._tie,
    kinds.LOOKOUT: _Asking._rake,
    kinds.BARGE_RAFTER: _Asking._rake,
    kinds.RIDGE: _Asking._ridge,
}
"""What is asked of each kind, but for those that need no check (:attr:`MemberKind.why_no_check`)."""
