"""Checks and sizing. A check is one array function, whether it serves one member or a thousand
candidates."""
