"""Who may answer now: settings, opening times, places, and the one decision about them."""
