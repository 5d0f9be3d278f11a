"""The WSGI entry that gunicorn serves."""

import gc
import os
import threading

from django.core.wsgi import get_wsgi_application

from ulsek import computing
from ulsek.planners.cut_plan import warm

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "ulsek.site.settings")
application = get_wsgi_application()
# Modules loaded by now are never freed: frozen, so that the collector does not scan them during a request.
gc.collect()
gc.freeze()
gc.set_threshold(20_000, 20, 20)
# The solver takes a second to load: in the background of the first requests.
threading.Thread(target=warm, daemon=True).start()
threading.Thread(target=computing.warm, daemon=True).start()
