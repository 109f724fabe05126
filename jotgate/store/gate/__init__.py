"""What the gate counts: places, those that are held, people, and its history."""
