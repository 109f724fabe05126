"""Contacts, the lists that they are on, and who must not be written to."""
