"""Look back: what the log knows, and how it comes into the advice."""

from __future__ import annotations

from django.apps import AppConfig


class LookbackConfig(AppConfig):
    name = "lookback"

    def ready(self) -> None:
        from advice.leaning import lean_by
        from lookback.alike import lean_for

        lean_by(lean_for)
