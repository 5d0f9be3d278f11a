from django.apps import AppConfig


class SpecsConfig(AppConfig):
    name = "ulsek.specs"
