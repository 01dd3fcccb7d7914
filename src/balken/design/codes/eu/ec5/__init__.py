"""Timber by EN 1995-1-1:2004 with amendments 1 and 2, recommended values: one file a subject."""
