"""Signed actions: what people did on a device, signed there, whoever sends it."""
