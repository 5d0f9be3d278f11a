from django.apps import AppConfig


class BatchesConfig(AppConfig):
    name = "ulsek.batches"
