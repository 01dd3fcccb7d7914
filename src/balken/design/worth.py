"""What a piece of wood is worth in a design, by any code: strengths with every factor that does not
depend on its load."""

import msgspec


class Worth(msgspec.Struct, frozen=True, gc=False):
    """Strength and stiffness of a piece, N/mm². Strengths lack what duration, buckling and sharing
    make of them."""

    fb: float
    """In bending."""
    fv: float
    """In shear, on the whole section."""
    fc_perp: float
    """Across the grain."""
    fc: float
    """Along the grain, pressed."""
    e: float
    """For deflection."""
    e_min: float
    """For stability."""
    ft: float = 0.0
    """Along the grain, pulled."""
    characteristic: float = 0.0
    """Of the strength along the grain, pressed, where a code takes slenderness from it."""
