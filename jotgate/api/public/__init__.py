"""Routes for anybody: answering. No cookie, no sign-in, every request hostile."""
