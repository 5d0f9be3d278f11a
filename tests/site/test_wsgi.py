"""Modules that are loaded before gunicorn forks."""

import os
import subprocess
import sys

ASKS = """
import sys
from wsgiref.util import setup_testing_defaults
from ulsek.site.wsgi import application
before, answers = set(sys.modules), []
asked = {"PATH_INFO": "/api/health", "HTTP_HOST": "127.0.0.1"}
setup_testing_defaults(asked)
b"".join(application(asked, lambda status, headers: answers.append(status)))
print(answers, sorted(name for name in set(sys.modules) - before if name.startswith(("ulsek", "ninja", "pydantic"))))
"""


def test_the_first_request_of_a_process_loads_nothing_of_the_site():
    """A module that is missing here is imported in the first request of every process, which took up to 20 s on a busy machine."""
    asked = subprocess.run([sys.executable, "-c", ASKS], env=dict(os.environ), capture_output=True, text=True, check=True)
    assert asked.stdout.strip() == "['200 OK'] []"
