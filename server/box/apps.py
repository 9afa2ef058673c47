"""The box: a person who signs up is given a starter one."""

from __future__ import annotations

from typing import Any

from django.apps import AppConfig


class BoxConfig(AppConfig):
    name = "box"

    def ready(self) -> None:
        from accounts.signals import signed_up

        def stock(sender: object, *, user: Any, **_: object) -> None:
            # A command that only keeps the store loads no simulator.
            from box.services import give_starter_box

            give_starter_box(owner=user)

        signed_up.connect(stock, dispatch_uid="box.stock", weak=False)
