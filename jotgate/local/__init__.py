"""Running everything on one machine: a PostgreSQL cluster of our own, and the processes."""
