from django.apps import AppConfig


class CitrusConfig(AppConfig):
    name = "ulsek.citrus"
