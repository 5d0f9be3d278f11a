from django.apps import AppConfig


class SumsConfig(AppConfig):
    name = "ulsek.sums"
