"""What does not fit: where, by how much, and a mend that can be looked at before it is made."""
