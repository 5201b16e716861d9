"""The demo as an app of Django: its command, and tonight's fish made fresh for whoever looks first."""

from __future__ import annotations

from typing import Any

from django.apps import AppConfig
from django.contrib.auth.signals import user_logged_in


class DemoConfig(AppConfig):
    name = "demo"

    def ready(self) -> None:
        user_logged_in.connect(_freshen, dispatch_uid="demo")


def _freshen(sender: Any, user: Any, **more: Any) -> None:
    from demo.fresh import freshen  # models are read after all apps are there
    from demo.people import PEOPLE

    if user.username in {username for username, *_ in PEOPLE}:
        freshen()
