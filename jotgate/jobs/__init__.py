"""Background tasks: decode, call one service."""
