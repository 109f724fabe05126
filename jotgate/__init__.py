"""Jot Gate: questionnaires with branching, a gate, dispatch and protected entries."""
