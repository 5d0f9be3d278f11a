"""What is timed is the site, and not the judge of its answers."""

import pytest

# Here once, so that the benchmarks share one served site: it has one port and one database.
from tests.browser.conftest import browser_type_launch_args, hand, site  # noqa: F401
from tests.site.conftest import Api


@pytest.fixture(autouse=True)
def not_judged(monkeypatch):
    monkeypatch.setattr(Api, "judge", staticmethod(lambda _method, _address, answer: answer))
