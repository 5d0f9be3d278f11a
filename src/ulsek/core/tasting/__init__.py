"""Sensory panels: methods, blind codes and balanced orders, what may be served, and the words of a verdict."""
