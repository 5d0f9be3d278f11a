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
# Django loads the addresses, and with them every module of the API, at the first request: here they are there before gunicorn forks, in memory that its processes
# share. Loaded later, beside what is warmed below, the first request of each process took up to 20 s on a busy machine.
_ = get_resolver().url_patterns
# Modules loaded by now are never freed: frozen, so that the collector does not scan them during a request.
gc.collect()
gc.freeze()
gc.set_threshold(20_000, 20, 20)
WARM_AFTER_S = 4.0
"""The solver, the processes of slow computations and the facts of a plan take seconds of every core to load: not while the programs beside the site are starting [s]."""


def warm_later() -> None:
    """Starts a timer that loads the solver, the statistics, the pool of slow computations and the facts of each house's preps after WARM_AFTER_S, one after the
    other: each takes its turn with the requests, and four at once would leave them a fifth of the time. Called once in each process, since threads do not survive
    a fork.
    """
    timer = threading.Timer(WARM_AFTER_S, _warm)
    timer.daemon = True
    timer.start()


def _warm() -> None:
    # Not above: its models can be imported only once the application is set up.
    from ulsek.planning import facts

    for load in (warm, tasting.warm, computing.warm, facts.warm):
        load()
