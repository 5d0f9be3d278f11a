"""Ulsek: a working bench for a bar's house ingredients."""
