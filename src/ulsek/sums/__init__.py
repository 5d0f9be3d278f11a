"""Quick sums over HTTP, the last ones of each person, and labels for what was made by one."""
