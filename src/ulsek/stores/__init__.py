"""What the house has, what is in it, what it costs."""
