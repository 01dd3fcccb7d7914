"""Every kind of member through every register: none may be forgotten where the others are known."""

import ifcopenshell
import pytest

from balken.drawing.figure import FIGURES
from balken.drawing.kinds import DRAWN
from balken.fit.advice import ADVICE, advice_for
from balken.framing import kinds
from balken.framing.kinds import KINDS, MemberKind
from balken.works import unchecked
from balken.works.building import work_out
from balken.works.by_kind import CHECKS
from test_nothing_silent import ORDINARY

EVERY = pytest.mark.parametrize("kind", KINDS.values(), ids=KINDS)
IFC4 = ifcopenshell.ifcopenshell_wrapper.schema_by_name("IFC4")


def test_there_are_kinds_and_their_words_differ() -> None:
    assert len(KINDS) >= 41
    assert all(role == kind.role for role, kind in KINDS.items())


@EVERY
def test_each_is_checked_or_says_why_not(kind: MemberKind) -> None:
    asked = kind in unchecked.WHY
    assert asked != bool(kind.why_no_check), "a kind is asked why it is silent, or needs no check"
    if kind in CHECKS or kind.spans or kind.carries or kind.of_truss:
        assert asked


@EVERY
def test_each_is_drawn(kind: MemberKind) -> None:
    drawn = DRAWN[kind]
    assert (drawn.tone == "concrete") == bool(kind.concrete)
    assert set(FIGURES) <= set(KINDS.values())


@EVERY
def test_each_has_advice(kind: MemberKind) -> None:
    assert advice_for(kind).over
    if kind.flows:
        assert advice_for(kind).hanging, "what hands its load on may hang in the air"
    assert set(ADVICE) <= set(KINDS.values())


@EVERY
def test_each_has_its_class_in_the_open_standard(kind: MemberKind) -> None:
    """IFC 4: the entity, its predefined type, and its set of base quantities by the standard's own
    schema, as ifcopenshell holds it."""
    entity = IFC4.declaration_by_name(kind.ifc.entity).as_entity()
    place = [a.name() for a in entity.all_attributes()].index("PredefinedType")
    types = entity.attribute_by_index(place).type_of_attribute().declared_type()
    assert kind.ifc.predefined in types.as_enumeration_type().enumeration_items()
    assert (kind.ifc.predefined == "USERDEFINED") == (kind.ifc.words is not None)
    assert kind.ifc.quantities == f"Qto_{kind.ifc.entity.removeprefix('Ifc')}BaseQuantities"


@EVERY
def test_what_is_said_of_a_kind_agrees(kind: MemberKind) -> None:
    assert not (kind.concrete and (kind.spans or kind.held_all_along))
    assert not (kind.spans and kind.carries)
    if kind.strip:
        assert kind.on_soil
    if kind.anywhere:
        assert kind.upright


def test_concrete_gives_way_in_one_order() -> None:
    places = [k.concrete for k in kinds.CONCRETE]
    assert len(set(places)) == len(places)
    assert [k.role for k in kinds.CONCRETE][:2] == ["stem", "corbel"]


def test_no_letter_stands_for_two_kinds_of_a_foundation() -> None:
    letters = [k.letter for k in KINDS.values() if k.letter and not k.of_truss]
    assert len(set(letters)) == len(letters)


def test_ordinary_buildings_have_most_kinds() -> None:
    """What the walk above says of records holds of members that are there."""
    there = {m.kind for make in ORDINARY for m in work_out(make()).structure.members}
    assert len(there) >= 25
    assert there <= set(KINDS.values())
