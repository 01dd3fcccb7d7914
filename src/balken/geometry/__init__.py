"""Points, polygons and solids in mm, with the tolerances everything else compares by."""
