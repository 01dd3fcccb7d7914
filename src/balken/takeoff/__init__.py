"""What is bought and cut: the cutting list and the concrete."""
