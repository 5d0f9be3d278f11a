"""Citrus of a house: cases, yields, cut plans, and the ledger of its use."""
