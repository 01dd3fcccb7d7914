"""Sheets: which views there are, how they are laid on paper, and what stands beside them."""
