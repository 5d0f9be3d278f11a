"""Advice on a result: solver, corrections, batch scaling, juice treatment, sub-recipes."""
