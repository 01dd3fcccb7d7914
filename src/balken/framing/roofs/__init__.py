"""Roofs over their walls: planes, rafters, ridges, hips and valleys, what closes the edges."""
