"""Look back: what the log knows, and how it comes into the advice."""

from __future__ import annotations

from typing import Any

from django.apps import AppConfig


class LookbackConfig(AppConfig):
    name = "lookback"

    def ready(self) -> None:
        from advice.leaning import lean_by

        def lean_for(*given: Any) -> Any:
            # A command that only keeps the store loads no simulator.
            from lookback.alike import lean_for

            return lean_for(*given)

        lean_by(lean_for)
