"""The worker's side of rounds: their steps go by themselves."""
