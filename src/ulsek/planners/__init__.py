"""What needs a solver library: which fruit is cut for what, and what a trial can honestly say. Values in, values out; nothing of the site."""
