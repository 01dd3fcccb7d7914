"""How sections are written on drawings and in the window."""


def pretty(section: str) -> str:
    """Write a section with a multiplication sign: ``2x10`` as ``2×10``, ``3-2x10`` as
    ``3-2×10``."""
    return section.replace("x", "×") if any(c.isdigit() for c in section) else section
