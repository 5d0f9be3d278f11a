"""The WSGI entry that gunicorn serves."""

import gc
import os
import threading

from django.core.wsgi import get_wsgi_application

from ulsek import computing
from ulsek.planners import tasting
from ulsek.planners.cut_plan import warm

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ulsek.site.settings")
application = get_wsgi_application()
# Modules loaded by now are never freed: frozen, so that the collector does not scan them during a request.
gc.collect()
gc.freeze()
gc.set_threshold(20_000, 20, 20)
WARM_AFTER_S = 4.0
"""The solver, the processes of slow computations and the facts of a plan take seconds of every core to load: not while the programs beside the site are starting [s]."""


def warm_later() -> None:
    """Starts timers that load the solver, the statistics, the pool of slow computations and the facts of each house's preps after WARM_AFTER_S. Called once in each process, since
    threads do not survive a fork.
    """
    # Not above: its models can be imported only once the application is set up.
    from ulsek.planning import facts

    for load in (warm, tasting.warm, computing.warm, facts.warm):
        timer = threading.Timer(WARM_AFTER_S, load)
        timer.daemon = True
        timer.start()
