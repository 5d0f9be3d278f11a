"""The backend by the name that Django looks for."""

from __future__ import annotations

import time
from typing import Any

from django.core.exceptions import ImproperlyConfigured
from django.db.backends.mysql.base import DatabaseWrapper as MariaDB

FULL = (1040, 1203, 1226)
AWAY = (2002, 2003, 2013, 1053, 1047)
"""Errors of MariaDB by number: all its connections are taken; it does not answer yet."""
_WAITS_S = (0.1, 0.2, 0.4, 0.8)


LEAST = (10, 11)
"""The oldest MariaDB that is taken: that of Debian 12, with which all of this is tested [version]."""


class DatabaseWrapper(MariaDB):
    """Opens a connection, again for up to a second and a half where there is none to be had; raises OperationalError then."""

    def get_new_connection(self, conn_params: Any) -> Any:
        for wait_s in _WAITS_S:
            try:
                return super().get_new_connection(conn_params)
            except Exception as trouble:
                if not trouble.args or trouble.args[0] not in (*FULL, *AWAY):
                    raise
            time.sleep(wait_s)
        return super().get_new_connection(conn_params)

    def check_database_version_supported(self) -> None:
        """Raises ImproperlyConfigured, in words, for a server that is no MariaDB or is older than `LEAST`."""
        found = self.get_database_version()
        if not self.mysql_is_mariadb or found < LEAST:
            server = f"{'MariaDB' if self.mysql_is_mariadb else 'another kind, version'} {'.'.join(map(str, found))}"
            least = ".".join(map(str, LEAST))
            raise ImproperlyConfigured(
                f"The database server is {server}: Ulsek takes MariaDB {least} or newer. Upgrade it, after a backup, or name another one by ULSEK_DB_HOST."
            )
