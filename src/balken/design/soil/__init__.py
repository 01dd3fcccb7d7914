"""Soil: what it bears, how wide footings must be, and how it presses on walls."""
