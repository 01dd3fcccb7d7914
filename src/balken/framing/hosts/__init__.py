"""What makes members: for each sort of host the few records it reads of a project, and its members."""
