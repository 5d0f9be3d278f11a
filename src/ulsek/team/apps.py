from django.apps import AppConfig


class TeamConfig(AppConfig):
    name = "ulsek.team"
