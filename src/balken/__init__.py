"""Balken: structure between building levels, from an architect's walls to a cutting list."""

__version__ = "0.1.0"
