"""The ways into a questionnaire and on from it, and what is known of who comes by them."""
