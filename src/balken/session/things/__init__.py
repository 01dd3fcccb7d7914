"""What the desk knows of each kind of thing, one file a kind: whether it is there, what it is
called, which tier shows it, what is alike, how it drags, its slip as rows, how it is taken away."""
