"""Evaluation of a spec: mass flow, figures with their uncertainty, cost, colour, browning, process remarks, by-products and shelf life."""
