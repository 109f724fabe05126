"""Protocols for everything outside: time, ids, secrets, background work, mail."""
