"""Instruments and printers, and the one process that owns the instruments."""
