"""Simulated instruments: small programs that speak the plain line protocol over TCP, so that the driver of a real serial port reads them."""
