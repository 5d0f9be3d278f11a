"""What all tests share."""

import ipaddress
import os
import sys

import pytest
from hypothesis import settings

# Playwright's sync API runs an event loop; the live server's ORM calls in the same process are synchronous all the same.
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")

# A busy machine is slow and not wrong: no example fails for the time that it took.
settings.register_profile("ulsek", deadline=None)
settings.load_profile("ulsek")

pytest.register_assert_rewrite("tests.core.kitchen", "tests.core.verbs")


def _only_loopback(event, args):
    """No test opens an address outside this machine, whatever it tests."""
    if event != "socket.connect" or not isinstance(args[1], tuple):
        return
    host = str(args[1][0])
    if host != "localhost" and not ipaddress.ip_address(host).is_loopback:
        raise AssertionError(f"a test opens {host}: only 127.0.0.0/8 is allowed")


sys.addaudithook(_only_loopback)
