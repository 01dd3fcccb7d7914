"""Eurocodes: EN 1992 for what stands in the ground, with EN 1990 and EN 1997."""
