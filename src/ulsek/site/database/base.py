"""The backend by the name that Django looks for."""

from __future__ import annotations

import time
from typing import Any

from django.db.backends.mysql.base import DatabaseWrapper as MariaDB

FULL = (1040, 1203, 1226)
AWAY = (2002, 2003, 2013, 1053, 1047)
"""Errors of MariaDB by number: all its connections are taken; it does not answer yet."""
_WAITS_S = (0.1, 0.2, 0.4, 0.8)


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
