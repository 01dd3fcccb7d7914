"""A solid slab as a floor: one body with its openings, on whatever it lies on."""

from balken.framing import kinds
from balken.framing.member import Bearings, Framed, Member, framed_of
from balken.geometry.plane import box, signed_area
from balken.geometry.solid import upright
from balken.model.floors import BuildUp, FloorArea
from balken.model.names import HostName, MemberName
from balken.recall import remembered


@remembered
def frame_slab(floor: FloorArea, build_up: BuildUp, bearings: Bearings) -> Framed:
    """Frame a solid slab: its outline as deep as its build-up says, without its openings."""
    ring = bearings.outline if signed_area(bearings.outline) > 0 else bearings.outline[::-1]
    bottom, top = bearings.height, bearings.height + build_up.slab
    x0, y0, x1, y1 = box(ring)
    z = (bottom + top) / 2
    host = HostName("floor", floor.id)
    return framed_of(
        [
            Member(
                MemberName(host, "floor slab", "1"),
                f"{floor.id}-S1",
                kinds.FLOOR_SLAB,
                host,
                floor.level,
                f"{build_up.slab:g} mm",
                "concrete",
                upright(ring, bottom, top),
                (x0, y0, z),
                (x1, y1, z),
                x1 - x0,
                x1 - x0,
                voids=tuple(upright(h.ring, bottom, top) for h in bearings.holes),
            )
        ]
    )
