"""From project to members: what stands in the building, piece by piece, with its cuts and what it
bears on."""
