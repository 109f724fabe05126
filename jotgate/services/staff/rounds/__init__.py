"""Rounds at the desk: written, drawn, followed, stopped, rung and visited."""
