"""The WSGI entry that gunicorn serves."""

import gc
import os
import threading

from django.core.wsgi import get_wsgi_application
from django.urls import get_resolver

from ulsek import computing
from ulsek.planners import tasting
from ulsek.planners.cut_plan import warm

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ulsek.site.settings")
application = get_wsgi_application()
# Django imports the URL configuration, and with it every module of the API, at the first request of a process. Imported here, before gunicorn forks, it is shared
# by its processes; imported in a request, while `_warm` runs in the same process, it delayed that request by up to 20 s on a busy machine.
_ = get_resolver().url_patterns
# Modules loaded by now are never freed: frozen, so that the collector does not scan them during a request.
gc.collect()
gc.freeze()
gc.set_threshold(20_000, 20, 20)
WARM_AFTER_S = 4.0
"""Delay before modules and facts are loaded ahead [s]: that takes seconds of every core, which the programs beside the site need while they start."""


def warm_later() -> None:
    """Schedules `_warm` in a daemon thread after WARM_AFTER_S and returns at once.

    Call it once in each process of gunicorn, after the fork: threads do not survive one.
    """
    timer = threading.Timer(WARM_AFTER_S, _warm)
    timer.daemon = True
    timer.start()


def _warm() -> None:
    """Loads the solver, the statistics, the pool of slow computations and the facts of preps, in this order and in one thread: threads in parallel would slow
    down requests in the same process, since only one thread runs Python at a time.
    """
    # Not above: its models can be imported only once the application is set up.
    from ulsek.planning import facts

    for load in (warm, tasting.warm, computing.warm, facts.warm):
        load()
