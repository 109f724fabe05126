"""`python -m jotgate`."""

from jotgate.cli import app

app()
