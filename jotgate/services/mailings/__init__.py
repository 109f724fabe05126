"""Letters to contacts: sent at a pace, kept back where they must not go, and what comes back."""
