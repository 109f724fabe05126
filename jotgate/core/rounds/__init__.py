"""Rounds: whom to ask, what becomes of each, and what comes back by mail."""
