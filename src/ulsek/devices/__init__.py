"""Devices: instruments on a cable, and the one process that owns them."""
