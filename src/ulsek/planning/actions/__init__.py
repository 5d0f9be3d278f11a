"""What people do to a plan."""
