"""Trusses: shapes, one under a line of the roof, all along a roof, frames on another roof."""
