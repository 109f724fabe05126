"""What everything in the core stands on: keys, texts, values, numbers, errors."""
