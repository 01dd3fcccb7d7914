"""The block module: lengths and heights that come out in whole blocks.

A unit of 390 with a 10 mm joint makes 400, laid in half bond on a module M of 200. Along a course
each block begins at a whole module and ends one joint short of one. So of faces seen along the
wall, those that look back lie at n·M and those that look ahead at n·M − joint, and every length
follows from the two faces it runs between:

- outside length, from a face looking back to one looking ahead: n·M − joint; - opening, or the
clear length between two faces that look at each other: n·M + joint; - a length between two faces
that look the same way: n·M.

(Module coordination after ISO 2848 and the tables of block makers; common practice, no source.)
"""

import math
from typing import Final, Literal

from balken.model.walls import Module

LengthKind = Literal["outside", "opening", "between"]
SLACK: Final = 0.5
"""A length this near is on the module, mm: blocks are not laid closer."""


def allowance(kind: LengthKind, module: Module) -> float:
    """What a length of a kind has over whole modules, mm."""
    return {"outside": -module.joint, "opening": module.joint, "between": 0.0}[kind]


def modular(n: int, kind: LengthKind, module: Module) -> float:
    """The length of n modules, mm."""
    return n * module.length + allowance(kind, module)


def nearest(length: float, kind: LengthKind, module: Module, *, grow: bool = False) -> float:
    """The length on the module that is nearest, or the nearest that is no shorter, mm; at
    least one module."""
    n = (length - allowance(kind, module)) / module.length
    whole = math.ceil(n - SLACK / module.length) if grow else math.floor(n + 0.5)
    return modular(max(1, whole), kind, module)


def off_by(length: float, kind: LengthKind, module: Module) -> float:
    """How much longer (or, negative, shorter) a length is than the nearest one on the
    module, mm."""
    return length - nearest(length, kind, module)


def courses(height: float, module: Module) -> int:
    """How many courses reach a height."""
    return math.ceil(height / module.course - 1e-9)


def full_units(n: int) -> int:
    """How many whole units lie in a course of n modules in half bond; an odd module takes a
    half unit."""
    return n // 2


def kind_between(back: bool, ahead: bool) -> LengthKind:
    """The kind of a length by whether its first face looks back and its last face looks
    ahead."""
    if back and ahead:
        return "outside"
    return "between" if back or ahead else "opening"
