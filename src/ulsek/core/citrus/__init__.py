"""Citrus: what a fruit holds, what a house's own fruit has taught, and what a juice becomes when it is stretched, kept or left on its peel."""
