"""Walls framed of studs: the rules, wall by wall."""
