"""The ways into a questionnaire and on from it, as they are kept."""
