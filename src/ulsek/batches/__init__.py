"""Runs at the bench, the lots that come of them, labels, and what the shift must know."""
