"""What setting out comes to: bodies of walls, the ground, the block module, first proposals."""
