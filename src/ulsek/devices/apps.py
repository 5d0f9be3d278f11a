from django.apps import AppConfig


class DevicesConfig(AppConfig):
    name = "ulsek.devices"

    def ready(self) -> None:
        from ulsek.team.sessions import switched

        from .actions.go_on_duty import stay_on_duty

        switched.connect(stay_on_duty)
