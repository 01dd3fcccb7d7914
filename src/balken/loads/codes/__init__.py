"""What the codes say of loads, each code on its own."""
