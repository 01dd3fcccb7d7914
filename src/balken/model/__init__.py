"""What was decided: frozen records, and edits as plain functions from one project to the next."""
