"""Computations that need a solver or a statistics library: cut plans and paired trials. Values in, values out; nothing of the site."""
