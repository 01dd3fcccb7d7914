"""Beams where they lie and what they are fitted to; posts, pads and piers."""
