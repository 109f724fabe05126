"""Use cases: open a transaction, load, ask the core, save, defer."""
