"""Rounds of outreach: what they are, who is asked in them, and what was tried."""
