from django.apps import AppConfig


class BatchesConfig(AppConfig):
    name = "ulsek.batches"

    def ready(self) -> None:
        from . import signed_events  # noqa: F401 # adds its kind of signed action
