"""What makes and measures the program: the bench, pictures of the window, the self-test."""
