"""The interface of the core for a browser's worker: the data of a house, the session of an edited draft, and requests with JSON answers."""
