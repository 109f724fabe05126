"""Registers as staff work in them."""
