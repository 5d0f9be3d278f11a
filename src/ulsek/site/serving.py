"""How gunicorn runs the site: loaded once, then forked into its processes. Given to it as `--config python:ulsek.site.serving`."""

import os
import shutil
from pathlib import Path

preload_app = True
# Seconds. Longer than the proxy keeps an idle connection (`deploy/nginx.conf`) and than a browser's tests do:
# whoever asks must be the one who closes, or a request may be sent into a connection that is just being closed.
keepalive = 75


if os.environ.get("ULSEK_STATE"):
    # Each process of the site keeps its figures in a file of its own here; those of earlier ones are not asked for any more.
    _FIGURES = Path(os.environ["ULSEK_STATE"]) / "figures"
    shutil.rmtree(_FIGURES, ignore_errors=True)
    _FIGURES.mkdir(parents=True, exist_ok=True)
    os.environ["PROMETHEUS_MULTIPROC_DIR"] = str(_FIGURES)


def child_exit(_server: object, worker: object) -> None:
    """Called by gunicorn when a process of the site has ended: what it had going counts no more."""
    if "PROMETHEUS_MULTIPROC_DIR" in os.environ:
        from prometheus_client import multiprocess

        multiprocess.mark_process_dead(worker.pid)  # type: ignore[attr-defined,no-untyped-call]


def post_worker_init(_worker: object) -> None:
    """Called by gunicorn in each process of the site once it is ready to answer."""
    # Not above: gunicorn reads this module before it loads the application.
    from ulsek.site.wsgi import warm_later

    warm_later()
