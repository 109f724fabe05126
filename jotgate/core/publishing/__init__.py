"""What keeps a questionnaire from being published."""
