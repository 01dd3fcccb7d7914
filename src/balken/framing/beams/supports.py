"""Posts, pads and piers as members: one body on one spot between two levels."""

from typing import Final

import msgspec
from msgspec.structs import replace

from balken.framing import kinds
from balken.framing.beams.fitting import TIES
from balken.framing.member import Member
from balken.framing.pieces import near_spots
from balken.geometry.plane import TOUCH, Point
from balken.geometry.solid import upright
from balken.model.catalogue import catalogue_of, sections_of
from balken.model.names import HostName, MemberName, Rest
from balken.model.project import PointSupport
from balken.model.record import Code
from balken.model.sections import Product
from balken.model.supports import outline_at
from balken.model.usual import WOOD
from balken.recall import remembered, remembered_piece
from balken.units import System, format_run

SAME_SIZE: Final = 0.5
"""A post this near to a section in breadth and depth is cut from it, mm."""
BESIDE: Final = 30.0
"""A post stands on what lies this near to its middle, and under it, mm."""


@remembered_piece
def frame_support(
    item: PointSupport,
    spot: Point,
    turn: float,
    between: tuple[float, float],
    code: Code,
    system: System,
    products: tuple[Product, ...],
) -> Member:
    """The post, pad or pier itself, upright between two heights."""
    low, high = between
    section, material = _made_of(item, code, system, products)
    kind = kinds.KINDS[item.kind]
    host = HostName("support", item.id)
    return Member(
        MemberName(host, item.kind, "1"),
        item.id,
        kind,
        host,
        item.base,
        section,
        material,
        upright(outline_at(item, spot, turn), low, high),
        (*spot, low),
        (*spot, high),
        high - low,
        high - low,
        ("square", "square") if kind is kinds.POST else (),
    )


class Stood(msgspec.Struct, frozen=True, gc=False):
    """Supports with their posts fitted, and what lies about each post and pier in plan, in any
    height."""

    members: tuple[Member, ...]
    about: dict[MemberName, tuple[Member, ...]]


@remembered
def stand(
    members: tuple[Member, ...],
    beams: tuple[Member, ...],
    below: tuple[Member, ...],
    slabs: tuple[Member, ...],
    ridges: tuple[Member, ...],
) -> Stood:
    """Fit posts: the top to the underside of a beam or slab over it, the foot to what it is on.

    Only what lies within :data:`BESIDE` of the post's middle and :data:`TIES` of its own end
    counts, and a beam of a roof that stands on the post; a post that finds nothing keeps its
    levels.
    """
    carriers = (m for m in (*members, *below) if m.kind.under_posts or m.kind is kinds.POST)
    near = _near(members, [*carriers, *beams, *slabs])
    under = _undersides(ridges)
    fitted = tuple(
        _fitted(m, near[m.id], under.get(m.id)) if m.kind is kinds.POST else m for m in members
    )
    now = {m.id: m for m in fitted if m.kind is kinds.POST}
    about = {name: tuple([now.get(o.id, o) for o in here]) for name, here in near.items()}
    return Stood(fitted, about)


def _undersides(ridges: tuple[Member, ...]) -> dict[Rest | None, float]:
    """The underside of the ridge beam or purlin that stands on each support, mm."""
    return {s.on: min(z for *_, z in m.solid.points()) for m in ridges for s in m.carrier.supports}


def _near(
    members: tuple[Member, ...], others: list[Member]
) -> dict[MemberName, tuple[Member, ...]]:
    """What lies about each post and pier in plan, by its name."""
    standing = [m for m in members if m.kind in (kinds.POST, kinds.PIER)]
    if not standing:
        return {}
    about = near_spots([(m.start[0], m.start[1]) for m in standing], others, BESIDE)
    return {m.id: tuple([o for o in here if o.id != m.id]) for m, here in zip(standing, about)}


@remembered_piece
def _fitted(m: Member, near: tuple[Member, ...], ridge: float | None) -> Member:
    """One post fitted between what lies over and under it; up to a ridge where it carries
    one."""
    low, high = m.start[2], m.end[2]
    over = [
        min([z for _, z in o.solid.outline]) if o.kind is kinds.BEAM else o.solid.origin[2]
        for o in near
        if o.kind in (kinds.BEAM, kinds.FLOOR_SLAB)
    ]
    new_high = _nearest(over, high) if ridge is None else ridge
    new_low = _nearest([z for o in near if (z := o.solid.top()) < new_high], low)
    if new_high - new_low <= TOUCH or (new_low, new_high) == (low, high):
        return m
    return replace(
        m,
        solid=upright(m.solid.plan(), new_low, new_high),
        start=(*m.start[:2], new_low),
        end=(*m.end[:2], new_high),
        length=new_high - new_low,
        blank=new_high - new_low,
    )


def _nearest(heights: list[float], wanted: float) -> float:
    """The height nearest to what is wanted, if one is near enough to tie to; else what is
    wanted."""
    return min(
        (z for z in heights if abs(z - wanted) <= TIES),
        key=lambda z: (abs(z - wanted), z),
        default=wanted,
    )


def _made_of(
    item: PointSupport, code: Code, system: System, products: tuple[Product, ...]
) -> tuple[str, str]:
    """Section and material: a post of a size that is sold is lumber; pads and piers are
    concrete."""
    wide, deep = (format_run(s, system) for s in item.size)
    usual = " ".join(WOOD[code][:2])
    size = f"ø {wide}" if item.round else f"{wide} × {deep}"
    if item.kind != "post":
        return size, "concrete"
    if item.section:
        section = sections_of(system, products).get(item.section)
        product = section.product if section else None
        material = product.id if product else f"{item.species} {item.grade}"
        return item.section, material if material.strip() else usual
    sold = None if item.round else _sold_as(item.size, system)
    return (sold, usual) if sold else (size, "post")


def _sold_as(size: tuple[float, float], system: System) -> str | None:
    """The section of dressed lumber of a size, mm; None where it is none."""
    small, large = sorted(size)
    return next(
        (
            s.name
            for s in catalogue_of(system).sections.values()
            if abs(s.breadth - small) < SAME_SIZE and abs(s.depth - large) < SAME_SIZE
        ),
        None,
    )
