"""URL patterns: the API, metrics, the service worker, the house's certificate, the operator's pages if they are on, and the application's page for any other path."""

from django.conf import settings
from django.urls import path, re_path

from .api import api
from .metrics import metrics
from .page import house_certificate, page, service_worker

handler500 = "ulsek.site.problems.on_fault"
operator_paths = []
if settings.HAS_ADMIN:
    from .operator import operator_site

    operator_paths = [path("operator/", operator_site().urls)]
urlpatterns = [
    path("api/", api.urls),
    path("metrics", metrics),
    path("sw.js", service_worker),
    path("house-certificate", house_certificate),
    *operator_paths,
    re_path(r"^(?!api/|static/)(?P<_path>.*)$", page),
]
