"""Substances and their constants, and contents: grams of each substance."""
