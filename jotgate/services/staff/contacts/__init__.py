"""Contacts and lists, for whoever may reach people in the name of the office."""
