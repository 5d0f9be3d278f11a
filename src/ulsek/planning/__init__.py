"""The plan: pars, days that are not usual, who is in, what suppliers deliver when, and the list of a day that follows from them."""
