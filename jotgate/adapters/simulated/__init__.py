"""The outside world that ships with the application, spoken to over its real protocols."""
