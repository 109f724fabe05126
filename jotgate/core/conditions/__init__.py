"""Conditions, checks across answers and formulas: what is decided and computed from answers."""
