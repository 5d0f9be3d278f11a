"""Quick sums for people: the core's sums over HTTP, what each person worked out last, and a label for what was made by one."""
