"""PostgreSQL through SQLAlchemy: one file per entity, queries as functions.

Every function takes an open connection inside the caller's transaction, returns core values
and never commits.
"""
