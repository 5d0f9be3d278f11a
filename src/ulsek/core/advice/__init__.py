"""What to do about a result: solver, corrections, batch scaling, juice treatment, sub-recipes."""
