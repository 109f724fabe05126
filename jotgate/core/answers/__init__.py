"""From what a respondent sent to the value that is kept, or a failure."""
