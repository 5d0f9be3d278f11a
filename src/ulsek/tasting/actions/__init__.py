"""What people do with a panel, one file for each."""
