"""HTTP: routes parse, make one call, and shape the reply."""
