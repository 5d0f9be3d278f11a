"""Shelf life, hazards, restricted substances, and house rules: the limits that ship and a house's own."""
