"""Shelf life, hazards and restricted substances, and the rules that a house may set."""
