from django.apps import AppConfig


class SpecsConfig(AppConfig):
    name = "ulsek.specs"

    def ready(self) -> None:
        from . import export  # noqa: F401 # adds its kind of job, for the worker too
