"""Runs, the lots that they make, labels, and the overview of a shift."""
