"""Products: pieces whose values are typed from what their maker publishes."""

from collections.abc import Callable
from functools import partial
from typing import Any

from msgspec.structs import replace

from balken.drawing.words import pretty
from balken.model.edits.common import EditError
from balken.model.edits.products import add_product, first_product, remove_product, set_product
from balken.model.names import Name, ThingName, as_thing
from balken.model.product_rows import shipped_products
from balken.model.sections import BY_CAPACITY, FAMILY_WORDS, NOT_TYPED, STEEL, Family
from balken.session.desk import Desk, Thing, page
from balken.session.rows import Button, Field, Heading, Line, Link, Links, Rows, Title
from balken.units import (
    PSI,
    System,
    format_force,
    format_line_load,
    format_moment,
    format_run,
    parse_length,
)
from balken.units.number import parse_number
from balken.units.quantity import parse_force, parse_line_load, parse_moment

Reader = Callable[[str, System], float]


Writer = Callable[[float, System], str]


STIFF = {"us": 2.8698e9, "metric": 1.0e9}
"""A unit of EI: 10^6 lb in², or 10^9 N mm²."""


def _stress(value: float, system: System) -> str:
    return f"{value / PSI:.0f} psi" if system == "us" else f"{value:g} N/mm²"


def _read_stress(text: str, system: System) -> float:
    for unit in ("psi", "N/mm²", "N/mm2", "MPa"):
        text = text.replace(unit, "")
    return parse_number(text) * (PSI if system == "us" else 1.0)


def _stiffness(value: float, system: System) -> str:
    return f"{value / STIFF[system]:g}"


def _read_stiffness(text: str, system: System) -> float:
    return parse_number(text) * STIFF[system]


def _bare(value: float, system: System) -> str:
    return f"{value:g}"


def _read_bare(text: str, system: System) -> float:
    return parse_number(text)


FIELDS: dict[str, tuple[str, Reader, Writer]] = {
    "breadth": ("breadth", parse_length, format_run),
    "depth": ("depth", parse_length, format_run),
    "moment": ("moment", parse_moment, format_moment),
    "shear": ("shear", parse_force, format_force),
    "reaction": ("end reaction", parse_force, format_force),
    "stiffness": ("E I", _read_stiffness, _stiffness),
    "fb": ("Fb", _read_stress, _stress),
    "fv": ("Fv", _read_stress, _stress),
    "fc_perp": ("Fc perp", _read_stress, _stress),
    "fb_hogging": ("Fb, top in tension", _read_stress, _stress),
    "e_min_weak": ("E min sideways", _read_stress, _stress),
    "depth_exponent": ("exponent of depth", _read_bare, _bare),
    "hole": ("hole up to, of depth", _read_bare, _bare),
    "notch": ("notch up to, of depth", _read_bare, _bare),
    "fc": ("Fc", _read_stress, _stress),
    "e": ("E", _read_stress, _stress),
    "e_min": ("E min", _read_stress, _stress),
    "web": ("web or wall", parse_length, format_run),
    "flange": ("flange", parse_length, format_run),
    "radius": ("fillet or corner", parse_length, format_run),
    "fy": ("Fy", _read_stress, _stress),
    "weight": ("weight", parse_line_load, format_line_load),
    "price": ("price of a metre", _read_bare, _bare),
}
"""What is typed of a product: its name, how it is read and written."""


OF_FAMILY: dict[Family, tuple[str, ...]] = {
    "glulam": ("fb_hogging", "e_min_weak", "hole", "notch"),
    "lvl": ("depth_exponent", "hole", "notch"),
}
"""What only some families have: a layup has two sides, a maker allows holes or does not."""


BORED = ("hole", "notch")
"""What is typed of holes, as a share of the depth; nothing where the maker allows none."""


def fields_of(family: Family) -> tuple[str, ...]:
    """What is typed of a family."""
    if family in BY_CAPACITY:
        values: tuple[str, ...] = ("moment", "shear", "reaction", "stiffness")
    elif family in STEEL:
        values = (
            ("web", "flange", "radius", "fy") if family == "steel i" else ("web", "radius", "fy")
        )
    else:
        values = ("fb", "fv", "fc_perp", "fc", "e", "e_min", *OF_FAMILY.get(family, ()))
    return ("breadth", "depth", *values, "weight", "price")


def products(desk: Desk) -> Rows:
    """Fill the slip with all products of the project, and offer to type one."""
    project = desk.project
    yield Title("Products", "", f"{len(project.products)} of yours")
    yield Line(
        "Pieces with the values their maker publishes. Floors, beams and posts may be cut from"
        " them.",
        quiet=True,
    )
    for item in project.products:
        yield Link(
            item.id, FAMILY_WORDS[item.family], partial(desk.select, ThingName("product", item.id))
        )
    yield Heading("One more")
    families: list[tuple[str, Family]] = [
        (words, key) for key, words in FAMILY_WORDS.items() if key not in NOT_TYPED
    ]
    for words, family in families:
        yield Links([(words, partial(_new, desk, family))])
    yield Heading("Shipped", str(len(shipped_products(project.system))))
    yield Line(
        ", ".join(pretty(p.id) for p in shipped_products(project.system)), quiet=True, small=True
    )


def _new(desk: Desk, family: Family) -> None:
    made = first_product(desk.project, family)
    if desk.edit("add a product", partial(add_product, product=made)):
        desk.select(ThingName("product", made.id))


def _one(desk: Desk, thing: Name) -> Rows:
    name = as_thing(thing).key
    system = desk.system
    item = next((p for p in desk.project.products if p.id == name), None)
    if item is None:
        yield from products(desk)
        return
    yield Title(item.id, FAMILY_WORDS[item.family])
    yield Line("Round values to begin with: type what its maker publishes over them.", quiet=True)

    def edit(field: str, text: str) -> object:
        label, read, _ = FIELDS[field]
        value = read(text, system)
        changed: dict[str, Any] = {field: value}
        if field in BORED:
            changed = {"boring": replace(item.boring, **{field: value})}
        return desk.edit(f"{label} of {name}", lambda p: set_product(p, name, **changed))

    yield Field("name", item.id, lambda t: _rename(desk, name, t))
    for field in fields_of(item.family):
        label, _, write = FIELDS[field]
        words = f"{label}, 10⁶ lb in²" if field == "stiffness" and system == "us" else label
        words = f"{label}, 10⁹ N mm²" if field == "stiffness" and system == "metric" else words
        now = getattr(item.boring if field in BORED else item, field)
        yield Field(words, write(now, system), partial(edit, field))
    yield Button(
        "Take away", lambda: desk.edit("take a product away", partial(remove_product, name=name))
    )
    yield Links([("All products", lambda: desk.select(page("products")))])


def _rename(desk: Desk, name: str, text: str) -> object:
    new = text.strip()
    project = desk.project
    item = next(p for p in project.products if p.id == name)
    if any(p.id == new for p in project.products):
        raise EditError(f"There is a product “{new}” already.")
    beams = (*(x.kind for x in project.beams), *(x.kind for x in project.bays))
    if any(name in b.sizes for b in project.build_ups) or any(
        name in (k.section, *k.sizes) for k in beams
    ):
        raise EditError(
            f"“{name}” is used; give what is cut from it another section before it gets another"
            " name."
        )
    done = desk.edit(
        "name of product", lambda p: add_product(remove_product(p, name), replace(item, id=new))
    )
    if done:
        desk.select(ThingName("product", new))
    return done


PRODUCT = Thing("product", "product", _one)
