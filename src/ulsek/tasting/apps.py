from django.apps import AppConfig


class TastingConfig(AppConfig):
    name = "ulsek.tasting"
