"""Routes for people who are signed in."""
