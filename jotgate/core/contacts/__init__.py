"""Contacts: people and organisations that the office reaches out to, and what is known of them."""
