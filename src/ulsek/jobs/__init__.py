"""Jobs: what takes longer than a request, stored as a row, done by a worker, with progress, a stop, and a file at its end."""
