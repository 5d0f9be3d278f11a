from django.apps import AppConfig


class ArchivesConfig(AppConfig):
    name = "ulsek.archives"

    def ready(self) -> None:
        from . import jobs  # noqa: F401 # adds its kinds of jobs
