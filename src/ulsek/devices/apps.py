from django.apps import AppConfig


class DevicesConfig(AppConfig):
    name = "ulsek.devices"
