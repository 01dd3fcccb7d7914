"""The way through: what was decided is framed, loaded and checked, in rounds until nothing changes."""
