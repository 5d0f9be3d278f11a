"""How gunicorn runs the site: loaded once, then forked into its processes. Given to it as `--config python:ulsek.site.serving`."""

preload_app = True
# Seconds. Longer than the proxy keeps an idle connection (`deploy/nginx.conf`) and than a browser's tests do:
# whoever asks must be the one who closes, or a request may be sent into a connection that is just being closed.
keepalive = 75


def post_worker_init(_worker: object) -> None:
    """Called by gunicorn in each process of the site once it is ready to answer."""
    # Not above: gunicorn reads this module before it loads the application.
    from ulsek.site.wsgi import warm_later

    warm_later()
