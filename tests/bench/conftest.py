"""What is timed is the site, and not the judge of its answers."""

import pytest

from tests.site.conftest import Api


@pytest.fixture(autouse=True)
def not_judged(monkeypatch):
    monkeypatch.setattr(Api, "judge", staticmethod(lambda _method, _address, answer: answer))
