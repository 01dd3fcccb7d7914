"""An open building: its history, its journal, and what follows from it. No window code."""
