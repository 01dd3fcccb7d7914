"""The calculation book: what was computed, from what, by which clause, in one document."""
