"""Which codes a building is checked by, and the wood that goes with them."""

from collections.abc import Iterator, Sequence
from typing import Any, Protocol, TypeVar

from msgspec.structs import replace

from balken.model.beams import BeamKind
from balken.model.catalogue import GRADES_OF
from balken.model.edits.common import checked
from balken.model.project import Project
from balken.model.record import Code
from balken.model.usual import WOOD

CODE_NAMES: dict[Code, str] = {
    "us": "US: ASCE 7, NDS, AISC 360, ACI 318, IRC",
    "eu": "European: EN 1990 to EN 1997",
}


class CutFromWood(Protocol):
    """A record that names what its pieces are cut from."""

    @property
    def species(self) -> str:
        """Of sawn wood."""

    @property
    def grade(self) -> str:
        """Of sawn wood."""


Cut = TypeVar("Cut", bound=Any)


def foreign(code: Code, record: CutFromWood) -> bool:
    """Whether a record names wood that a code has no values for; products bring their own."""
    return bool(record.species) and record.grade not in GRADES_OF[code].get(record.species, ())


def with_wood_of_code(project: Project) -> Project:
    """A project whose wood is graded as its code has it: what is graded otherwise is cut from what
    is usual by the code."""
    return _regraded(project, project.code)


def change_code(project: Project, code: Code) -> Project:
    """Check a building by other codes; wood that those have no values for is cut from what is usual
    by them. Loads, sizes and limits of deflection stay as they are."""
    return checked(_regraded(project, code), code=code)


def _regraded(project: Project, code: Code) -> Project:
    wood = WOOD[code].cut_from()

    def grade(records: Sequence[Cut]) -> tuple[Cut, ...]:
        return tuple(replace(r, **wood) if foreign(code, r) else r for r in records)

    def kinds(records: Sequence[Cut]) -> tuple[Cut, ...]:
        found = []
        for r in records:
            kind: BeamKind = r.kind
            found.append(replace(r, kind=replace(kind, **wood)) if foreign(code, kind) else r)
        return tuple(found)

    return checked(
        project,
        build_ups=grade(project.build_ups),
        roofs=grade(project.roofs),
        point_supports=grade(project.point_supports),
        beams=kinds(project.beams),
        bays=kinds(project.bays),
    )


def changed_by(project: Project, code: Code) -> Iterator[str]:
    """What another code changes in a building, in words: one sentence each."""
    yield f"Everything is checked by {CODE_NAMES[code]}; nothing of the other codes is used."
    wood = " ".join(WOOD[code][:2])
    for word, records in (
        ("floor build-up", project.build_ups),
        ("roof", project.roofs),
        ("post", project.point_supports),
        ("beam", [*(b.kind for b in project.beams), *(b.kind for b in project.bays)]),
    ):
        count = sum(foreign(code, r) for r in records)
        if count:
            yield f"{count} {word}{'s' if count > 1 else ''} will be of {wood}."
    yield "Loads, sections typed by hand and limits of deflection stay: look at them."
