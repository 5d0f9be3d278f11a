"""Django's MariaDB backend with patience: a database that is full or coming back is waited for, briefly."""
