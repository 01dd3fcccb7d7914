"""Edits of products: pieces whose values are typed from their maker's publication."""

from typing import Any

from msgspec.structs import replace

from balken.model.edits.common import EditError, checked, known
from balken.model.project import Project
from balken.model.sections import Family, Product, faults_of_product


def add_product(project: Project, product: Product) -> Project:
    """Add a product, or replace the one of its name.

    Raises:
        EditError: its name is missing, or values its family needs.
    """
    if not product.id.strip():
        raise EditError("A product needs a name, such as the one its maker gives it.")
    fault = faults_of_product(product)
    if fault:
        raise EditError(f"“{product.id}” {fault}. Type what its maker publishes.")
    rest = tuple(p for p in project.products if p.id != product.id)
    return checked(project, products=(*rest, product))


def set_product(project: Project, name: str, **fields: Any) -> Project:
    """Change values of a product; everything cut from it is checked again."""
    known(Product, fields)
    item = next((p for p in project.products if p.id == name), None)
    if item is None:
        raise EditError(f"There is no product “{name}” of yours.")
    made = replace(item, **fields)
    fault = faults_of_product(made)
    if fault:
        raise EditError(f"“{name}” {fault}. Type what its maker publishes.")
    return checked(project, products=tuple(made if p.id == name else p for p in project.products))


def remove_product(project: Project, name: str) -> Project:
    """Take a product out of the project.

    Raises:
        EditError: something is still cut from it.
    """
    try:
        return checked(project, products=tuple(p for p in project.products if p.id != name))
    except EditError as error:
        raise EditError(
            f"“{name}” is still used: {error} Give what is cut from it another section first."
        ) from error


def first_product(project: Project, family: Family) -> Product:
    """A product to begin from, with round invented values to be typed over."""
    us = project.system == "us"
    taken = {p.id for p in project.products}
    stem = {
        "i-joist": "I-joist",
        "open web": "Truss",
        "glulam": "Glulam",
        "lvl": "LVL",
        "steel i": "Steel I",
        "steel hollow": "Steel hollow",
        "sawn": "Lumber",
    }[family]
    name = next(n for n in (f"{stem} {k}" for k in range(1, 10_000)) if n not in taken)
    depth = 301.6 if us else 300.0
    size = {
        "i-joist": (58.0, depth),
        "open web": (89.0, 400.0),
        "glulam": (140.0, 360.0),
        "lvl": (45.0, depth),
        "steel i": (100.0, 200.0),
        "steel hollow": (100.0, 100.0),
        "sawn": (38.0, 235.0),
    }[family]
    values: dict[str, float] = {"weight": 0.05}
    if family in ("i-joist", "open web"):
        values |= {"moment": 6.0e6, "shear": 7.0e3, "reaction": 5.0e3, "stiffness": 6.0e11}
    elif family in ("steel i", "steel hollow"):
        values |= {"web": 6.0, "flange": 8.0 if family == "steel i" else 0.0, "fy": 235.0}
    else:
        values |= {
            "fb": 16.0,
            "fv": 1.8,
            "fc_perp": 4.5,
            "fc": 11.0,
            "e": 12_000.0,
            "e_min": 6_300.0,
        }
    return Product(name, family, *size, **values)  # type: ignore[arg-type]
