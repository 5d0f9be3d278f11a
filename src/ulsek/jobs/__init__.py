"""What takes longer than a request: kept as a row, done by a worker, with progress, a way to stop it, and a file at its end."""
