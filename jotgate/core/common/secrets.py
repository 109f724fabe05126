"""What is kept of a secret that opens something."""

import hashlib


def hash_of(secret: str) -> bytes:
    """Its SHA-256; secrets of ours are random, so nothing slower is needed."""
    return hashlib.sha256(secret.encode()).digest()
