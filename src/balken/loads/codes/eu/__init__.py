"""Loads by EN 1990 and EN 1991 with recommended values, from memory: one file a part."""
