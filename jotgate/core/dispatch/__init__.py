"""Dispatch: ordered rules that act when an entry arrives, and what they would do with it."""
