"""Tools of the board, without the window: each asks for places, things or words in turn and makes
edits of the answers."""
