"""People, houses, who may do what, and the history of what was done."""
