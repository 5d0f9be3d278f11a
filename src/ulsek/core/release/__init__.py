"""Checks before publishing: release check, process hazards, legal names, allergens and their carry-over."""
