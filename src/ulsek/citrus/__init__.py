"""Citrus: what came in, what this house's fruit gives, what it is cut for, and where it went."""
