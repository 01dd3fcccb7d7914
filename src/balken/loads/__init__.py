"""What presses on the building, how cases combine, and the way of every load from roof to soil."""
