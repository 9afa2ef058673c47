"""The log: it goes before its waters do when a person leaves for good."""

from __future__ import annotations

from typing import Any

from django.apps import AppConfig


class DaysConfig(AppConfig):
    name = "days"

    def ready(self) -> None:
        from accounts.signals import leaving
        from days.models import Day

        def clear(sender: object, *, user: Any, **_: object) -> None:
            Day.objects.filter(owner=user).delete()

        from lake.heard import heard_from

        from days.lake_readings import heard_in_log

        heard_from(heard_in_log)
        leaving.connect(clear, dispatch_uid="days.clear", weak=False)
