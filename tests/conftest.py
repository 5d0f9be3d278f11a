"""What all tests share."""

import os

import pytest

# Playwright's sync API runs an event loop; the live server's ORM calls in the same process are synchronous all the same.
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")

pytest.register_assert_rewrite("tests.core.kitchen", "tests.core.verbs")
