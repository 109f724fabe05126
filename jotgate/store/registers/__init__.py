"""Registers, their rows and how they are looked at."""
