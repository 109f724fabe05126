"""The demo scenario: an invented water office, its questionnaires, registers and entries."""
