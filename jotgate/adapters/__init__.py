"""The real things behind the ports."""
