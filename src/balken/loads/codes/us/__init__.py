"""Loads by ASCE/SEI 7-16, from memory: one file a chapter."""
