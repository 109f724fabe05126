"""Registers: tables of our own where filed rows land and are worked on."""
