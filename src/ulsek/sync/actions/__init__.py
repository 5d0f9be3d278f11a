"""One file for each thing that is done with a signed action."""
