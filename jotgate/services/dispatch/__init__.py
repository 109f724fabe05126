"""Dispatch: what is done with an entry when it has arrived, and what is sent of it."""
