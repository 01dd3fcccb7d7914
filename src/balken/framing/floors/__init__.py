"""Joist floors and slabs: rows, openings, what stands between and round them."""
