"""Files in and out. Every reader validates once, here, and never leaves anything half changed."""
