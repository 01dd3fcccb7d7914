"""Run Balken's commands: ``python -m balken``."""

from balken.cli import main

main(prog_name="balken")
