from django.apps import AppConfig


class SyncConfig(AppConfig):
    name = "ulsek.sync"
