"""The root of all errors of the program's own."""


class BalkenError(Exception):
    """What people may cause: its text says what, where, by how much and what to do. Anything else
    that is raised is a fault of the program, and is never told as a refusal."""
