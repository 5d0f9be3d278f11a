"""Django's MariaDB backend, which waits briefly for a database that is full or restarting."""
