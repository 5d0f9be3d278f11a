"""Specs of a house: drafts, versions, and their evaluation."""
