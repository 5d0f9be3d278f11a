"""Taste: blind panels of samples of the house, answers from any phone, verdicts and decisions."""
