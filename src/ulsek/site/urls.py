"""Addresses: the API, the figures for monitoring, and the page for everything else."""

from django.urls import path, re_path

from .api import api
from .metrics import metrics
from .page import house_certificate, page, service_worker

handler500 = "ulsek.site.problems.on_fault"
urlpatterns = [
    path("api/", api.urls),
    path("metrics", metrics),
    path("sw.js", service_worker),
    path("house-certificate", house_certificate),
    re_path(r"^(?!api/|static/)(?P<_path>.*)$", page),
]
